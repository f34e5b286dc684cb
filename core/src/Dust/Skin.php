<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;

/** Places strewn evenly over the surfaces of the pieces of a prop, in its own coordinates. */
final class Skin
{
    /** @var list<float> running sum of the areas of faces, m² */
    private array $sums = [];

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

    /** The first face whose sum reaches so far. */
    private function face(float $sum, int $from, int $end): int
    {
        while ($from < $end - 1) {
            $middle = intdiv($from + $end - 1, 2);
            if ($this->sums[$middle] > $sum) {
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
