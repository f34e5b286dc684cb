<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Chip;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/** The shape of a chip: convex, about its centre of mass, its largest extent 1. */
final readonly class ChipShape
{
    /** Share of the size by which a place may lie outside a face and still count as on it. */
    private const ON = 1e-3;

    /** Least height to rise by that is counted: what hardly stands would roll for ever. */
    private const LEAST_TIP = 0.03;

    /**
     * @param  list<float>  $x  corners
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $volume  of one of size 1, m³
     * @param  array{float, float, float, float, float, float}  $inverse  inverse inertia over its mass at size 1: xx, yy, zz, xy, yz, zx, 1/m²
     * @param  list<array{float, float, float, float}>  $rests  faces it can lie on: outward normal, and how far they are from its middle
     * @param  float  $tips  the least height its middle must rise by to tip over an edge from any of them, or a small share of the size
     */
    private function __construct(public array $x, public array $y, public array $z, public float $volume, public array $inverse, public array $rests, public float $tips)
    {
    }

    /** The convex hull of a solid. */
    public static function of(Mesh $mesh): self
    {
        $mass = MassProperties::of($mesh);
        $size = max(1e-9, max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z));
        $scaled = self::scaled($mesh);
        $hull = Hull::near($scaled->x, $scaled->y, $scaled->z);
        $volume = abs($mass->volume) / $size ** 3;

        return new self($hull->x, $hull->y, $hull->z, $volume, self::inverted(array_map(static fn (float $i): float => abs($mass->volume) > 0.0 ? $i / $mass->volume / $size ** 2 : 0.1, $mass->inertia)), ...self::rests($hull));
    }

    /** A mesh about its centre of mass, its largest extent 1. */
    public static function scaled(Mesh $mesh): Mesh
    {
        $middle = MassProperties::of($mesh)->centroid;
        $size = max(1e-9, max($mesh->x) - min($mesh->x), max($mesh->y) - min($mesh->y), max($mesh->z) - min($mesh->z));
        $about = static fn (array $values, float $at): array => array_map(static fn (float $v): float => ($v - $at) / $size, $values);

        return new Mesh($about($mesh->x, $middle->x), $about($mesh->y, $middle->y), $about($mesh->z, $middle->z), $mesh->faces);
    }

    /** @return array{list<array{float, float, float, float}>, float} */
    private static function rests(Hull $hull): array
    {
        $planes = $out = [];
        foreach ($hull->normals as $f => [$a, $b, $c]) {
            $p = $hull->faces[$f][0];
            $planes[] = [$a, $b, $c, $a * $hull->x[$p] + $b * $hull->y[$p] + $c * $hull->z[$p]];
        }
        $tips = INF;
        foreach ($planes as $f => [$a, $b, $c, $d]) {
            // It stands on a face below which its middle is: the foot of the plumb line lies behind every other.
            $inside = array_filter($planes, static fn (array $q): bool => $d * ($q[0] * $a + $q[1] * $b + $q[2] * $c) > $q[3] + self::ON);
            if ($inside !== []) {
                continue;
            }
            $out[] = [$a, $b, $c, $d];
            $loop = $hull->faces[$f];
            foreach ($loop as $k => $p) {
                // Over an edge it rises to the distance of that from its middle.
                $q = $loop[($k + 1) % count($loop)];
                $one = new Vec3($hull->x[$p], $hull->y[$p], $hull->z[$p]);
                $way = (new Vec3($hull->x[$q], $hull->y[$q], $hull->z[$q]))->minus($one);
                $tips = min($tips, $one->cross($way)->length() / max(1e-12, $way->length()) - $d);
            }
        }

        return [$out, max(self::LEAST_TIP, $tips)];
    }

    /**
     * @param  array<int, float>  $i
     * @return array{float, float, float, float, float, float}
     */
    private static function inverted(array $i): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = array_values($i);
        $a = $yy * $zz - $yz * $yz;
        $b = $yz * $zx - $xy * $zz;
        $c = $xy * $yz - $yy * $zx;
        $det = $xx * $a + $xy * $b + $zx * $c;
        if ($det <= 0.0) {
            return [10.0, 10.0, 10.0, 0.0, 0.0, 0.0];
        }

        return [$a / $det, ($xx * $zz - $zx * $zx) / $det, ($xx * $yy - $xy * $xy) / $det, $b / $det, ($xy * $zx - $xx * $yz) / $det, $c / $det];
    }
}
