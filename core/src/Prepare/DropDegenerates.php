<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shape\Repair;

final class DropDegenerates implements Step
{
    public static function label(): string
    {
        return 'Drop empty faces';
    }

    public static function meaning(): string
    {
        return 'Takes out faces without area';
    }

    public static function options(): array
    {
        return [];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        return Repair::dropDegenerates($mesh);
    }
}
