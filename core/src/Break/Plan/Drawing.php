<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\ConstrainedTriangulation;
use YardBreak\Core\SeededRandom;

/** Lines drawn on a plan, every point shifted a little at random. */
final class Drawing
{
    public readonly ConstrainedTriangulation $map;

    /** @var list<array{int, int, int}> two points of the map, and the number of the line that runs between them */
    private array $drawn = [];

    private int $lines = 0;

    public function __construct(private readonly SeededRandom $random, private readonly float $jitter)
    {
        $e = PlanCut::EXTENT;
        // Out of square, or its diagonal would run through the edges of square props.
        $this->map = new ConstrainedTriangulation(-1.013 * $e, -1.037 * $e, 1.023 * $e, 1.071 * $e);
    }

    /** @return int|null the point's number; null beyond the plan */
    public function point(float $u, float $v): ?int
    {
        $e = 0.99 * PlanCut::EXTENT;
        if ($u < -$e || $u > $e || $v < -$e || $v > $e) {
            return null;
        }

        return $this->map->point($u + $this->jitter * $this->random->between(-1.0, 1.0), $v + $this->jitter * $this->random->between(-1.0, 1.0));
    }

    /** @param  list<array{float, float}>  $points  a chain of straight lines; what leaves the plan is cut off at its edge */
    public function line(array $points, bool $closed = false): void
    {
        if ($closed) {
            $points[] = $points[0];
        }
        for ($i = 0, $n = count($points) - 1; $i < $n; $i++) {
            $part = self::clipped($points[$i], $points[$i + 1]);
            if ($part !== null) {
                $this->between($this->point(...$part[0]), $this->point(...$part[1]));
            }
        }
        $this->lines++;
    }

    /** @return array<int, int> by edge of the map, its lower point first: the first line that runs along it */
    public function lineOfEdge(): array
    {
        $map = $this->map;
        $ways = [];
        foreach ($map->fixed as $slot => $fixed) {
            if ($fixed) {
                $p = $map->corner[$slot];
                $q = $map->corner[$slot % 3 === 2 ? $slot - 2 : $slot + 1];
                $ways[$p][$q] = $ways[$q][$p] = true;
            }
        }
        $out = [];
        foreach ($this->drawn as [$a, $b, $line]) {
            // A line is a chain of edges; each next one is that which turns least away from its end.
            for ($p = $a, $steps = 0; $p !== $b && $steps < 10000; $steps++) {
                $best = -1;
                $most = 0.0;
                foreach ($ways[$p] ?? [] as $q => $_) {
                    $turn = $q === $b ? 2.0 : self::along($map, $p, $q, $b);
                    if ($turn > $most) {
                        $most = $turn;
                        $best = $q;
                    }
                }
                if ($best < 0) {
                    break;
                }
                $out[min($p, $best) << 31 | max($p, $best)] ??= $line;
                $p = $best;
            }
        }

        return $out;
    }

    /** Cosine of the angle between the way to a point and the way to the end. */
    private static function along(ConstrainedTriangulation $map, int $p, int $q, int $end): float
    {
        $au = $map->u[$q] - $map->u[$p];
        $av = $map->v[$q] - $map->v[$p];
        $bu = $map->u[$end] - $map->u[$p];
        $bv = $map->v[$end] - $map->v[$p];

        return ($au * $bu + $av * $bv) / max(1e-300, hypot($au, $av) * hypot($bu, $bv));
    }

    public function between(?int $a, ?int $b): void
    {
        if ($a !== null && $b !== null) {
            $this->drawn[] = [$a, $b, $this->lines];
            $this->map->segment($a, $b);
        }
    }

    /**
     * The part of a line within the plan (Liang & Barsky 1984).
     *
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     * @return array{array{float, float}, array{float, float}}|null
     */
    private static function clipped(array $a, array $b): ?array
    {
        $e = 0.98 * PlanCut::EXTENT;
        $from = 0.0;
        $to = 1.0;
        foreach ([0, 1] as $axis) {
            $d = $b[$axis] - $a[$axis];
            foreach ([[-$d, $a[$axis] + $e], [$d, $e - $a[$axis]]] as [$p, $q]) {
                if ($p === 0.0) {
                    if ($q < 0.0) {
                        return null;
                    }
                } elseif ($p < 0.0) {
                    $from = max($from, $q / $p);
                } else {
                    $to = min($to, $q / $p);
                }
            }
        }
        $at = static fn (float $t): array => [$a[0] + $t * ($b[0] - $a[0]), $a[1] + $t * ($b[1] - $a[1])];

        return $from < $to ? [$at($from), $at($to)] : null;
    }
}
