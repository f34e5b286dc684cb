<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Chip;

use YardBreak\Core\Dust\Grain;
use YardBreak\Core\Dust\Grains;
use YardBreak\Core\Dust\Specks;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;

/**
 * Chips of one prop: small bodies with a shape, one packed array a quantity.
 *
 * Each flies as a ball of like volume would in air (Schiller & Naumann 1933) and is slowed in turning as such a ball is (Stokes:
 * a moment of 8πμr³ω). It meets what it falls on with its lowest corners: one impulse at each, with bounce and Coulomb's friction,
 * which turns it as its inertia lets it. Once it has too little energy left to tip over an edge it turns down onto the face it is nearest to,
 * and lies. Chips do not meet each other, nor do they move what they fall on.
 */
final class Chips
{
    use Specks;

    /** Of one prop at once. */
    public const MOST = 50000;

    /** Sub-steps of a frame. */
    private const STEPS = 4;

    /** Radians a second at which what lies down turns onto its face. */
    private const SETTLING = 6.0;

    /** Radians off its face at which it lies. */
    private const FLAT = 0.01;

    /** Share of the energy it takes to tip over an edge below which it lies down. */
    private const TIRED = 0.4;

    /** Share of the size that corners may lie above the lowest and still touch. */
    private const TOUCHING = 0.02;

    /** s in which what rattles on its corners loses most of its spin. */
    private const RATTLES = 0.05;

    /** s of rattling after which it lies down whatever it has left: pushed out of what it falls on it may go on for ever. */
    private const RATTLED = 0.3;

    private const TURN = 32767.0;

    /** As of `Specks`. */
    private const REALS = ['x', 'y', 'z', 'vx', 'vy', 'vz', 'qx', 'qy', 'qz', 'qw', 'wx', 'wy', 'wz', 'size', 'age', 'life', 'rattled'];

    /** @var list<float> turn */
    private array $qx = [];

    /** @var list<float> */
    private array $qy = [];

    /** @var list<float> */
    private array $qz = [];

    /** @var list<float> */
    private array $qw = [];

    /** @var list<float> rad/s */
    private array $wx = [];

    /** @var list<float> */
    private array $wy = [];

    /** @var list<float> */
    private array $wz = [];

    /** @var list<float> s it has rattled on its corners since something hit harder */
    private array $rattled = [];

    /**
     * @param  array{float, float, float, float}  $turn
     * @param  float  $ahead  s that it was born before the moment reached
     */
    public function add(Vec3 $at, Vec3 $velocity, array $turn, Vec3 $spin, float $size, float $life, int $of, float $ahead): void
    {
        $this->x[] = $at->x;
        $this->y[] = $at->y;
        $this->z[] = $at->z;
        $this->vx[] = $velocity->x;
        $this->vy[] = $velocity->y;
        $this->vz[] = $velocity->z;
        [$this->qx[], $this->qy[], $this->qz[], $this->qw[]] = $turn;
        $this->wx[] = $spin->x;
        $this->wy[] = $spin->y;
        $this->wz[] = $spin->z;
        $this->size[] = $size;
        $this->age[] = -$ahead;
        $this->life[] = $life;
        $this->of[] = $of;
        $this->lies[] = 0;
        $this->rattled[] = 0.0;
    }

    /**
     * Moves on.
     *
     * @param  float  $span  s
     * @param  list<Grain>  $kinds  by number of the dust
     * @param  array<int, ChipShape>  $shapes  likewise
     * @param  list<list<float>>  $air  m/s of the air at each: x, y and z
     * @param  list<list<float>>|null  $pull  m/s² beside gravity, likewise; null for none
     * @param  float  $density  kg/m³ of the air
     * @param  float  $slowing  share of speed lost a second
     * @param  \Closure(int): list<array{float, float, float, float, float, float, float, float}>  $planes  what may be met by one: normal, how far
     *   that lies along it from the origin, velocity (3), and friction
     */
    public function move(float $span, array $kinds, array $shapes, Vec3 $gravity, array $air, ?array $pull, float $density, float $slowing, \Closure $planes): void
    {
        $weight = $gravity->length();
        foreach ($this->x as $i => $_) {
            $time = $this->age[$i] < 0.0 ? $span - $this->age[$i] : $span;
            $this->age[$i] = $this->age[$i] < 0.0 ? $time : $this->age[$i] + $time;
            $kind = $kinds[$this->of[$i]];
            $shape = $shapes[$this->of[$i]];
            $d = $this->size[$i] * (6.0 / M_PI * $shape->volume) ** (1.0 / 3.0);
            $u = [$air[0][$i], $air[1][$i], $air[2][$i]];
            if ($this->lies[$i] === 1 && ! $this->isLifted($i, $d, $kind->density, $u, $density, $weight)) {
                continue;
            }
            if ($this->lies[$i] === 1) {
                $this->lies[$i] = 0;
                $this->rattled[$i] = 0.0;
            }
            $more = $pull === null ? [0.0, 0.0, 0.0] : [$pull[0][$i], $pull[1][$i], $pull[2][$i]];
            $met = $planes($i);
            for ($k = 0, $h = $time / self::STEPS; $k < self::STEPS && $this->lies[$i] === 0; $k++) {
                $this->fly($i, $h, $d, $kind->density, $gravity, $u, $more, $density, $slowing);
                foreach ($met as $plane) {
                    $this->meet($i, $h, $shape, $kind, $plane, $weight);
                }
            }
        }
    }

