<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Vec3;

/** What of a body the air takes hold of: the faces of its hull, or a ball. */
final readonly class Sail
{
    /**
     * @param  list<float>  $faces  seven numbers a face: its normal, its area and its middle, in the body's axes from its centre
     * @param  array{float, float, float, float, float, float}  $spread  m⁴, xx, yy, zz, xy, yz, zx of the sum over the faces of ∫(r × n)(r × n)ᵀ, r from the middle of each:
     *   how hard it is to turn through air
     * @param  float  $ball  m², what a ball shows to the wind; none for what has faces
     * @param  float  $reach  metres, from its centre to its farthest corner
     */
    private function __construct(private array $faces, private array $spread, private float $ball, private float $reach)
    {
    }

    /** @param  non-empty-list<array{Hull, Vec3}>  $hulls  and where each lies from its centre, in its axes */
    public static function of(array $hulls): self
    {
        [$hull, $offset] = $hulls[0];
        if (count($hulls) === 1 && $hull->roundness > 0.0) {
            return new self([], [0.0, 0.0, 0.0, 0.0, 0.0, 0.0], M_PI * $hull->roundness ** 2, $hull->roundness);
        }
        if (count($hulls) > 1) {
            $x = $y = $z = [];
            foreach ($hulls as [$one, $off]) {
                foreach ($one->x as $p => $v) {
                    $x[] = $v + $off->x;
                    $y[] = $one->y[$p] + $off->y;
                    $z[] = $one->z[$p] + $off->z;
                }
            }
            [$hull, $offset] = [Hull::around($x, $y, $z), Vec3::zero()];
        }
        $point = static fn (int $p): Vec3 => new Vec3($hull->x[$p] + $offset->x, $hull->y[$p] + $offset->y, $hull->z[$p] + $offset->z);
        $faces = [];
        $spread = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($hull->faces as $loop) {
            $sum = $middle = Vec3::zero();
            $area = 0.0;
            $a = $point($loop[0]);
            for ($k = 2, $n = count($loop); $k < $n; $k++) {
                [$b, $c] = [$point($loop[$k - 1]), $point($loop[$k])];
                $cross = $b->minus($a)->cross($c->minus($a))->times(0.5);
                $sum = $sum->plus($cross);
                $area += $cross->length();
                $middle = $middle->plus($a->plus($b)->plus($c)->times($cross->length() / 3.0));
            }
            if ($area > 0.0) {
                $normal = $sum->times(1.0 / $sum->length());
                $middle = $middle->times(1.0 / $area);
                array_push($faces, ...$normal->toArray(), ...[$area], ...$middle->toArray());
                for ($k = 2; $k < $n; $k++) {
                    // Three points of a triangle between its middle and its corners give its second moments exactly.
                    $corners = [$a, $point($loop[$k - 1]), $point($loop[$k])];
                    $own = $corners[1]->minus($a)->cross($corners[2]->minus($a))->length() / 2.0;
                    $mid = $corners[0]->plus($corners[1])->plus($corners[2])->times(1.0 / 3.0);
                    foreach ($corners as $corner) {
                        $lever = $mid->plus($corner)->times(0.5)->minus($middle)->cross($normal);
                        $spread = self::added($spread, $lever, $own / 3.0);
                    }
                }
            }
        }
        $reach = 0.0;
        foreach ($hull->x as $p => $_) {
            $reach = max($reach, $point($p)->length());
        }

        return new self($faces, $spread, 0.0, $reach);
    }

    /**
     * @param  array{float, float, float, float, float, float}  $sum
     * @return array{float, float, float, float, float, float}
     */
    private static function added(array $sum, Vec3 $v, float $times): array
    {
        return [
            $sum[0] + $times * $v->x * $v->x, $sum[1] + $times * $v->y * $v->y, $sum[2] + $times * $v->z * $v->z,
            $sum[3] + $times * $v->x * $v->y, $sum[4] + $times * $v->y * $v->z, $sum[5] + $times * $v->z * $v->x,
        ];
    }

    /** Whether it rolls off at the slightest push. */
    public function rolls(): bool
    {
        return $this->ball > 0.0;
    }

    /** m², what it shows to the wind on average over all ways it may be turned: a quarter of its surface, where it is convex (Cauchy 1841). */
    public function meanArea(): float
    {
        $sum = 4.0 * $this->ball;
        for ($i = 0, $n = count($this->faces); $i < $n; $i += 7) {
            $sum += $this->faces[$i + 3];
        }

        return 0.25 * $sum;
    }

    /** m², what it shows to a wind that goes this way in its own axes. */
    public function area(Vec3 $way): float
    {
        $way = $way->times(1.0 / max(1e-12, $way->length()));
        $sum = $this->ball;
        for ($i = 0, $n = count($this->faces); $i < $n; $i += 7) {
            $sum += $this->faces[$i + 3] * max(0.0, -($this->faces[$i] * $way->x + $this->faces[$i + 1] * $way->y + $this->faces[$i + 2] * $way->z));
        }

        return $sum;
    }

    /**
     * What the air does to it: each face that looks against the wind is pressed along with it by ½ρC·A·|u|u of its area across the
     * wind, and aside by as much as it is askew, so that what is thin sails. A face meets the air as fast as it is there itself: what
     * spins is slowed.
     *
     * @param  float  $ux  m/s, of the air past its centre, in its own axes
     * @param  float  $sx  rad/s, its spin, likewise
     * @param  float  $half  ½ρC, kg/m³
     * @param  float  $size  times as large as it was made
     * @return array{float, float, float, float, float, float, float, float} force in N, moment in N·m, how the first grows with speed in N·s/m, and the second with
     *   spin in N·m·s
     */
    public function pressed(float $ux, float $uy, float $uz, float $sx, float $sy, float $sz, float $half, float $size): array
    {
        if ($this->ball > 0.0) {
            $k = $half * $this->ball * $size * $size * sqrt($ux * $ux + $uy * $uy + $uz * $uz);

            return [$k * $ux, $k * $uy, $k * $uz, 0.0, 0.0, 0.0, 2.0 * $k, 0.0];
        }
        $half *= $size * $size;
        $faces = $this->faces;
        $fx = $fy = $fz = $mx = $my = $mz = $sum = 0.0;
        for ($i = 0, $n = count($faces); $i < $n; $i += 7) {
            $nx = $faces[$i];
            $ny = $faces[$i + 1];
            $nz = $faces[$i + 2];
            $cx = $size * $faces[$i + 4];
            $cy = $size * $faces[$i + 5];
            $cz = $size * $faces[$i + 6];
            $vx = $ux - $sy * $cz + $sz * $cy;
            $vy = $uy - $sz * $cx + $sx * $cz;
            $vz = $uz - $sx * $cy + $sy * $cx;
            $across = -($nx * $vx + $ny * $vy + $nz * $vz);
            if ($across <= 0.0) {
                continue;
            }
            $speed = sqrt($vx * $vx + $vy * $vy + $vz * $vz);
            // Along the wind, and of the face's own push that part which is not.
            $k = $half * $faces[$i + 3] * $across;
            $along = $k * (1.0 - $across / $speed);
            $aside = $k * $speed;
            $px = $along * $vx - $aside * $nx;
            $py = $along * $vy - $aside * $ny;
            $pz = $along * $vz - $aside * $nz;
            $sum += $k;
            $fx += $px;
            $fy += $py;
            $fz += $pz;
            $mx += $cy * $pz - $cz * $py;
            $my += $cz * $px - $cx * $pz;
            $mz += $cx * $py - $cy * $px;
        }

        // A face that turns about its own middle meets the air faster on one side than on the other: half of the faces look against it.
        $spin = sqrt($sx * $sx + $sy * $sy + $sz * $sz);
        $k = $half * $size * $size * (sqrt($ux * $ux + $uy * $uy + $uz * $uz) + 0.5 * $spin * $size * $this->reach);
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->spread;
        $mx -= $k * ($xx * $sx + $xy * $sy + $zx * $sz);
        $my -= $k * ($xy * $sx + $yy * $sy + $yz * $sz);
        $mz -= $k * ($zx * $sx + $yz * $sy + $zz * $sz);

        return [$fx, $fy, $fz, $mx, $my, $mz, 2.0 * $sum, 2.0 * $sum * ($size * $this->reach) ** 2 + $k * ($xx + $yy + $zz)];
    }
}
