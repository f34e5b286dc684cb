<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** The place of the ground nearest to a point. */
final readonly class GroundPlace
{
    private const MOST_STEPS = 40;

    /**
     * @param  float  $distance  metres; below zero under the ground
     * @param  float  $nx  upward normal there
     */
    public function __construct(public float $distance, public float $nx, public float $ny, public float $nz)
    {
    }

    /**
     * By the foot on the tangent plane, again and again, half way where that leads farther off: near enough to the ground, nearer
     * than it is bent, that ends at the nearest place.
     */
    public static function nearest(Ground $ground, float $x, float $y, float $z): self
    {
        $fx = $x;
        $fz = $z;
        $best = INF;
        $step = 1.0;
        [$bx, $bz] = [$fx, $fz];
        for ($k = 0; $k < self::MOST_STEPS; $k++) {
            $h = $ground->height($fx, $fz);
            $d = ($x - $fx) ** 2 + ($y - $h) ** 2 + ($z - $fz) ** 2;
            if ($d < $best) {
                $best = $d;
                [$bx, $bz] = [$fx, $fz];
            } else {
                $step *= 0.5;
                if ($step < 1e-3) {
                    break;
                }
            }
            $h = $ground->height($bx, $bz);
            [$sx, $sz] = $ground->slope($bx, $bz);
            // The foot of the point on the plane that touches the ground there.
            $off = ($y - $h - $sx * ($x - $bx) - $sz * ($z - $bz)) / (1.0 + $sx * $sx + $sz * $sz);
            $dx = $x + $sx * $off - $bx;
            $dz = $z + $sz * $off - $bz;
            if ($dx * $dx + $dz * $dz < 1e-18) {
                break;
            }
            $fx = $bx + $step * $dx;
            $fz = $bz + $step * $dz;
        }
        $h = $ground->height($bx, $bz);
        [$sx, $sz] = $ground->slope($bx, $bz);
        $l = sqrt(1.0 + $sx * $sx + $sz * $sz);
        $side = $y < $ground->height($x, $z) ? -1.0 : 1.0;

        return new self($side * sqrt(($x - $bx) ** 2 + ($y - $h) ** 2 + ($z - $bz) ** 2), -$sx / $l, 1.0 / $l, -$sz / $l);
    }
}
