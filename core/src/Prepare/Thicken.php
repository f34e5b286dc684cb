<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Gives a surface a thickness inwards: an open sheet becomes a plate, a closed one a hollow shell. */
final class Thicken implements Step
{
    public static function label(): string
    {
        return 'Thicken';
    }

    public static function meaning(): string
    {
        return 'Makes an open sheet a plate, a solid a hollow shell';
    }

    public static function options(): array
    {
        return [new Option('distance', 'Thickness', 'Inwards; outwards with a minus.', 'number', 0.005, -100, 100, 'm')];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $d = (float) $values['distance'];
        if ($d === 0.0) {
            throw Problem::inValue('distance', 'A thickness of nothing makes no plate.', 'Give it a thickness.');
        }
        [$x, $y, $z] = Push::pushed($mesh, -$d);
        $n = $mesh->vertexCount();
        $faces = $mesh->faces;
        $edges = [];
        for ($i = 0, $m = count($faces); $i < $m; $i++) {
            $edges[$faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = true;
        }
        for ($i = 0, $m = count($mesh->faces); $i < $m; $i += 3) {
            array_push($faces, $mesh->faces[$i] + $n, $mesh->faces[$i + 2] + $n, $mesh->faces[$i + 1] + $n);
        }
        foreach ($edges as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            if (! isset($edges[$q << 31 | $p])) {
                array_push($faces, $p, $p + $n, $q + $n, $p, $q + $n, $q);
            }
        }
        $out = new Mesh([...$mesh->x, ...$x], [...$mesh->y, ...$y], [...$mesh->z, ...$z], $faces);

        // Outwards, what was the outside is now the inside.
        return $d > 0.0 ? $out : self::turned($out);
    }

    public static function turned(Mesh $mesh): Mesh
    {
        $faces = $mesh->faces;
        for ($i = 0, $m = count($faces); $i < $m; $i += 3) {
            [$faces[$i + 1], $faces[$i + 2]] = [$faces[$i + 2], $faces[$i + 1]];
        }

        return new Mesh($mesh->x, $mesh->y, $mesh->z, $faces);
    }
}
