<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** Uneven ground as a surface to look at: rings about a middle, close together there and wide apart far off. */
final class GroundSheet
{
    public const RINGS = 200;

    public const SECTORS = 256;

    /** How much closer rings lie at the middle. */
    private const CLOSER = 3.0;

    /**
     * @param  float  $radius  metres, of the outermost ring
     * @return list<float> x, y and z of the middle, then of each place, ring by ring from the middle
     */
    public static function of(Ground $ground, float $x, float $z, float $radius): array
    {
        $out = [$x, $ground->height($x, $z), $z];
        for ($ring = 1; $ring <= self::RINGS; $ring++) {
            $r = $radius * ($ring / self::RINGS) ** self::CLOSER;
            for ($k = 0; $k < self::SECTORS; $k++) {
                $angle = 2.0 * M_PI * $k / self::SECTORS;
                $u = $x + $r * cos($angle);
                $v = $z - $r * sin($angle);
                array_push($out, $u, $ground->height($u, $v), $v);
            }
        }

        return $out;
    }
}
