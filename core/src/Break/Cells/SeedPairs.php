<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\SurfaceSampler;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;

/**
 * Seeds in pairs, one just within a closed surface and one just outside, so that the cells of the inner ones together
 * fill what it encloses. Where the pairs mirror each other — on flat parts, and on both sides of a sharp edge — the
 * walls between them lie in the surface itself; on curved parts they touch it (Amenta, Choi & Kolluri 2001, "The power
 * crust", use the like).
 */
final class SeedPairs
{
    /** Pairs of a ball. */
    private const BALL = 500;

    /** Pairs on a surface, about, as far as it is near. */
    private const PAIRS = 600;

    /** Random points tried for that many, and to find how much of the surface is near. */
    private const TRIES = 12000;

    private const SURVEY = 2000;

    /**
     * Of a fully torn surface: how far space is bent, as a share of the surface's least extent, and how far single pairs lie off, as a share of their
     * distance.
     */
    private const BENT = 0.035;

    private const LOOSE = 0.35;

    /** As shares of the distance between pairs: how far a seed lies off the surface, how near pairs may come, and how near those at an edge lie to it. */
    private const OFF = 0.15;

    private const NEAR = 0.6;

    private const EDGE = 0.25;

    /** Faces that enclose a sharper angle than this meet in an edge (cosine). */
    private const CREASE = 0.87;

    /** @var list<array{float, float, float}> */
    private array $seeds = [];

    /** @var list<bool> */
    private array $within = [];

    /** @var array<int, list<array{float, float, float}>> middles of pairs, by cell of a grid */
    private array $taken = [];

    private function __construct(private readonly float $apart, private readonly float $off, private readonly Aabb $near, private readonly \Closure $torn)
    {
    }

    /**
     * @param  float  $roughness  0 smooth … 1 torn
     * @return array{list<array{float, float, float}>, list<bool>} seeds, and which of them lie within
     */
    public static function ofBall(Vec3 $middle, float $radius, float $roughness, SeededRandom $random): array
    {
        $seeds = $within = [];
        for ($i = 0; $i < self::BALL; $i++) {
            // Even over the ball by the golden angle.
            $y = 1.0 - 2.0 * ($i + 0.5) / self::BALL;
            $a = M_PI * (3.0 - sqrt(5.0)) * $i;
            $d = new Vec3(sqrt(1.0 - $y * $y) * cos($a), $y, sqrt(1.0 - $y * $y) * sin($a));
            $far = $radius * (1.0 + 0.25 * $roughness * $random->between(-1.0, 1.0));
            foreach ([-1, 1] as $side) {
                $seeds[] = $middle->plus($d->times($far * (1.0 + 0.04 * $side)))->toArray();
                $within[] = $side < 0;
            }
        }

        return [$seeds, $within];
    }

    /**
     * @param  Mesh  $surface  closed, consistently oriented
     * @param  Aabb  $near  what the cells are to cut; no pairs are wasted elsewhere
     * @param  float  $roughness  0 smooth … 1 torn
     * @return array{list<array{float, float, float}>, list<bool>} seeds, and which of them lie within; none where the surface is not near
     */
    public static function ofSurface(Mesh $surface, Aabb $near, float $roughness, SeededRandom $random): array
    {
        $sampler = new SurfaceSampler($surface, $random);
        $hits = 0;
        for ($i = 0; $i < self::SURVEY; $i++) {
            $hits += self::isIn($near, $sampler->point()[0]) ? 1 : 0;
        }
        if ($hits === 0) {
            return [[], []];
        }
        $apart = sqrt($sampler->area() * $hits / self::SURVEY / self::PAIRS);
        $size = Aabb::around($surface)->size();
        $noise = new Noise($random);
        $reach = self::BENT * $roughness * min($size->x, $size->y, $size->z);
        $wave = 5.0 / max($size->x, $size->y, $size->z);
        $swing = static fn (float $x, float $y, float $z): float => $reach * ($noise->at($x * $wave, $y * $wave, $z * $wave) + 0.5 * $noise->at(
            2.3 * $x * $wave,
            2.3 * $y * $wave,
            2.3 * $z * $wave,
        ));
        // Space itself is bent, so that what lies on both sides of an edge stays apart.
        $torn = static fn (float $x, float $y, float $z): array => $reach > 0.0
            ? [$swing($x, $y, $z), $swing($y + 31.7, $z, $x), $swing($z + 67.1, $x, $y)]
            : [0.0, 0.0, 0.0];
        $margin = new Vec3(3.0 * $apart, 3.0 * $apart, 3.0 * $apart);
        $pairs = new self(
            $apart,
            min(self::OFF * $apart, 0.1 * min($size->x, $size->y, $size->z)),
            new Aabb($near->low->minus($margin), $near->high->plus($margin)),
            $torn,
        );
        $pairs->alongEdges($surface);
        for ($i = 0; $i < self::TRIES && count($pairs->seeds) < 3 * self::PAIRS; $i++) {
            [$p, $n] = $sampler->point();
            if (self::isIn($pairs->near, $p) && $pairs->isFree($p, self::NEAR)) {
                $pairs->take($p);
                $loose = self::LOOSE * $roughness * $apart * $random->between(-1.0, 1.0);
                $pairs->add([$p[0] + $loose * $n[0], $p[1] + $loose * $n[1], $p[2] + $loose * $n[2]], $n);
            }
        }

        return [$pairs->seeds, $pairs->within];
    }

