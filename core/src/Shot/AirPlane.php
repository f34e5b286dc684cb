<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Force\Effect;

/** How the air goes, and what pulls, at the places of a level plane: what is drawn as arrows. */
final class AirPlane
{
    /** Places along each side. */
    private const SIDE = 15;

    /**
     * @param  array{float, float, float, float}  $over  metres, x from and to, z from and to
     * @return array{air: list<float>, pull: list<float>} six numbers a place: where it is, and m/s, or m/s²; empty where nothing moves the air, or pulls
     */
    public static function of(ShotSpec $shot, float $frame, float $height, array $over): array
    {
        $x = $y = $z = [];
        for ($i = 0; $i < self::SIDE; $i++) {
            for ($k = 0; $k < self::SIDE; $k++) {
                $x[] = $over[0] + ($over[1] - $over[0]) * $i / (self::SIDE - 1);
                $y[] = $height;
                $z[] = $over[2] + ($over[3] - $over[2]) * $k / (self::SIDE - 1);
            }
        }
        $effect = new Effect($x, $y, $z);
        foreach ($shot->forces as $force) {
            $force->on($effect, $shot->instant($frame));
        }

        return ['air' => self::arrows($effect, $effect->ux, $effect->uy, $effect->uz), 'pull' => self::arrows($effect, $effect->ax, $effect->ay, $effect->az)];
    }

    /**
     * @param  list<float>  $u
     * @param  list<float>  $v
     * @param  list<float>  $w
     * @return list<float>
     */
    private static function arrows(Effect $effect, array $u, array $v, array $w): array
    {
        $out = [];
        $any = false;
        foreach ($effect->x as $i => $x) {
            array_push($out, ...array_map(static fn (float $n): float => round($n, 4), [$x, $effect->y[$i], $effect->z[$i], $u[$i], $v[$i], $w[$i]]));
            $any = $any || $u[$i] !== 0.0 || $v[$i] !== 0.0 || $w[$i] !== 0.0;
        }

        return $any ? $out : [];
    }
}
