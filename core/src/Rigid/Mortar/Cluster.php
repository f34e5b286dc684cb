<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;

/** Pieces that hang together, with the loads on them, as `BondLoads` is asked about them. In the prop's own axes. */
final class Cluster
{
    /** @var array<int, array{float, float, float, float, float, float}> N and N·m about its middle, by piece */
    public array $loads = [];

    /**
     * @param  non-empty-list<int>  $pieces
     * @param  array<int, Vec3>  $middle  by piece
     * @param  array<int, float>  $mass  kg, by piece
     * @param  array<int, array{float, float, float, float, float, float}>  $inertia  about its middle, kg·m², by piece: xx, yy, zz, xy, yz, zx
     * @param  array<int, true>  $fixed  pieces that nothing moves
     */
    public function __construct(public readonly array $pieces, public readonly array $middle, public readonly array $mass, public readonly array $inertia, public readonly array $fixed)
    {
        foreach ($pieces as $piece) {
            $this->loads[$piece] = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        }
    }

    /** Something pushes a piece at a place. */
    public function push(int $piece, Vec3 $at, Vec3 $force): void
    {
        $this->add($piece, $force, $at->minus($this->middle[$piece])->cross($force));
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
        $mass = 0.0;
        $moment = $force = Vec3::zero();
        foreach ($this->pieces as $p) {
            $mass += $this->mass[$p];
            $moment = $moment->plus($this->middle[$p]->times($this->mass[$p]));
            $force = $force->plus(new Vec3($this->loads[$p][0], $this->loads[$p][1], $this->loads[$p][2]));
        }
        $centre = $moment->times(1.0 / $mass);
        $torque = Vec3::zero();
        $inertia = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($this->pieces as $p) {
            [$fx, $fy, $fz, $mx, $my, $mz] = $this->loads[$p];
            $r = $this->middle[$p]->minus($centre);
            $torque = $torque->plus($r->cross(new Vec3($fx, $fy, $fz)))->plus(new Vec3($mx, $my, $mz));
            $m = $this->mass[$p];
            foreach ([$r->y ** 2 + $r->z ** 2, $r->z ** 2 + $r->x ** 2, $r->x ** 2 + $r->y ** 2, -$r->x * $r->y, -$r->y * $r->z, -$r->z * $r->x] as $k => $shift) {
                $inertia[$k] += $this->inertia[$p][$k] + $m * $shift;
            }
        }
        $faster = $force->times(1.0 / $mass);
        $turns = self::solved($inertia, $torque->minus($spin->cross(self::times($inertia, $spin))));
        foreach ($this->pieces as $p) {
            $r = $this->middle[$p]->minus($centre);
            $a = $faster->plus($turns->cross($r))->plus($spin->cross($spin->cross($r)));
            $i = $this->inertia[$p];
            $this->add($p, $a->times(-$this->mass[$p]), self::times($i, $turns)->plus($spin->cross(self::times($i, $spin)))->times(-1.0));
        }
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
