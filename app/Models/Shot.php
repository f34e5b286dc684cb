<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Support\Carbon;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\ShotValue;

/**
 * @property string $id
 * @property string $name
 * @property string $document JSON
 * @property int $revision
 * @property string $folder where in the yard it lies; empty for none
 * @property list<string> $tags
 * @property string|null $opened_at when somebody last opened it
 * @property string|null $begun_picture JPEG of it before all edits
 * @property string|null $picture_of what its picture in the list was drawn of
 * @property Carbon $created_at
 * @property Carbon $updated_at
 * @property Carbon|null $deleted_at
 */
final class Shot extends Model
{
    use HasUlids;
    use SoftDeletes;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['tags' => 'array'];
    }

    /** @return HasMany<Edit, $this> */
    public function edits(): HasMany
    {
        return $this->hasMany(Edit::class);
    }

    /** @return HasMany<Bake, $this> */
    public function bakes(): HasMany
    {
        return $this->hasMany(Bake::class);
    }

    /** @return HasMany<Trial, $this> */
    public function trials(): HasMany
    {
        return $this->hasMany(Trial::class);
    }

    public function latestBake(): ?Bake
    {
        return $this->bakes()->where('own', true)->latest('wanted_at')->latest('id')->first();
    }

    public function decoded(): \stdClass
    {
        $document = json_decode($this->document, false, 64, JSON_THROW_ON_ERROR);
        assert($document instanceof \stdClass);

        return $document;
    }

    /** @return list<ShotValue> */
    public function values(): array
    {
        return ShotValue::all(json_decode($this->document, true, ShotSpec::DEEPEST, JSON_THROW_ON_ERROR));
    }

    public function spec(): ShotSpec
    {
        return ShotSpec::ofKept($this->document);
    }
}
