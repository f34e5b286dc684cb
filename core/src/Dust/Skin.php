<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Break\Plan\Basis;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;

/** Places strewn evenly over the surfaces of the pieces of a prop, in its own coordinates. */
final class Skin
{
    /** @var list<float> running sum of the areas of faces, m² */
    private array $sums = [];

    /** @var list<float>|null running sum of the volumes of the cones from the middles of their pieces, six times over, m³ */
    private ?array $cones = null;

    /** @var list<array{int, int}> piece and face of each of them */
    private array $faces = [];

    /** @var array<int, float> area of each piece that has any, m² */
    public readonly array $areas;

    /** @var array<int, array{int, int}> first of the faces of each piece, and the one after its last */
    private array $of = [];

    /**
     * @param  list<Shard>  $shards
     * @param  bool  $outer  whether only what was outside before it was broken
     */
    public function __construct(private readonly array $shards, bool $outer)
    {
        $sum = 0.0;
        $areas = [];
        foreach ($shards as $piece => $shard) {
            $m = $shard->mesh;
            $from = count($this->faces);
            for ($f = 0, $n = intdiv(count($m->faces), 3); $f < $n; $f++) {
                if ($outer && ($m->sides[$f] ?? Mesh::OUTER) === Mesh::INNER) {
                    continue;
                }
                [$a, $b, $c] = $this->corners($piece, $f);
                $area = 0.5 * $b->minus($a)->cross($c->minus($a))->length();
                if ($area > 0.0) {
                    $sum += $area;
                    $this->sums[] = $sum;
                    $this->faces[] = [$piece, $f];
                    $areas[$piece] = ($areas[$piece] ?? 0.0) + $area;
                }
            }
            $this->of[$piece] = [$from, count($this->faces)];
        }
        $this->areas = $areas;
    }

    /** @return array{int, Vec3, Vec3}|null piece, place and outward normal; null where there is no surface */
    public function anywhere(SeededRandom $random): ?array
    {
        return $this->sums === [] ? null : $this->on($this->face($random->share() * $this->sums[count($this->sums) - 1], 0, count($this->sums)), $random);
    }

    /** @return array{int, Vec3, Vec3}|null likewise, of one piece */
    public function anywhereOn(int $piece, SeededRandom $random): ?array
    {
        [$from, $end] = $this->of[$piece];
        if ($from === $end) {
            return null;
        }
        $before = $from > 0 ? $this->sums[$from - 1] : 0.0;

        return $this->on($this->face($before + $random->share() * ($this->sums[$end - 1] - $before), $from, $end), $random);
    }

    /** @return array{int, Vec3, Vec3}|null piece, a place within it, and the way there from its middle: evenly through its volume where all of it can be seen from there */
    public function within(SeededRandom $random): ?array
    {
        if ($this->cones === null) {
            $this->cones = [];
            $sum = 0.0;
            foreach ($this->faces as [$piece, $f]) {
                [$a, $b, $c] = $this->corners($piece, $f);
                $middle = $this->shards[$piece]->centre();
                $sum += max(0.0, $a->minus($middle)->dot($b->minus($middle)->cross($c->minus($middle))));
                $this->cones[] = $sum;
            }
        }
        $all = $this->cones === [] ? 0.0 : $this->cones[count($this->cones) - 1];
        if ($all <= 0.0) {
            return null;
        }
        [$piece, $at] = $this->on(self::first($this->cones, $random->share() * $all, 0, count($this->cones)), $random);
        $middle = $this->shards[$piece]->centre();
        $way = $at->minus($middle);

        return [$piece, $middle->plus($way->times($random->share() ** (1.0 / 3.0))), $way->unit()];
    }

    /** The axis along which it is thinnest. */
    public function thinnest(): Vec3
    {
        return Basis::thinnest($this->bounds()->size());
    }

