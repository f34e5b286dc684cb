<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Concerns\HasUlids;
use Illuminate\Database\Eloquent\Model;

/**
 * What was set on one bench of a prop, kept to be laid on others.
 *
 * @property string $id
 * @property string $bench one of `Presets::BENCHES`
 * @property string $name
 * @property int $version of the documents it fits
 * @property string $prop JSON: the members of a prop that it sets, with its id, its name, and the maps they go by
 */
final class Preset extends Model
{
    use HasUlids;

    protected $guarded = [];
}
