<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shape\Repair;

final class Orient implements Step
{
    public static function label(): string
    {
        return 'Orient';
    }

    public static function meaning(): string
    {
        return 'Turns all faces outwards';
    }

    public static function options(): array
    {
        return [];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        return Repair::orient($mesh);
    }
}
