<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Number;
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
        return [new Option('distance', 'Thickness', 'Inwards; outwards with a minus.', Number::class, 0.005, -100, 100, 'm', share: 0.01)];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $d = (float) $values['distance'];
        if ($d === 0.0) {
            throw Problem::inValue('distance', 'A thickness of nothing makes no plate.', 'Give it a thickness.');
        }
        $out = self::plate($mesh, [$mesh->x, $mesh->y, $mesh->z], Push::pushed($mesh, -$d));

        // Outwards, what was the outside is now the inside.
        return $d > 0.0 ? $out : self::turned($out);
    }

    /**
     * A surface and its like with the points elsewhere, joined along their borders to one closed skin.
     *
     * @param  array{list<float>, list<float>, list<float>}  $outer  points of the one
     * @param  array{list<float>, list<float>, list<float>}  $inner  points of the other, which looks the other way
     */
    public static function plate(Mesh $mesh, array $outer, array $inner): Mesh
    {
        $n = $mesh->vertexCount();
        $faces = $mesh->faces;
        $uvs = $mesh->uvs;
        $edges = [];
        for ($i = 0, $m = count($faces); $i < $m; $i++) {
            $edges[$faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = true;
        }
        for ($i = 0, $m = count($mesh->faces); $i < $m; $i += 3) {
            array_push($faces, $mesh->faces[$i] + $n, $mesh->faces[$i + 2] + $n, $mesh->faces[$i + 1] + $n);
            if ($mesh->uvs !== null) {
                [$a, $b, $c, $d, $e, $f] = array_slice($mesh->uvs, 2 * $i, 6);
                array_push($uvs, $a, $b, $e, $f, $c, $d);
            }
        }
        foreach ($edges as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            if (! isset($edges[$q << 31 | $p])) {
                array_push($faces, $p, $p + $n, $q + $n, $p, $q + $n, $q);
            }
        }
        [$x, $y, $z] = [[...$outer[0], ...$inner[0]], [...$outer[1], ...$inner[1]], [...$outer[2], ...$inner[2]]];
        for ($i = 2 * count($mesh->faces), $m = count($faces); $uvs !== null && $i < $m; $i += 3) {
            array_push($uvs, ...BoxProjection::face($x, $y, $z, $faces[$i], $faces[$i + 1], $faces[$i + 2]));
        }

        return new Mesh($x, $y, $z, $faces, uvs: $uvs);
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