    /** @param  array{float, float, float}  $u */
    private function isLifted(int $i, float $d, float $own, array $u, float $air, float $weight): bool
    {
        $fast = sqrt($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2);

        // Half of its weight holds it where it lies.
        return Grains::slowing($d, $own, $fast, $air) * $fast > 0.5 * $weight;
    }

    /**
     * @param  array{float, float, float}  $u
     * @param  array{float, float, float}  $more
     */
    private function fly(int $i, float $h, float $d, float $own, Vec3 $gravity, array $u, array $more, float $air, float $slowing): void
    {
        $k = Grains::slowing($d, $own, sqrt(($this->vx[$i] - $u[0]) ** 2 + ($this->vy[$i] - $u[1]) ** 2 + ($this->vz[$i] - $u[2]) ** 2), $air) + $slowing;
        $e = exp(-$k * $h);
        $sinks = 1.0 - $air / $own;
        // Where it would settle at, and the way until then, as for a grain.
        $left = (1.0 - $e) / $k;
        foreach ([['x', 'vx', $gravity->x], ['y', 'vy', $gravity->y], ['z', 'vz', $gravity->z]] as $axis => [$at, $speed, $g]) {
            $t = $u[$axis] + ($sinks * $g + $more[$axis]) / $k;
            $off = $this->$speed[$i] - $t;
            $this->$at[$i] += $t * $h + $off * $left;
            $this->$speed[$i] = $t + $off * $e;
        }
        $turning = exp(-60.0 * Grains::VISCOSITY / ($own * $d * $d) * $h);
        $this->wx[$i] *= $turning;
        $this->wy[$i] *= $turning;
        $this->wz[$i] *= $turning;
        $this->turnBy($i, $this->wx[$i] * $h, $this->wy[$i] * $h, $this->wz[$i] * $h);
    }