    private function bounds(): Aabb
    {
        return Aabb::around(Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, $this->shards)));
    }

    /**
     * The places nearest along an axis at the middles of the cells of a grid over its bounds across that axis.
     *
     * @return list<array{int, Vec3, Vec3}> piece, place and outward normal; none where there is nothing
     */
    public function gridded(Vec3 $axis, int $columns, int $rows): array
    {
        $basis = Basis::along($axis);
        $flat = static fn (Vec3 $p): array => [$p->dot($basis->u), $p->dot($basis->v), $p->dot($basis->w)];
        $low = [INF, INF];
        $high = [-INF, -INF];
        $triangles = [];
        foreach ($this->faces as $k => [$piece, $f]) {
            $corners = $this->corners($piece, $f);
            $triangles[$k] = array_map($flat, $corners);
            foreach ($triangles[$k] as $p) {
                $low = [min($low[0], $p[0]), min($low[1], $p[1])];
                $high = [max($high[0], $p[0]), max($high[1], $p[1])];
            }
        }
        $wide = ($high[0] - $low[0]) / $columns;
        $tall = ($high[1] - $low[1]) / $rows;
        $found = [];
        foreach ($triangles as $k => [$a, $b, $c]) {
            $det = ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]);
            if ($det <= 1e-15) {
                // Looks away, or stands on edge.
                continue;
            }
            $first = static fn (float $v, float $from, float $step): int => max(0, (int) floor(($v - $from) / $step - 0.5));
            for ($i = $first(min($a[0], $b[0], $c[0]), $low[0], $wide), $last = min($columns - 1, $first(max($a[0], $b[0], $c[0]), $low[0], $wide) + 1); $i <= $last; $i++) {
                $u = $low[0] + ($i + 0.5) * $wide;
                for ($j = $first(min($a[1], $b[1], $c[1]), $low[1], $tall), $end = min($rows - 1, $first(max($a[1], $b[1], $c[1]), $low[1], $tall) + 1); $j <= $end; $j++) {
                    $v = $low[1] + ($j + 0.5) * $tall;
                    $s = (($u - $a[0]) * ($c[1] - $a[1]) - ($v - $a[1]) * ($c[0] - $a[0])) / $det;
                    $t = (($b[0] - $a[0]) * ($v - $a[1]) - ($b[1] - $a[1]) * ($u - $a[0])) / $det;
                    if ($s < 0.0 || $t < 0.0 || $s + $t > 1.0) {
                        continue;
                    }
                    $w = $a[2] + $s * ($b[2] - $a[2]) + $t * ($c[2] - $a[2]);
                    if ($w > ($found[$j * $columns + $i][0] ?? -INF)) {
                        $found[$j * $columns + $i] = [$w, $k, $u, $v];
                    }
                }
            }
        }
        ksort($found);
        $out = [];
        foreach ($found as [$w, $k, $u, $v]) {
            [$a, $b, $c] = $this->corners(...$this->faces[$k]);
            $out[] = [$this->faces[$k][0], $basis->u->times($u)->plus($basis->v->times($v))->plus($basis->w->times($w)), $b->minus($a)->cross($c->minus($a))->unit()];
        }

        return $out;
    }

    /** The first face whose sum reaches so far. */
    private function face(float $sum, int $from, int $end): int
    {
        return self::first($this->sums, $sum, $from, $end);
    }

    /** @param  list<float>  $sums */
    private static function first(array $sums, float $sum, int $from, int $end): int
    {
        while ($from < $end - 1) {
            $middle = intdiv($from + $end - 1, 2);
            if ($sums[$middle] > $sum) {
                $end = $middle + 1;
            } else {
                $from = $middle + 1;
            }
        }

        return $from;
    }

    /** @return array{int, Vec3, Vec3} */
    private function on(int $k, SeededRandom $random): array
    {
        [$piece, $f] = $this->faces[$k];
        [$a, $b, $c] = $this->corners($piece, $f);
        $s = sqrt($random->share());
        $t = $random->share();

        return [$piece, $a->times(1.0 - $s)->plus($b->times($s * (1.0 - $t)))->plus($c->times($s * $t)), $b->minus($a)->cross($c->minus($a))->unit()];
    }

    /** @return array{Vec3, Vec3, Vec3} */
    private function corners(int $piece, int $f): array
    {
        $m = $this->shards[$piece]->mesh;
        $at = static fn (int $p): Vec3 => new Vec3($m->x[$p], $m->y[$p], $m->z[$p]);

        return [$at($m->faces[3 * $f]), $at($m->faces[3 * $f + 1]), $at($m->faces[3 * $f + 2])];
    }
}
