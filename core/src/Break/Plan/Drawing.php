<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\ConstrainedTriangulation;
use YardBreak\Core\SeededRandom;

/** Lines drawn on a plan, every point shifted a little at random. */
final class Drawing
{
    public readonly ConstrainedTriangulation $map;

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
    }

    public function between(?int $a, ?int $b): void
    {
        if ($a !== null && $b !== null) {
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
