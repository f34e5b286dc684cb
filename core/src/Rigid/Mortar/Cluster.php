<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;

/** Pieces that hang together, with the loads on them, as `BondLoads` is asked about them. In the prop's own axes. */
final class Cluster
{
    /** @var array<int, array{float, float, float, float, float, float}> N and N·m about its middle, by piece */
    public array $loads = [];

    /** @var array<int, array{int, Vec3, Vec3}> what something that does not give way bears it at: piece, place, and normal into the piece */
    public array $supports = [];

    /** N, what supports push with at present, and N·m of that about the origin */
    private Vec3 $carried;

    private Vec3 $carriedAbout;

    /**
     * @param  non-empty-list<int>  $pieces
     * @param  array<int, Vec3>  $middle  by piece
     * @param  array<int, float>  $mass  kg, by piece
     * @param  array<int, array{float, float, float, float, float, float}>  $inertia  about its middle, kg·m², by piece: xx, yy, zz, xy, yz, zx
     * @param  array<int, true>  $fixed  pieces that nothing moves
     */
    public function __construct(public readonly array $pieces, public readonly array $middle, public readonly array $mass, public readonly array $inertia, public readonly array $fixed)
    {
        $this->carried = $this->carriedAbout = Vec3::zero();
        foreach ($pieces as $piece) {
            $this->loads[$piece] = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        }
    }

    /** Something pushes a piece at a place. */
    public function push(int $piece, Vec3 $at, Vec3 $force): void
    {
        $this->add($piece, $force, $at->minus($this->middle[$piece])->cross($force));
    }

    /** Something that does not give way bears a piece: which of such places bears how much, only how stiff all is can tell. */
    public function support(int $piece, Vec3 $at, Vec3 $normal): void
    {
        $this->supports[] = [$piece, $at, $normal];
    }

    /**
     * What supports push a piece with at present: the sum over all of them counts, wherever each is.
     *
     * @param  Vec3  $moment  about its middle
     */
    public function carry(int $piece, Vec3 $force, Vec3 $moment): void
    {
        $this->carried = $this->carried->plus($force);
        $this->carriedAbout = $this->carriedAbout->plus($moment)->plus($this->middle[$piece]->cross($force));
    }

    public function add(int $piece, Vec3 $force, Vec3 $moment): void
    {
        $l = &$this->loads[$piece];
        $l[0] += $force->x;
        $l[1] += $force->y;
        $l[2] += $force->z;
        $l[3] += $moment->x;
        $l[4] += $moment->y;
        $l[5] += $moment->z;
    }

