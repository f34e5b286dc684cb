<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Vec3;

/** How far balls that pieces collide as overlap where the pieces begin. */
final class ContactBalls
{
    /**
     * @param  list<Vec3>  $middles  m
     * @param  list<float>  $radii  m
     * @param  list<float>  $sizes  m, the largest extents of the pieces
     * @return array{pairs: int, fits: float} pairs that overlap, and the largest share of their sizes at which none would
     */
    public static function overlaps(array $middles, array $radii, array $sizes): array
    {
        $order = array_keys($middles);
        usort($order, static fn (int $a, int $b): int => $middles[$a]->x <=> $middles[$b]->x);
        $widest = max([0.0, ...$radii]);
        $largest = max([0.0, ...$sizes]);
        $pairs = 0;
        $fits = INF;
        foreach ($order as $k => $i) {
            for ($m = $k + 1, $n = count($order); $m < $n; $m++) {
                $j = $order[$m];
                $apart = $middles[$j]->x - $middles[$i]->x;
                if ($apart > $radii[$i] + $widest && $apart > 0.5 * min(2.0, $fits) * ($sizes[$i] + $largest)) {
                    break;
                }
                $far = $middles[$j]->minus($middles[$i])->length();
                $pairs += $far < $radii[$i] + $radii[$j] ? 1 : 0;
                $fits = min($fits, 2.0 * $far / max(1e-30, $sizes[$i] + $sizes[$j]));
            }
        }

        return ['pairs' => $pairs, 'fits' => $fits];
    }
}
