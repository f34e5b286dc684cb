<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;

/**
 * Grains of one prop, one packed array a quantity.
 *
 * Each is a ball that air drags: from Stokes to Newton by Schiller & Naumann 1933, C_d = 24/Re (1 + 0.15 Re^0.687), at the speed
 * at which it starts a step; with that, its way over the step is exact, however long the step is.
 */
final class Grains
{
    use Specks;

    /** Pa·s, of air at 15 °C (ISO 2533:1975). */
    public const VISCOSITY = 1.789e-5;

    /** As of `Specks`. */
    private const REALS = ['x', 'y', 'z', 'vx', 'vy', 'vz', 'size', 'age', 'life'];

    /** 1/s at which a ball so large, m, and dense, kg/m³, comes to the speed of air that passes it so fast, m/s. */
    public static function slowing(float $size, float $density, float $fast, float $air): float
    {
        return 18.0 * self::VISCOSITY / ($density * $size * $size) * (1.0 + 0.15 * ($air / self::VISCOSITY * $size * $fast) ** 0.687);
    }

    /** @param  float  $ahead  s that it was born before the moment reached: so much farther it is after its first step */
    public function add(Vec3 $at, Vec3 $velocity, float $size, float $life, int $of, float $ahead): void
    {
        $this->x[] = $at->x;
        $this->y[] = $at->y;
        $this->z[] = $at->z;
        $this->vx[] = $velocity->x;
        $this->vy[] = $velocity->y;
        $this->vz[] = $velocity->z;
        $this->size[] = $size;
        $this->age[] = -$ahead;
        $this->life[] = $life;
        $this->of[] = $of;
        $this->lies[] = 0;
    }

    /**
     * Moves on freely.
     *
     * @param  float  $span  s
     * @param  list<float>  $ux  m/s of the air at each
     * @param  list<float>  $uy
     * @param  list<float>  $uz
     * @param  list<float>|null  $ax  m/s² beside gravity; null for none
     * @param  list<float>|null  $ay
     * @param  list<float>|null  $az
     * @param  list<float>  $density  kg/m³, by number of the dust
     * @param  float  $air  kg/m³
     */
    public function move(float $span, array $ux, array $uy, array $uz, ?array $ax, ?array $ay, ?array $az, Vec3 $gravity, array $density, float $air, float $slowing): void
    {
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $vx = $this->vx;
        $vy = $this->vy;
        $vz = $this->vz;
        $age = $this->age;
        $this->x = $this->y = $this->z = $this->vx = $this->vy = $this->vz = $this->age = [];
        $size = $this->size;
        $of = $this->of;
        $lies = $this->lies;
        $sinks = $drags = [];
        foreach ($density as $d) {
            $sinks[] = 1.0 - $air / $d;
            $drags[] = 18.0 * self::VISCOSITY / $d;
        }
        $gx = $gravity->x;
        $gy = $gravity->y;
        $gz = $gravity->z;
        $reynolds = $air / self::VISCOSITY;
        $n = count($x);
        for ($i = 0; $i < $n; $i++) {
            $h = $age[$i] < 0.0 ? $span - $age[$i] : $span;
            $age[$i] = $age[$i] < 0.0 ? $h : $age[$i] + $h;
            if ($lies[$i] === 1) {
                continue;
            }
            $d = $size[$i];
            $o = $of[$i];
            $wx = $vx[$i] - $ux[$i];
            $wy = $vy[$i] - $uy[$i];
            $wz = $vz[$i] - $uz[$i];
            $k = $drags[$o] / ($d * $d);
            $re = $reynolds * $d * sqrt($wx * $wx + $wy * $wy + $wz * $wz);
            if ($re > 0.05) {
                $k *= 1.0 + 0.15 * $re ** 0.687;
            }
            $k += $slowing;
            $e = exp(-$k * $h);
            // Where it would settle at: the air's speed, and what gravity adds to it against drag.
            $s = $sinks[$o] / $k;
            $tx = $ux[$i] + $s * $gx;
            $ty = $uy[$i] + $s * $gy;
            $tz = $uz[$i] + $s * $gz;
            if ($ax !== null) {
                $tx += $ax[$i] / $k;
                $ty += $ay[$i] / $k;
                $tz += $az[$i] / $k;
            }
            $left = (1.0 - $e) / $k;
            $dx = $vx[$i] - $tx;
            $dy = $vy[$i] - $ty;
            $dz = $vz[$i] - $tz;
            $x[$i] += $tx * $h + $dx * $left;
            $y[$i] += $ty * $h + $dy * $left;
            $z[$i] += $tz * $h + $dz * $left;
            $vx[$i] = $tx + $dx * $e;
            $vy[$i] = $ty + $dy * $e;
            $vz[$i] = $tz + $dz * $e;
        }
        $this->x = $x;
        $this->y = $y;
        $this->z = $z;
        $this->vx = $vx;
        $this->vy = $vy;
        $this->vz = $vz;
        $this->age = $age;
    }

