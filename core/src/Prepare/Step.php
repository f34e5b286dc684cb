<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** One thing done to a prop's mesh before it is broken or moved. */
interface Step
{
    public static function label(): string;

    /** What it does, in a few words. */
    public static function meaning(): string;

    /** @return list<Option> */
    public static function options(): array;

    /**
     * @param  array<string, mixed>  $values  by option name, already checked
     * @return Mesh with normals only where they still hold
     *
     * @throws Problem where it cannot be done
     */
    public static function apply(Mesh $mesh, array $values): Mesh;
}
