<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\Vec3;

/** What two pieces share, added up face by face. */
final class JointSum
{
    private float $area = 0.0;

    private Vec3 $moment;

    private Vec3 $normal;

    /** @var array{float, float, float, float, float, float} about the first place, for places are far from nothing */
    private array $spread = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

    private ?Vec3 $first = null;

    public function __construct()
    {
        $this->moment = $this->normal = Vec3::zero();
    }

    /** Corners run round a normal from the one piece to the other. */
    public function addFace(Vec3 $a, Vec3 $b, Vec3 $c): void
    {
        $n = $b->minus($a)->cross($c->minus($a))->times(0.5);
        $middle = $a->plus($b)->plus($c)->times(1 / 3);
        $this->add($n->length(), $middle, $n);
        // Of a triangle about its middle: a twelfth of its area, times the sum over its corners.
        foreach ([$a, $b, $c] as $corner) {
            $this->addSpread($n->length() / 12.0, $corner->minus($middle));
        }
    }

    /** A patch about as wide as it is long. */
    public function addPatch(float $area, Vec3 $middle, Vec3 $normal): void
    {
        $this->add($area, $middle, $normal->times($area));
        $own = $area * $area / 12.0;
        $n = [$normal->x, $normal->y, $normal->z];
        foreach ([[0, 0], [1, 1], [2, 2], [0, 1], [1, 2], [2, 0]] as $k => [$i, $j]) {
            $this->spread[$k] += $own * (($i === $j ? 1.0 : 0.0) - $n[$i] * $n[$j]);
        }
    }

    /** @param  list<Shard>  $shards */
    public function joint(int $one, int $other, array $shards): Joint
    {
        $first = $this->first ?? Vec3::zero();
        $off = $this->moment->times($this->area > 0.0 ? 1.0 / $this->area : 0.0);
        $middle = $first->plus($off);
        $a = $this->area;
        [$xx, $yy, $zz, $xy, $yz, $zx] = $this->spread;
        $normal = $this->normal->length() > 0.0 ? $this->normal : $shards[$other]->centre()->minus($shards[$one]->centre());

        return new Joint(
            $one, $other, $a, $middle, $normal->length() > 0.0 ? $normal->unit() : new Vec3(0.0, 1.0, 0.0),
            [
                $xx - $a * $off->x * $off->x, $yy - $a * $off->y * $off->y, $zz - $a * $off->z * $off->z,
                $xy - $a * $off->x * $off->y, $yz - $a * $off->y * $off->z, $zx - $a * $off->z * $off->x,
            ],
            $shards[$one]->centre()->minus($middle)->length() + $shards[$other]->centre()->minus($middle)->length(),
        );
    }

    private function add(float $area, Vec3 $middle, Vec3 $normal): void
    {
        $this->first ??= $middle;
        $off = $middle->minus($this->first);
        $this->area += $area;
        $this->moment = $this->moment->plus($off->times($area));
        $this->normal = $this->normal->plus($normal);
        $this->addSpread($area, $off);
    }

    private function addSpread(float $weight, Vec3 $r): void
    {
        $this->spread[0] += $weight * $r->x * $r->x;
        $this->spread[1] += $weight * $r->y * $r->y;
        $this->spread[2] += $weight * $r->z * $r->z;
        $this->spread[3] += $weight * $r->x * $r->y;
        $this->spread[4] += $weight * $r->y * $r->z;
        $this->spread[5] += $weight * $r->z * $r->x;
    }
}
