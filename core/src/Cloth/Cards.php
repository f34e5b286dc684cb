<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/**
 * Small pieces as cards: a square grid over each, bowed as it is, along its longer side, bends and flies for it; its own points are carried along, each by
 * the face of the card it lies over, at the height it has there. What is cut anyhow has thin faces and light points that no step is short enough for.
 */
final readonly class Cards
{
    /**
     * @param  Mesh  $mesh  all cards, in the coordinates of the prop
     * @param  list<int>  $pieceOf  by point of these
     * @param  list<int>  $corners  three points of the cards by vertex of the pieces
     * @param  list<float>  $shares  of each of these it has, likewise
     * @param  list<float>  $heights  m over their face, by vertex
     * @param  list<int>  $nearest  by point of the cards: the vertex nearest to it
     */
    private function __construct(public Mesh $mesh, public array $pieceOf, private array $corners, private array $shares, private array $heights, public array $nearest)
    {
    }

    /**
     * @param  array<int, Shard>  $shards  by number of the piece
     * @param  int  $cells  to each side of a card
     */
    public static function of(array $shards, int $cells): self
    {
        $x = $y = $z = $faces = $pieceOf = $corners = $shares = $heights = $nearest = [];
        $before = 0;
        foreach ($shards as $piece => $shard) {
            $mesh = $shard->mesh;
            $base = count($x);
            [$middle, $u, $v, $n] = self::plane($shard);
            $flat = [];
            foreach ($mesh->x as $i => $px) {
                $to = (new Vec3($px, $mesh->y[$i], $mesh->z[$i]))->minus($middle);
                $flat[] = [$to->dot($u), $to->dot($v), $to->dot($n)];
            }
            [$us, $vs] = [array_column($flat, 0), array_column($flat, 1)];
            [$lowU, $wide] = self::cells(min($us), max($us), $cells);
            [$lowV, $high] = self::cells(min($vs), max($vs), $cells);
            for ($j = 0; $j <= $cells; $j++) {
                for ($i = 0; $i <= $cells; $i++) {
                    $near = self::nearestOf($flat, $lowU + $i * $wide, $lowV + $j * $high);
                    // As high as the piece is there, so that a card is bowed as it is.
                    $at = $middle->plus($u->times($lowU + $i * $wide))->plus($v->times($lowV + $j * $high))->plus($n->times($flat[$near][2]));
                    [$x[], $y[], $z[]] = $at->toArray();
                    $pieceOf[] = $piece;
                    $nearest[] = $before + $near;
                    if ($i < $cells && $j < $cells) {
                        $a = $base + $j * ($cells + 1) + $i;
                        array_push($faces, $a, $a + 1, $a + $cells + 2, $a, $a + $cells + 2, $a + $cells + 1);
                    }
                }
            }
            foreach ($flat as $vertex => [$a, $b]) {
                $s = ($a - $lowU) / $wide;
                $t = ($b - $lowV) / $high;
                $i = max(0, min($cells - 1, (int) floor($s)));
                $j = max(0, min($cells - 1, (int) floor($t)));
                [$s, $t] = [$s - $i, $t - $j];
                $p = $base + $j * ($cells + 1) + $i;
                // Below the diagonal, or above it; beyond the card its faces go on.
                $over = $s >= $t ? [$p, $p + 1, $p + $cells + 2] : [$p, $p + $cells + 2, $p + $cells + 1];
                [$parts, $heights[]] = self::seenFrom(new Vec3($mesh->x[$vertex], $mesh->y[$vertex], $mesh->z[$vertex]), ...array_map(static fn (int $k): Vec3 => new Vec3($x[$k], $y[$k], $z[$k]), $over));
                array_push($corners, ...$over);
                array_push($shares, ...$parts);
            }
            $before += count($mesh->x);
        }

        return new self(new Mesh($x, $y, $z, $faces), $pieceOf, $corners, $shares, $heights, $nearest);
    }

    /** @return array{Vec3, Vec3, Vec3, Vec3} the middle of a piece, along it, across it, and the way it looks */
    private static function plane(Shard $shard): array
    {
        $mesh = $shard->mesh;
        $n = $shard->outwards();
        $middle = Vec3::zero();
        $all = 0.0;
        $weighed = [];
        for ($f = 0, $m = count($mesh->faces); $f < $m; $f += 3) {
            [$a, $b, $c] = array_map(static fn (int $p): Vec3 => new Vec3($mesh->x[$p], $mesh->y[$p], $mesh->z[$p]), array_slice($mesh->faces, $f, 3));
            $area = 0.5 * $b->minus($a)->cross($c->minus($a))->length();
            $at = $a->plus($b)->plus($c)->times(1.0 / 3.0);
            $middle = $middle->plus($at->times($area));
            $all += $area;
            $weighed[] = [$at, $area];
        }
        $middle = $middle->times(1.0 / max(1e-300, $all));
        if ($n->length() < 0.5) {
            $n = new Vec3(0.0, 1.0, 0.0);
        }
        $u = (abs($n->x) < 0.7 ? new Vec3(1.0, 0.0, 0.0) : new Vec3(0.0, 1.0, 0.0));
        $u = $u->minus($n->times($u->dot($n)))->unit();
        $v = $n->cross($u);
        // Along the larger of its two principal axes in that plane.
        $uu = $vv = $uv = 0.0;
        foreach ($weighed as [$at, $area]) {
            [$a, $b] = [$at->minus($middle)->dot($u), $at->minus($middle)->dot($v)];
            $uu += $area * $a * $a;
            $vv += $area * $b * $b;
            $uv += $area * $a * $b;
        }
        $turn = 0.5 * atan2(2.0 * $uv, $uu - $vv);
        $along = $u->times(cos($turn))->plus($v->times(sin($turn)));

        return [$middle, $along, $n->cross($along), $n];
    }

    /** @return array{array{float, float, float}, float} shares of the corners of a face that a place lies over, and how high over it it is */
    private static function seenFrom(Vec3 $at, Vec3 $a, Vec3 $b, Vec3 $c): array
    {
        [$u, $v, $to] = [$b->minus($a), $c->minus($a), $at->minus($a)];
        $n = $u->cross($v);
        $square = max(1e-300, $n->dot($n));
        $t = $to->cross($v)->dot($n) / $square;
        $r = $u->cross($to)->dot($n) / $square;

        return [[1.0 - $t - $r, $t, $r], $to->dot($n) / sqrt($square)];
    }

    /** @return array{float, float} where a card begins, and how long its cells are */
    private static function cells(float $low, float $high, int $cells): array
    {
        return [$low, max(1e-6, $high - $low) / $cells];
    }

    /** @param  list<array{float, float, float}>  $flat */
    private static function nearestOf(array $flat, float $u, float $v): int
    {
        $best = INF;
        $out = 0;
        foreach ($flat as $i => [$a, $b]) {
            $d = ($a - $u) ** 2 + ($b - $v) ** 2;
            if ($d < $best) {
                [$best, $out] = [$d, $i];
            }
        }

        return $out;
    }

    /**
     * Where the points of the pieces are.
     *
     * @param  list<float>  $x  of the cards
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return string packed float32, three a point
     */
    public function carried(array $x, array $y, array $z): string
    {
        $out = '';
        $corners = $this->corners;
        $shares = $this->shares;
        foreach ($this->heights as $v => $height) {
            $k = 3 * $v;
            [$a, $b, $c] = [$corners[$k], $corners[$k + 1], $corners[$k + 2]];
            [$s, $t, $r] = [$shares[$k], $shares[$k + 1], $shares[$k + 2]];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $wx = $x[$c] - $x[$a];
            $wy = $y[$c] - $y[$a];
            $wz = $z[$c] - $z[$a];
            $nx = $uy * $wz - $uz * $wy;
            $ny = $uz * $wx - $ux * $wz;
            $nz = $ux * $wy - $uy * $wx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $d = $l > 0.0 ? $height / $l : 0.0;
            $out .= pack(
                'g3', $s * $x[$a] + $t * $x[$b] + $r * $x[$c] + $d * $nx, $s * $y[$a] + $t * $y[$b] + $r * $y[$c] + $d * $ny,
                $s * $z[$a] + $t * $z[$b] + $r * $z[$c] + $d * $nz,
            );
        }

        return $out;
    }
}