    /**
     * What lies is taken up again by air that drags harder than friction holds.
     *
     * @param  list<float>  $ux  m/s of the air at each
     * @param  list<float>  $uy
     * @param  list<float>  $uz
     * @param  list<float>  $density  kg/m³, by number of the dust
     * @param  float  $weight  m/s²
     */
    public function lift(array $ux, array $uy, array $uz, array $density, float $air, float $weight, float $friction): void
    {
        foreach ($this->lies as $i => $lies) {
            if ($lies === 1) {
                $u = sqrt($ux[$i] ** 2 + $uy[$i] ** 2 + $uz[$i] ** 2);
                if (self::slowing($this->size[$i], $density[$this->of[$i]], $u, $air) * $u > $friction * $weight) {
                    $this->lies[$i] = 0;
                }
            }
        }
    }

    /**
     * What has come below the ground lies on it, bounces or slides.
     *
     * @param  list<Grain>  $grains  by number of the dust
     */
    public function land(Ground $ground, array $grains, float $friction, float $fall): void
    {
        $flat = $ground->isFlat();
        $meets = array_map(static fn (Grain $g): bool => $g->meets !== 'nothing', $grains);
        foreach ($this->y as $i => $y) {
            $o = $this->of[$i];
            if ($this->lies[$i] === 1 || ! $meets[$o]) {
                continue;
            }
            $low = ($flat ? 0.0 : $ground->height($this->x[$i], $this->z[$i])) + 0.5 * $this->size[$i];
            if ($y >= $low) {
                continue;
            }
            $this->y[$i] = $low;
            if ($flat) {
                $this->meet($i, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, $grains[$o], $friction, $fall);
            } else {
                [$sx, $sz] = $ground->slope($this->x[$i], $this->z[$i]);
                $l = 1.0 / sqrt(1.0 + $sx * $sx + $sz * $sz);
                $this->meet($i, -$sx * $l, $l, -$sz * $l, 0.0, 0.0, 0.0, $grains[$o], $friction, $fall);
            }
        }
    }

