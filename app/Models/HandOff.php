<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * @property string $id
 * @property string $bake_id
 * @property string $format
 * @property 'queued'|'done'|'failed' $state
 * @property int $frames how many there were when it was asked for
 * @property float $share done, 0…1
 * @property string|null $file
 * @property int $bytes
 * @property array<string, string>|null $problem
 * @property Carbon $created_at
 * @property Bake $bake
 */
final class HandOff extends Model
{
    use HasUlids;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['problem' => 'array'];
    }

    /** @return BelongsTo<Bake, $this> */
    public function bake(): BelongsTo
    {
        return $this->belongsTo(Bake::class);
    }
}
