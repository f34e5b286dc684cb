<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;

/**
 * A shot in variants, baked to be compared.
 *
 * @property string $id
 * @property string $shot_id
 * @property-read Shot $shot
 * @property string $name
 * @property string $document the shot as it was when the trial began
 * @property list<array{path: string, values: string, label: string, words: list<string>}> $axes
 * @property Carbon $created_at
 */
final class Trial extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['axes' => 'array'];
    }

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    /** @return HasMany<Variant, $this> */
    public function variants(): HasMany
    {
        return $this->hasMany(Variant::class);
    }
}
