<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * One change of a shot's document, with the way back.
 *
 * @property int $id
 * @property string $label
 * @property string $patch RFC 6902
 * @property string $inverse RFC 6902
 * @property bool $undone
 * @property string $name what the shot was called after it; empty for none
 * @property string|null $picture JPEG of the shot right after it
 * @property Carbon $created_at
 */
final class Edit extends Model
{
    protected $guarded = [];

    /** @return array<string, string> */
    protected function casts(): array
    {
        return ['undone' => 'boolean'];
    }
}
