<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * What things of a material begin as in this yard, where that is not as it is given.
 *
 * @property string $name of the material, as documents have it
 * @property string $material JSON: members of a prop's material, without its name
 */
final class UsualMaterial extends Model
{
    protected $primaryKey = 'name';

    protected $keyType = 'string';

    public $incrementing = false;

    protected $guarded = [];
}
