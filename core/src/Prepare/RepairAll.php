<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shape\Mend;

/** Every repair that is of use, in the order that makes each of use to the next. */
final class RepairAll implements Step
{
    public static function label(): string
    {
        return 'Repair';
    }

    public static function meaning(): string
    {
        return 'Makes a closed solid of it: joins points, drops doubles, turns faces, fills holes';
    }

    public static function options(): array
    {
        return [];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        return Mend::of($mesh)[0];
    }
}
