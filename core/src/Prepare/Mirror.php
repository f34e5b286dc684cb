<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;

/** Adds the mirror image, or takes its place. */
final class Mirror implements Step
{
    public static function label(): string
    {
        return 'Mirror';
    }

    public static function meaning(): string
    {
        return 'Turns it into its mirror image, or adds that beside it';
    }

    public static function options(): array
    {
        return [
            new Option('axis', 'Across', 'Direction in which left and right change places.', Choice::class, 'x', choices: ['x', 'y', 'z']),
            new Option('keep', 'Keep', 'The image alone, or both joined where they touch.', Choice::class, 'image', choices: ['image', 'both']),
            new Option('side', 'Mirror at', 'Where the mirror stands, for both.', Choice::class, 'low', choices: ['low', 'high']),
        ];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $axis = $values['axis'];
        $box = Aabb::around($mesh);
        $low = $box->centre()->{$axis} - 0.5 * $box->size()->{$axis};
        $high = $low + $box->size()->{$axis};
        $at = $values['keep'] === 'image' ? $low + $high : 2.0 * ($values['side'] === 'low' ? $low : $high);
        $flip = static fn (array $v): array => array_map(static fn (float $k): float => $at - $k, $v);
        $image = Thicken::turned(new Mesh(
            $axis === 'x' ? $flip($mesh->x) : $mesh->x,
            $axis === 'y' ? $flip($mesh->y) : $mesh->y,
            $axis === 'z' ? $flip($mesh->z) : $mesh->z,
            $mesh->faces,
        ));
        if ($values['keep'] === 'image') {
            return $image;
        }
        $both = Mesh::merged(new Mesh($mesh->x, $mesh->y, $mesh->z, $mesh->faces), $image);

        // Welded at the mirror, faces that lie in it meet their reverse and cancel.
        return DropDoubles::apply(Weld::apply(new Mesh($both->x, $both->y, $both->z, $both->faces), ['distance' => 0.0]), []);
    }
}
