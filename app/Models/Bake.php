<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use YardBreak\Core\Shot\ShotSpec;

/**
 * @property string $id
 * @property string $shot_id
 * @property string $document the shot as it was when the bake began
 * @property array<string, string> $parts what the bake depends on, hashed part by part
 * @property string $fingerprint
 * @property 'queued'|'running'|'done'|'cancelled'|'failed' $state
 * @property int $attempt raised by every worker that takes the bake up
 * @property int $first
 * @property int $last
 * @property int $frames_done
 * @property int $pieces
 * @property float $seconds
 * @property int|null $telling the frame that shows best what happens, once all are there
 * @property string $note
 * @property array<string, string>|null $problem
 * @property Carbon $updated_at
 * @property Carbon $created_at
 */
final class Bake extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['parts' => 'array', 'problem' => 'array', 'seconds' => 'float'];
    }

    /** @return BelongsTo<Shot, $this> */
    public function shot(): BelongsTo
    {
        return $this->belongsTo(Shot::class);
    }

    /** @return HasMany<HandOff, $this> */
    public function handOffs(): HasMany
    {
        return $this->hasMany(HandOff::class);
    }

    public function spec(): ShotSpec
    {
        return ShotSpec::ofKept($this->document);
    }

    public function isOpen(): bool
    {
        return $this->state === 'queued' || $this->state === 'running';
    }
}
