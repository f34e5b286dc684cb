<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shape\Repair;

final class Fill implements Step
{
    public static function label(): string
    {
        return 'Fill holes';
    }

    public static function meaning(): string
    {
        return 'Closes open borders';
    }

    public static function options(): array
    {
        return [];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        return Repair::fill($mesh);
    }
}