    private function turnBy(int $i, float $x, float $y, float $z): void
    {
        $angle = sqrt($x * $x + $y * $y + $z * $z);
        if ($angle < 1e-12) {
            return;
        }
        $k = sin(0.5 * $angle) / $angle;
        [$x, $y, $z, $w] = [$x * $k, $y * $k, $z * $k, cos(0.5 * $angle)];
        [$a, $b, $c, $d] = [$this->qx[$i], $this->qy[$i], $this->qz[$i], $this->qw[$i]];
        $nx = $w * $a + $x * $d + $y * $c - $z * $b;
        $ny = $w * $b - $x * $c + $y * $d + $z * $a;
        $nz = $w * $c + $x * $b - $y * $a + $z * $d;
        $nw = $w * $d - $x * $a - $y * $b - $z * $c;
        $l = 1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz + $nw * $nw);
        $this->qx[$i] = $nx * $l;
        $this->qy[$i] = $ny * $l;
        $this->qz[$i] = $nz * $l;
        $this->qw[$i] = $nw * $l;
    }

    /** @return array{float, float, float, float, float, float, float, float, float} its turn as a matrix, row by row */
    private function matrix(int $i): array
    {
        [$x, $y, $z, $w] = [$this->qx[$i], $this->qy[$i], $this->qz[$i], $this->qw[$i]];

        return [
            1.0 - 2.0 * ($y * $y + $z * $z), 2.0 * ($x * $y - $z * $w), 2.0 * ($x * $z + $y * $w),
            2.0 * ($x * $y + $z * $w), 1.0 - 2.0 * ($x * $x + $z * $z), 2.0 * ($y * $z - $x * $w),
            2.0 * ($x * $z - $y * $w), 2.0 * ($y * $z + $x * $w), 1.0 - 2.0 * ($x * $x + $y * $y),
        ];
    }

    /**
     * @param  array{float, float, float, float, float, float, float, float}  $plane  as of `move`
     * @param  float  $weight  m/s² of gravity
     */
    private function meet(int $i, float $h, ChipShape $shape, Grain $kind, array $plane, float $weight): void
    {
        [$nx, $ny, $nz, $off, $px, $py, $pz] = $plane;
        $size = $this->size[$i];
        $above = $nx * $this->x[$i] + $ny * $this->y[$i] + $nz * $this->z[$i] - $off;
        if ($above > $size) {
            return;
        }
        $m = $this->matrix($i);
        // The plane's normal as the chip sees it: its lowest corner is that against it.
        $bx = $m[0] * $nx + $m[3] * $ny + $m[6] * $nz;
        $by = $m[1] * $nx + $m[4] * $ny + $m[7] * $nz;
        $bz = $m[2] * $nx + $m[5] * $ny + $m[8] * $nz;
        $downs = [];
        foreach ($shape->x as $k => $x) {
            $downs[] = $x * $bx + $shape->y[$k] * $by + $shape->z[$k] * $bz;
        }
        $low = min($downs);
        $deep = -($above + $size * $low);
        if ($deep < 0.0) {
            return;
        }
        $this->x[$i] += $deep * $nx;
        $this->y[$i] += $deep * $ny;
        $this->z[$i] += $deep * $nz;
        if ($kind->lands === Grain::STICKS) {
            [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$px, $py, $pz];
            $this->wx[$i] = $this->wy[$i] = $this->wz[$i] = 0.0;
            $this->lies[$i] = $px === 0.0 && $py === 0.0 && $pz === 0.0 ? 1 : 0;

            return;
        }
        $slow = true;
        foreach ($downs as $k => $down) {
            if ($down <= $low + self::TOUCHING) {
                $slow = $this->hitCorner($i, $h, $shape, $k, $m, $kind, $plane, $weight) && $slow;
            }
        }
        $this->rattled[$i] = $slow ? $this->rattled[$i] + $h : 0.0;
        if ($slow) {
            // What rattles on its corners loses its spin as what rolls does.
            $keep = exp(-$h / self::RATTLES);
            $this->wx[$i] *= $keep;
            $this->wy[$i] *= $keep;
            $this->wz[$i] *= $keep;
        }
        $this->calm($i, $h, $shape, $plane, $m, $bx, $by, $bz, $weight);
    }

    /**
     * @param  array{float, float, float, float, float, float, float, float, float}  $m
     * @param  array{float, float, float, float, float, float, float, float}  $plane
     * @return bool whether it came in slowly
     */
    private function hitCorner(int $i, float $h, ChipShape $shape, int $at, array $m, Grain $kind, array $plane, float $weight): bool
    {
        [$nx, $ny, $nz] = $plane;
        $size = $this->size[$i];
        $sx = $size * $shape->x[$at];
        $sy = $size * $shape->y[$at];
        $sz = $size * $shape->z[$at];
        $rx = $m[0] * $sx + $m[1] * $sy + $m[2] * $sz;
        $ry = $m[3] * $sx + $m[4] * $sy + $m[5] * $sz;
        $rz = $m[6] * $sx + $m[7] * $sy + $m[8] * $sz;
        [$cx, $cy, $cz] = $this->speedAt($i, $rx, $ry, $rz, $plane);
        $in = $cx * $nx + $cy * $ny + $cz * $nz;
        if ($in < 0.0) {
            $bounce = -$in > 2.0 * $weight * $h ? $kind->bounce : 0.0;
            $push = $this->strike($i, $m, $shape, $rx, $ry, $rz, $nx, $ny, $nz, -(1.0 + $bounce) * $in);
            // As the corner slides now: taken before, it might gain.
            [$cx, $cy, $cz] = $this->speedAt($i, $rx, $ry, $rz, $plane);
            $away = $cx * $nx + $cy * $ny + $cz * $nz;
            $tx = $cx - $away * $nx;
            $ty = $cy - $away * $ny;
            $tz = $cz - $away * $nz;
            $along = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
            if ($along > 1e-9) {
                $this->strike($i, $m, $shape, $rx, $ry, $rz, -$tx / $along, -$ty / $along, -$tz / $along, $along, $plane[7] * $push);
            }
        }

        // No faster than by a fall of its own size.
        return -$in <= 2.0 * $weight * $h + sqrt(2.0 * $weight * $size);
    }

    /**
     * @param  array{float, float, float, float, float, float, float, float}  $plane
     * @return array{float, float, float} m/s of a corner against what it meets
     */
    private function speedAt(int $i, float $rx, float $ry, float $rz, array $plane): array
    {
        return [
            $this->vx[$i] + $this->wy[$i] * $rz - $this->wz[$i] * $ry - $plane[4],
            $this->vy[$i] + $this->wz[$i] * $rx - $this->wx[$i] * $rz - $plane[5],
            $this->vz[$i] + $this->wx[$i] * $ry - $this->wy[$i] * $rx - $plane[6],
        ];
    }

    /**
     * An impulse at a corner of it along a way.
     *
     * @param  array{float, float, float, float, float, float, float, float, float}  $m
     * @param  float  $gain  m/s that the corner is to gain along that way
     * @param  float  $most  m/s, as impulse for each kilogram, at most
     * @return float m/s, the impulse for each kilogram
     */
    private function strike(int $i, array $m, ChipShape $shape, float $rx, float $ry, float $rz, float $nx, float $ny, float $nz, float $gain, float $most = INF): float
    {
        $mx = $ry * $nz - $rz * $ny;
        $my = $rz * $nx - $rx * $nz;
        $mz = $rx * $ny - $ry * $nx;
        $bx = $m[0] * $mx + $m[3] * $my + $m[6] * $mz;
        $by = $m[1] * $mx + $m[4] * $my + $m[7] * $mz;
        $bz = $m[2] * $mx + $m[5] * $my + $m[8] * $mz;
        [$xx, $yy, $zz, $xy, $yz, $zx] = $shape->inverse;
        $k = 1.0 / $this->size[$i] ** 2;
        $ax = $k * ($xx * $bx + $xy * $by + $zx * $bz);
        $ay = $k * ($xy * $bx + $yy * $by + $yz * $bz);
        $az = $k * ($zx * $bx + $yz * $by + $zz * $bz);
        $push = min($most, $gain / (1.0 + $ax * $bx + $ay * $by + $az * $bz));
        $this->vx[$i] += $push * $nx;
        $this->vy[$i] += $push * $ny;
        $this->vz[$i] += $push * $nz;
        $this->wx[$i] += $push * ($m[0] * $ax + $m[1] * $ay + $m[2] * $az);
        $this->wy[$i] += $push * ($m[3] * $ax + $m[4] * $ay + $m[5] * $az);
        $this->wz[$i] += $push * ($m[6] * $ax + $m[7] * $ay + $m[8] * $az);

        return $push;
    }

    /**
     * What has too little energy left to tip over an edge turns down onto the face it is nearest to.
     *
     * @param  array{float, float, float, float, float, float, float, float}  $plane
     * @param  array{float, float, float, float, float, float, float, float, float}  $m
     */
    private function calm(int $i, float $h, ChipShape $shape, array $plane, array $m, float $bx, float $by, float $bz, float $weight): void
    {
        [$nx, $ny, $nz, $off, $px, $py, $pz] = $plane;
        if ($px !== 0.0 || $py !== 0.0 || $pz !== 0.0 || $ny < 0.7 || $shape->rests === []) {
            return;
        }
        $size = $this->size[$i];
        $energy = 0.5 * ($this->vx[$i] ** 2 + $this->vy[$i] ** 2 + $this->vz[$i] ** 2 + ($size ** 2 / 12.0) * ($this->wx[$i] ** 2 + $this->wy[$i] ** 2 + $this->wz[$i] ** 2));
        // What a sub-step of gravity gives is no energy to tip by.
        if ($this->rattled[$i] < self::RATTLED && $energy > max(self::TIRED * $weight * $size * $shape->tips, 0.5 * ($weight * $h) ** 2)) {
            return;
        }
        $best = -INF;
        $face = $shape->rests[0];
        foreach ($shape->rests as $rest) {
            $down = -($rest[0] * $bx + $rest[1] * $by + $rest[2] * $bz);
            if ($down > $best) {
                $best = $down;
                $face = $rest;
            }
        }
        $this->vx[$i] = $this->vy[$i] = $this->vz[$i] = $this->wx[$i] = $this->wy[$i] = $this->wz[$i] = 0.0;
        // Where that face looks in the scene, and the way from there to straight down.
        $fx = $m[0] * $face[0] + $m[1] * $face[1] + $m[2] * $face[2];
        $fy = $m[3] * $face[0] + $m[4] * $face[1] + $m[5] * $face[2];
        $fz = $m[6] * $face[0] + $m[7] * $face[1] + $m[8] * $face[2];
        $ax = -($fy * $nz - $fz * $ny);
        $ay = -($fz * $nx - $fx * $nz);
        $az = -($fx * $ny - $fy * $nx);
        $sin = sqrt($ax * $ax + $ay * $ay + $az * $az);
        $angle = atan2($sin, $best);
        $step = min($angle, self::SETTLING * $h);
        if ($sin > 1e-9) {
            $this->turnBy($i, $step * $ax / $sin, $step * $ay / $sin, $step * $az / $sin);
        }
        if ($angle - $step <= self::FLAT) {
            $this->lies[$i] = 1;
            $up = $size * $face[3] - ($nx * $this->x[$i] + $ny * $this->y[$i] + $nz * $this->z[$i] - $off);
            $this->x[$i] += $up * $nx;
            $this->y[$i] += $up * $ny;
            $this->z[$i] += $up * $nz;
        }
    }

    /**
     * @param  float  $back  seconds before the moment reached
     * @return string as of `StreamKind::Chips`
     */
    public function bytes(float $back = 0.0): string
    {
        if ($back > 0.0) {
            return $this->before($back)->bytes();
        }
        $n = count($this->x);
        [$lows, $sides, $largest] = $this->box();
        $out = pack('g7', ...$lows, ...[...$sides, $largest]);
        [$kx, $ky, $kz] = array_map(static fn (float $side): float => $side > 0.0 ? self::FULL / $side : 0.0, $sides);
        for ($i = 0; $i < $n; $i++) {
            $out .= pack(
                'v8',
                (int) (($this->x[$i] - $lows[0]) * $kx + 0.5), (int) (($this->y[$i] - $lows[1]) * $ky + 0.5), (int) (($this->z[$i] - $lows[2]) * $kz + 0.5),
                // As of grains.
                (int) (255.0 * max(0.0, $this->age[$i]) / $this->life[$i]) | $this->of[$i] << 8 | (int) (63.0 * sqrt($this->size[$i] / $largest) + 0.5) << 10,
                (int) round(self::TURN * $this->qx[$i]) & 0xFFFF, (int) round(self::TURN * $this->qy[$i]) & 0xFFFF, (int) round(self::TURN * $this->qz[$i]) & 0xFFFF,
                (int) round(self::TURN * $this->qw[$i]) & 0xFFFF,
            );
        }

        return $out;
    }

    /** Those that were there some seconds before the moment reached, as they were then. */
    private function before(float $back): self
    {
        $out = new self;
        foreach ($this->thereBefore($back) as $i => [$k, $ahead]) {
            $out->add(
                new Vec3($this->x[$i] - $k * $this->vx[$i], $this->y[$i] - $k * $this->vy[$i], $this->z[$i] - $k * $this->vz[$i]), Vec3::zero(), [$this->qx[$i], $this->qy[$i], $this->qz[$i], $this->qw[$i]],
                Vec3::zero(), $this->size[$i], $this->life[$i], $this->of[$i], $ahead,
            );
            $out->turnBy(count($out->x) - 1, -$k * $this->wx[$i], -$k * $this->wy[$i], -$k * $this->wz[$i]);
        }

        return $out;
    }

    /** Chips in a stream. */
    public static function countIn(string $bytes): int
    {
        return intdiv(strlen($bytes) - StreamKind::Chips->lead(), StreamKind::Chips->stride());
    }

    /**
     * @param  string  $bytes  as of `StreamKind::Chips`
     * @return iterable<array{float, float, float, float, float, int, array{float, float, float, float}}> x, y, z and size in metres as born, age as a
     *   share of its life, number of the dust, and turn
     */
    public static function read(string $bytes): iterable
    {
        $box = array_values(unpack('g7', $bytes) ?: []);
        $stride = StreamKind::Chips->stride();
        for ($at = StreamKind::Chips->lead(), $end = strlen($bytes); $at < $end; $at += $stride) {
            $n = unpack('v8', $bytes, $at) ?: [];
            [$a, $b, $c, $e] = array_map(static fn (int $v): float => ($v > 32767 ? $v - 65536 : $v) / self::TURN, [$n[5], $n[6], $n[7], $n[8]]);
            $l = max(1e-9, sqrt($a * $a + $b * $b + $c * $c + $e * $e));
            yield [...self::told($box, $n), [$a / $l, $b / $l, $c / $l, $e / $l]];
        }
    }
}