    /**
     * One meets a surface: it sticks, or bounces and slides.
     *
     * @param  float  $nx  normal
     * @param  float  $wx  m/s of the surface
     * @param  float  $fall  m/s that it gains in a step by itself
     */
    public function meet(int $i, float $nx, float $ny, float $nz, float $wx, float $wy, float $wz, Grain $grain, float $friction, float $fall): void
    {
        if ($grain->lands === Grain::STICKS) {
            $this->vx[$i] = $wx;
            $this->vy[$i] = $wy;
            $this->vz[$i] = $wz;
            $this->lies[$i] = $wx === 0.0 && $wy === 0.0 && $wz === 0.0 ? 1 : 0;

            return;
        }
        $vx = $this->vx[$i] - $wx;
        $vy = $this->vy[$i] - $wy;
        $vz = $this->vz[$i] - $wz;
        $in = $vx * $nx + $vy * $ny + $vz * $nz;
        if ($in >= 0.0) {
            return;
        }
        // Along the surface it loses by friction what it brings against it (Coulomb).
        $tx = $vx - $in * $nx;
        $ty = $vy - $in * $ny;
        $tz = $vz - $in * $nz;
        $along = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
        $keep = $along > 0.0 ? max(0.0, 1.0 + $friction * (1.0 + $grain->bounce) * $in / $along) : 0.0;
        $out = -$in > 2.0 * $fall ? -$grain->bounce * $in : 0.0;
        $this->vx[$i] = $wx + $keep * $tx + $out * $nx;
        $this->vy[$i] = $wy + $keep * $ty + $out * $ny;
        $this->vz[$i] = $wz + $keep * $tz + $out * $nz;
        if ($keep === 0.0 && $out === 0.0 && $ny > 0.7 && $wx === 0.0 && $wy === 0.0 && $wz === 0.0) {
            $this->lies[$i] = 1;
        }
    }

    /** m across, of the largest as born. */
    public function largest(): float
    {
        return $this->size === [] ? 0.0 : max($this->size);
    }

    /**
     * @param  float  $back  seconds before the moment reached
     * @return string as of `StreamKind::Grains`
     */
    public function bytes(float $back = 0.0): string
    {
        if ($back > 0.0) {
            return $this->before($back)->bytes();
        }
        $n = count($this->x);
        [[$lx, $ly, $lz], [$sx, $sy, $sz], $largest] = $this->box();
        $out = pack('g7', $lx, $ly, $lz, $sx, $sy, $sz, $largest);
        $kx = $sx > 0.0 ? self::FULL / $sx : 0.0;
        $ky = $sy > 0.0 ? self::FULL / $sy : 0.0;
        $kz = $sz > 0.0 ? self::FULL / $sz : 0.0;
        $numbers = [];
        for ($i = 0; $i < $n; $i++) {
            $numbers[] = (int) (($this->x[$i] - $lx) * $kx + 0.5);
            $numbers[] = (int) (($this->y[$i] - $ly) * $ky + 0.5);
            $numbers[] = (int) (($this->z[$i] - $lz) * $kz + 0.5);
            // Age below, then which dust and how large.
            $numbers[] = (int) (255.0 * ($this->age[$i] > 0.0 ? $this->age[$i] : 0.0) / $this->life[$i]) | $this->of[$i] << 8 | (int) (63.0 * sqrt($this->size[$i] / $largest) + 0.5) << 10;
            if (($i & 8191) === 8191) {
                $out .= pack('v*', ...$numbers);
                $numbers = [];
            }
        }

        return $out.pack('v*', ...$numbers);
    }

    /** Those that were there some seconds before the moment reached, where they were then. */
    private function before(float $back): self
    {
        $out = new self;
        foreach ($this->thereBefore($back) as $i => [$k, $ahead]) {
            $out->add(
                new Vec3($this->x[$i] - $k * $this->vx[$i], $this->y[$i] - $k * $this->vy[$i], $this->z[$i] - $k * $this->vz[$i]), Vec3::zero(), $this->size[$i], $this->life[$i], $this->of[$i], $ahead,
            );
        }

        return $out;
    }

    /** Grains in a stream. */
    public static function countIn(string $bytes): int
    {
        return intdiv(strlen($bytes) - StreamKind::Grains->lead(), StreamKind::Grains->stride());
    }

    /**
     * @param  string  $bytes  as of `StreamKind::Grains`
     * @return iterable<array{float, float, float, float, float, int}> x, y, z and size in metres as born, age as a share of its life, and number of the dust
     */
    public static function read(string $bytes): iterable
    {
        $box = array_values(unpack('g7', $bytes) ?: []);
        $stride = StreamKind::Grains->stride();
        for ($at = StreamKind::Grains->lead(), $end = strlen($bytes); $at < $end; $at += $stride) {
            yield self::told($box, unpack('v4', $bytes, $at) ?: []);
        }
    }
}
