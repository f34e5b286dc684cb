<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Shape\Repair;

final class Weld implements Step
{
    public static function label(): string
    {
        return 'Weld';
    }

    public static function meaning(): string
    {
        return 'Joins points that lie in one place';
    }

    public static function options(): array
    {
        return [new Option('distance', 'Distance', 'Points nearer than this are one; 0 takes a millionth of the size.', Number::class, 0.0, 0, 100, 'm')];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        return Repair::weld($mesh, $values['distance'] > 0.0 ? $values['distance'] / max(1e-12, ...Aabb::around($mesh)->size()->toArray()) : 1e-6);
    }
}
