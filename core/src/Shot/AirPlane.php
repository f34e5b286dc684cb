<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\Obstacles;
use YardBreak\Core\Geometry\Vec3;

/** How the air goes, and what pulls, at the places of a level plane: what is drawn as arrows. */
final class AirPlane
{
    /** Places along each side. */
    private const SIDE = 15;

    /** Lines along each side, and steps of each to either end. */
    private const LINES = 5;

    private const LONG = 40;

    /** Share of the fastest below which a line ends. */
    private const CALM = 0.02;

    /**
     * @param  array{float, float, float, float}  $over  metres, x from and to, z from and to
     * @return array{air: list<float>, pull: list<float>} six numbers a place: where it is, and m/s, or m/s²; empty where nothing moves the air, or pulls
     */
    public static function of(ShotSpec $shot, float $frame, float $height, array $over, ?Obstacles $obstacles = null): array
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
            $force->on($effect, $shot->instant($frame, 0.0, $obstacles));
        }

        return ['air' => self::arrows($effect, $effect->ux, $effect->uy, $effect->uz), 'pull' => self::arrows($effect, $effect->ax, $effect->ay, $effect->az)];
    }

    /**
     * Lines that follow the air from places of the plane, both ways (midpoint rule, steps of like length).
     *
     * @param  array{float, float, float, float}  $over  metres, x from and to, z from and to
     * @return list<list<float>> four numbers a point: where it is, and m/s
     */
    public static function lines(ShotSpec $shot, float $frame, float $height, array $over): array
    {
        $step = 0.45 * max($over[1] - $over[0], $over[3] - $over[2]) / self::LONG;
        $seeds = [];
        for ($k = 0; $k < self::LINES * self::LINES; $k++) {
            $share = static fn (int $i): float => ($i + 0.5) / self::LINES;
            $seeds[] = new Vec3($over[0] + ($over[1] - $over[0]) * $share($k % self::LINES), $height, $over[2] + ($over[3] - $over[2]) * $share(intdiv($k, self::LINES)));
        }
        $air = static function (array $places) use ($shot, $frame): array {
            $effect = new Effect(array_column($places, 'x'), array_column($places, 'y'), array_column($places, 'z'));
            foreach ($shot->forces as $force) {
                $force->on($effect, $shot->instant($frame));
            }

            return array_map(static fn (float $u, float $v, float $w): Vec3 => new Vec3($u, $v, $w), $effect->ux, $effect->uy, $effect->uz);
        };
        $first = $air($seeds);
        $calm = self::CALM * max(array_map(static fn (Vec3 $v): float => $v->length(), $first));
        if ($calm <= 0.0) {
            return [];
        }
        $ways = [];
        foreach ([-1.0, 1.0] as $way) {
            $at = $seeds;
            $speed = $first;
            for ($n = 0; $n < self::LONG && $at !== []; $n++) {
                $half = array_map(static fn (Vec3 $p, Vec3 $v): Vec3 => $p->plus($v->times(0.5 * $way * $step / max(1e-12, $v->length()))), $at, $speed);
                $between = array_combine(array_keys($at), $air(array_values($half)));
                $at = array_combine(array_keys($at), array_map(static fn (Vec3 $p, Vec3 $v): Vec3 => $p->plus($v->times($way * $step / max(1e-12, $v->length()))), $at, $between));
                $speed = array_combine(array_keys($at), $air(array_values($at)));
                foreach ($at as $k => $p) {
                    if ($speed[$k]->length() < $calm) {
                        unset($at[$k], $speed[$k]);

                        continue;
                    }
                    $ways[$k][$way < 0.0 ? 0 : 1][] = [$p->x, $p->y, $p->z, $speed[$k]->length()];
                }
            }
        }
        $out = [];
        foreach ($seeds as $k => $seed) {
            if ($first[$k]->length() >= $calm) {
                $line = [...array_reverse($ways[$k][0] ?? []), [$seed->x, $seed->y, $seed->z, $first[$k]->length()], ...$ways[$k][1] ?? []];
                $out[] = array_map(static fn (float $v): float => round($v, 4), array_merge(...$line));
            }
        }

        return $out;
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
