<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * One way in which a trial has its shot: a patch on it, and the bake of that.
 *
 * @property int $id
 * @property string $trial_id
 * @property-read Trial $trial
 * @property int $number from 0
 * @property string $words
 * @property string $patch RFC 6902, on the trial's document
 * @property string|null $bake_id
 * @property-read Bake|null $bake
 * @property array<string, string>|null $problem why it cannot be baked
 * @property string|null $seen_at when somebody last looked at it
 */
final class Variant extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['problem' => 'array'];
    }

    /** @return BelongsTo<Trial, $this> */
    public function trial(): BelongsTo
    {
        return $this->belongsTo(Trial::class);
    }

    /** @return BelongsTo<Bake, $this> */
    public function bake(): BelongsTo
    {
        return $this->belongsTo(Bake::class);
    }
}