    /** Two pairs at a time, one on either face at the same distance from the edge, so that they mirror each other. */
    private function alongEdges(Mesh $m): void
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($m);
        $normal = static fn (int $f): Vec3 => (new Vec3($nx[$f], $ny[$f], $nz[$f]))->unit();
        $slot = [];
        foreach ($m->faces as $i => $p) {
            $slot[$p << 31 | $m->faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = intdiv($i, 3);
        }
        foreach ($slot as $edge => $f) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $g = $slot[$q << 31 | $p] ?? -1;
            if ($p > $q || $g < 0 || $normal($f)->dot($normal($g)) > self::CREASE) {
                continue;
            }
            $from = new Vec3($m->x[$p], $m->y[$p], $m->z[$p]);
            $way = (new Vec3($m->x[$q], $m->y[$q], $m->z[$q]))->minus($from);
            $parts = max(1, (int) round($way->length() / (0.5 * $this->apart)));
            for ($k = 0; $k < $parts; $k++) {
                $at = $from->plus($way->times(($k + 0.5) / $parts));
                if (! self::isIn($this->near, $at->toArray()) || ! $this->isFree($at->toArray(), 0.4)) {
                    continue;
                }
                $this->take($at->toArray());
                // The way from the edge into each of its faces.
                foreach ([[$f, 1.0], [$g, -1.0]] as [$face, $sign]) {
                    $n = $normal($face);
                    $this->add($at->plus($n->cross($way->unit())->times($sign * self::EDGE * $this->apart))->toArray(), $n->toArray());
                }
            }
        }
    }

    /**
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $n
     */
    private function add(array $p, array $n): void
    {
        foreach ([-$this->off, $this->off] as $side) {
            [$x, $y, $z] = [$p[0] + $side * $n[0], $p[1] + $side * $n[1], $p[2] + $side * $n[2]];
            [$dx, $dy, $dz] = ($this->torn)($x, $y, $z);
            $this->seeds[] = [$x + $dx, $y + $dy, $z + $dz];
            $this->within[] = $side < 0.0;
        }
    }

    /** @param  array{float, float, float}  $p */
    private function take(array $p): void
    {
        $this->taken[$this->cell($p[0], $p[1], $p[2])][] = $p;
    }

    /** @param  array{float, float, float}  $p */
    private function isFree(array $p, float $share): bool
    {
        $least = ($share * $this->apart) ** 2;
        for ($i = -1; $i <= 1; $i++) {
            for ($j = -1; $j <= 1; $j++) {
                for ($k = -1; $k <= 1; $k++) {
                    foreach ($this->taken[$this->cell($p[0] + $i * $this->apart, $p[1] + $j * $this->apart, $p[2] + $k * $this->apart)] ?? [] as $q) {
                        if (($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2 < $least) {
                            return false;
                        }
                    }
                }
            }
        }

        return true;
    }

    private function cell(float $x, float $y, float $z): int
    {
        $low = $this->near->low;

        return Cell::of(($x - $low->x) / $this->apart, ($y - $low->y) / $this->apart, ($z - $low->z) / $this->apart);
    }

    /** @param  array{float, float, float}  $p */
    private static function isIn(Aabb $box, array $p): bool
    {
        return $p[0] >= $box->low->x
            && $p[0] <= $box->high->x
            && $p[1] >= $box->low->y
            && $p[1] <= $box->high->y
            && $p[2] >= $box->low->z
            && $p[2] <= $box->high->z;
    }
}
