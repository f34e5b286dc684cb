<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;

/** A generator of simple props. Meshes stand on the ground plane, centred about the y axis. */
interface Shape
{
    public static function label(): string;

    /** @return list<Option> */
    public static function options(): array;

    /** @param  array<string, mixed>  $values by option name, already within range */
    public static function mesh(array $values): Mesh;
}
