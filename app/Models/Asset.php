<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A mesh file somebody brought in, kept by the hash of its content.
 *
 * @property string $hash
 * @property string $name
 * @property int $bytes
 */
final class Asset extends Model
{
    protected $primaryKey = 'hash';

    protected $keyType = 'string';

    public $incrementing = false;

    protected $guarded = [];
}
