<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One change of a shot's document, with the way back.
 *
 * @property int $id
 * @property string $label
 * @property string $patch RFC 6902
 * @property string $inverse RFC 6902
 * @property bool $undone
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