    /**
     * Takes away what moves all of it as one body: what is left are the loads its bonds bear (d'Alembert). What is held bears
     * its loads where it is held.
     *
     * @param  Vec3  $spin  rad/s it turns with
     */
    public function balance(Vec3 $spin): void
    {
        if ($this->fixed !== []) {
            return;
        }
        [$mass, $centre] = $this->middleOfAll();
        [$inertia, $force, $torque] = $this->sums($centre);
        $faster = $force->times(1.0 / $mass);
        $turns = self::solved($inertia, $torque->minus($spin->cross(self::times($inertia, $spin))));
        $sx = $spin->x;
        $sy = $spin->y;
        $sz = $spin->z;
        $tx = $turns->x;
        $ty = $turns->y;
        $tz = $turns->z;
        foreach ($this->pieces as $p) {
            $m = $this->mass[$p];
            $x = $this->middle[$p]->x - $centre->x;
            $y = $this->middle[$p]->y - $centre->y;
            $z = $this->middle[$p]->z - $centre->z;
            // ω × r, then all that speeds it up: a + α × r + ω × (ω × r).
            $ux = $sy * $z - $sz * $y;
            $uy = $sz * $x - $sx * $z;
            $uz = $sx * $y - $sy * $x;
            [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inertia[$p];
            $hx = $xx * $sx + $xy * $sy + $zx * $sz;
            $hy = $xy * $sx + $yy * $sy + $yz * $sz;
            $hz = $zx * $sx + $yz * $sy + $zz * $sz;
            $l = &$this->loads[$p];
            $l[0] -= $m * ($faster->x + $ty * $z - $tz * $y + $sy * $uz - $sz * $uy);
            $l[1] -= $m * ($faster->y + $tz * $x - $tx * $z + $sz * $ux - $sx * $uz);
            $l[2] -= $m * ($faster->z + $tx * $y - $ty * $x + $sx * $uy - $sy * $ux);
            $l[3] -= $xx * $tx + $xy * $ty + $zx * $tz + $sy * $hz - $sz * $hy;
            $l[4] -= $xy * $tx + $yy * $ty + $yz * $tz + $sz * $hx - $sx * $hz;
            $l[5] -= $zx * $tx + $yz * $ty + $zz * $tz + $sx * $hy - $sy * $hx;
            unset($l);
        }
    }

    /** @return array{float, Vec3} kg, and its centre of mass */
    private function middleOfAll(): array
    {
        $mass = $x = $y = $z = 0.0;
        foreach ($this->pieces as $p) {
            $m = $this->mass[$p];
            $mass += $m;
            $x += $m * $this->middle[$p]->x;
            $y += $m * $this->middle[$p]->y;
            $z += $m * $this->middle[$p]->z;
        }

        return [$mass, new Vec3($x / $mass, $y / $mass, $z / $mass)];
    }

    /** @return array{array{float, float, float, float, float, float}, Vec3, Vec3} of all about a place: moments of inertia, N, and N·m, what supports push with as well */
    private function sums(Vec3 $about): array
    {
        $ixx = $iyy = $izz = $ixy = $iyz = $izx = 0.0;
        $sx = $sy = $sz = $px = $py = $pz = 0.0;
        foreach ($this->pieces as $p) {
            [$fx, $fy, $fz, $mx, $my, $mz] = $this->loads[$p];
            $x = $this->middle[$p]->x - $about->x;
            $y = $this->middle[$p]->y - $about->y;
            $z = $this->middle[$p]->z - $about->z;
            $sx += $fx;
            $sy += $fy;
            $sz += $fz;
            $px += $mx + $y * $fz - $z * $fy;
            $py += $my + $z * $fx - $x * $fz;
            $pz += $mz + $x * $fy - $y * $fx;
            $m = $this->mass[$p];
            [$xx, $yy, $zz, $xy, $yz, $zx] = $this->inertia[$p];
            $ixx += $xx + $m * ($y * $y + $z * $z);
            $iyy += $yy + $m * ($z * $z + $x * $x);
            $izz += $zz + $m * ($x * $x + $y * $y);
            $ixy += $xy - $m * $x * $y;
            $iyz += $yz - $m * $y * $z;
            $izx += $zx - $m * $z * $x;
        }

        return [
            [$ixx, $iyy, $izz, $ixy, $iyz, $izx], $this->carried->plus(new Vec3($sx, $sy, $sz)),
            $this->carriedAbout->minus($about->cross($this->carried))->plus(new Vec3($px, $py, $pz)),
        ];
    }

    /** @param  array{float, float, float, float, float, float}  $i */
    private static function times(array $i, Vec3 $v): Vec3
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $i;

        return new Vec3($xx * $v->x + $xy * $v->y + $zx * $v->z, $xy * $v->x + $yy * $v->y + $yz * $v->z, $zx * $v->x + $yz * $v->y + $zz * $v->z);
    }

    /** @param  array{float, float, float, float, float, float}  $i */
    private static function solved(array $i, Vec3 $b): Vec3
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $i;
        $p = new Vec3($xx, $xy, $zx);
        $q = new Vec3($xy, $yy, $yz);
        $r = new Vec3($zx, $yz, $zz);
        $det = $p->dot($q->cross($r));

        return $det <= 0.0 ? Vec3::zero() : new Vec3($b->dot($q->cross($r)) / $det, $p->dot($b->cross($r)) / $det, $p->dot($q->cross($b)) / $det);
    }
}
