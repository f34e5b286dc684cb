<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\PlanarTriangulation;

/**
 * Cuts pieces of a solid in two along sheets.
 *
 * Where a sheet meets an edge a point is made once, whatever pieces share the edge, and the wall is made once and
 * used from both sides, so no gap can open. For a sheet with relief the faces near it are refined first, points on
 * edges are sought by root finding, and the wall carries points of its own, lifted to the relief.
 */
final class SheetCutter
{
    private const TOO_NEAR = 1e-11;

    private const REFINEMENTS = 12;

    /** A point on an edge is sought until it lies this near to the sheet, in units; both pieces share it, so nearer gains nothing. */
    private const ON_SHEET = 1e-7;

    /** @var list<float> */
    private array $px;

    /** @var list<float> */
    private array $py;

    /** @var list<float> */
    private array $pz;

    /** @var list<array{float, float, float}> */
    private array $walls = [];

    /** @var list<float> distance of each point from the sheet at hand */
    private array $side = [];

    /** @var array<int, int> points in the middle of edges that were refined */
    private array $middle = [];

    public function __construct(private readonly Mesh $unit)
    {
        $this->px = $unit->x;
        $this->py = $unit->y;
        $this->pz = $unit->z;
    }

    public function whole(): Piece
    {
        return new Piece($this->unit->faces, range(0, $this->unit->faceCount() - 1));
    }

    /** @param  list<Piece>  $pieces */
    public function cut(array $pieces): Cut
    {
        return new Cut(
            $this->px,
            $this->py,
            $this->pz,
            array_map(static fn (Piece $p): array => $p->faces, $pieces),
            array_map(static fn (Piece $p): array => $p->origins, $pieces),
            $this->walls,
        );
    }

    /** Six times the volume, in units. */
    public function volume(Piece $piece): float
    {
        $x = $this->px;
        $y = $this->py;
        $z = $this->pz;
        $sum = 0.0;
        $f = $piece->faces;
        for ($i = 0, $n = count($f); $i < $n; $i += 3) {
            $a = $f[$i];
            $b = $f[$i + 1];
            $c = $f[$i + 2];
            $sum += $x[$a] * ($y[$b] * $z[$c] - $z[$b] * $y[$c]) + $y[$a] * ($z[$b] * $x[$c] - $x[$b] * $z[$c]) + $z[$a] * ($x[$b] * $y[$c] - $y[$b] * $x[$c]);
        }

        return $sum;
    }

    /**
     * The box round a piece.
     *
     * @return array{list<float>, list<float>} low and high corner
     */
    public function box(Piece $piece): array
    {
        $low = $high = [];
        foreach ([$this->px, $this->py, $this->pz] as $at) {
            $least = INF;
            $most = -INF;
            foreach ($piece->faces as $p) {
                $v = $at[$p];
                $least = $v < $least ? $v : $least;
                $most = $v > $most ? $v : $most;
            }
            $low[] = $least;
            $high[] = $most;
        }

        return [$low, $high];
    }

    /**
     * @return array{Piece|null, Piece|null} what lies behind the sheet, and what before it
     *
     * @throws \UnexpectedValueException where the sheet meets a point so nearly that no sound cut can be made: shift it a little
     */
    public function split(Piece $piece, Sheet $sheet): array
    {
        if (! $sheet->isFlat()) {
            $piece = $this->refined($piece, $sheet);
        }
        $faces = $piece->faces;
        $origins = $piece->origins;
        $this->measure($faces, $sheet);
        $side = $this->side;
        $outBehind = $outBefore = $originsBehind = $originsBefore = $next = [];
        for ($f = 0, $n = count($origins); $f < $n; $f++) {
            $a = $faces[3 * $f];
            $b = $faces[3 * $f + 1];
            $c = $faces[3 * $f + 2];
            $sa = $side[$a];
            $sb = $side[$b];
            $sc = $side[$c];
            if ($sa > self::TOO_NEAR && $sb > self::TOO_NEAR && $sc > self::TOO_NEAR) {
                $outBefore[] = $a;
                $outBefore[] = $b;
                $outBefore[] = $c;
                $originsBefore[] = $origins[$f];

                continue;
            }
            if ($sa < -self::TOO_NEAR && $sb < -self::TOO_NEAR && $sc < -self::TOO_NEAR) {
                $outBehind[] = $a;
                $outBehind[] = $b;
                $outBehind[] = $c;
                $originsBehind[] = $origins[$f];

                continue;
            }
            if (abs($sa) <= self::TOO_NEAR || abs($sb) <= self::TOO_NEAR || abs($sc) <= self::TOO_NEAR) {
                throw new \UnexpectedValueException('sheet through a point');
            }
            // Turned so that the corner that stands alone comes first.
            $first = $a;
            if ($sa > 0.0 === $sc > 0.0) {
                $a = $b;
                $b = $c;
                $c = $first;
                $sa = $sb;
            } elseif ($sa > 0.0 === $sb > 0.0) {
                $a = $c;
                $c = $b;
                $b = $first;
                $sa = $sc;
            }
            $p = $this->meets($sheet, $a, $b);
            $q = $this->meets($sheet, $a, $c);
            $rest = $this->far($p, $c) < $this->far($b, $q) ? [$p, $b, $c, $p, $c, $q] : [$p, $b, $q, $b, $c, $q];
            if ($sa > 0.0) {
                array_push($outBefore, $a, $p, $q);
                $originsBefore[] = $origins[$f];
                array_push($outBehind, ...$rest);
                array_push($originsBehind, $origins[$f], $origins[$f]);
            } else {
                array_push($outBehind, $a, $p, $q);
                $originsBehind[] = $origins[$f];
                array_push($outBefore, ...$rest);
                array_push($originsBefore, $origins[$f], $origins[$f]);
            }
            // The wall that closes what lies behind runs against the border of the faces there.
            [$from, $to] = $sa > 0.0 ? [$p, $q] : [$q, $p];
            if ($from === $to || isset($next[$from])) {
                throw new \UnexpectedValueException('rims meet in a point');
            }
            $next[$from] = $to;
        }
        if ($next === []) {
            return $outBehind === []
                ? [null, $piece]
                : ($outBefore === [] ? [$piece, null] : [new Piece($outBehind, $originsBehind), new Piece($outBefore, $originsBefore)]);
        }
        [$tri, $normal] = $this->wall($next, $sheet);
        $w = count($this->walls);
        $this->walls[] = $normal;
        for ($i = 0, $n = count($tri); $i < $n; $i += 3) {
            array_push($outBehind, $tri[$i], $tri[$i + 1], $tri[$i + 2]);
            $originsBehind[] = -1 - 2 * $w;
            array_push($outBefore, $tri[$i], $tri[$i + 2], $tri[$i + 1]);
            $originsBefore[] = -2 - 2 * $w;
        }

        return [new Piece($outBehind, $originsBehind), new Piece($outBefore, $originsBefore)];
    }

    private function far(int $p, int $q): float
    {
        $x = $this->px[$p] - $this->px[$q];
        $y = $this->py[$p] - $this->py[$q];
        $z = $this->pz[$p] - $this->pz[$q];

        return $x * $x + $y * $y + $z * $z;
    }

    /**
     * The point where the sheet meets an edge, the same from whichever side it is asked for.
     */
    private function meets(Sheet $sheet, int $a, int $b): int
    {
        if ($a > $b) {
            [$a, $b] = [$b, $a];
        }
        $key = $a << 31 | $b;
        if (isset($sheet->met[$key])) {
            return $sheet->met[$key];
        }
        $ax = $this->px[$a];
        $ay = $this->py[$a];
        $az = $this->pz[$a];
        $dx = $this->px[$b] - $ax;
        $dy = $this->py[$b] - $ay;
        $dz = $this->pz[$b] - $az;
        $sa = $this->side[$a];
        $sb = $this->side[$b];
        $t = $sa / ($sa - $sb);
        if (! $sheet->isFlat()) {
            // Regula falsi, with the end that stays weakened (Illinois method).
            $low = 0.0;
            $high = 1.0;
            for ($i = 0; $i < 30; $i++) {
                $s = $sheet->from($ax + $t * $dx, $ay + $t * $dy, $az + $t * $dz);
                if (abs($s) < self::ON_SHEET) {
                    break;
                }
                if (($s > 0.0) === ($sb > 0.0)) {
                    $high = $t;
                    $sb = $s;
                    $sa *= 0.5;
                } else {
                    $low = $t;
                    $sa = $s;
                    $sb *= 0.5;
                }
                $t = $low + ($high - $low) * $sa / ($sa - $sb);
            }
        }
        $this->px[] = $ax + $t * $dx;
        $this->py[] = $ay + $t * $dy;
        $this->pz[] = $az + $t * $dz;

        return $sheet->met[$key] = count($this->px) - 1;
    }

    /**
     * @param  array<int, int>  $next  the wall's rim, point by point, counter-clockwise seen from before the sheet
     * @return array{list<int>, array{float, float, float}} triangles facing along the normal; and the wall's normal, zero where each triangle has its own
     */
    private function wall(array $next, Sheet $sheet): array
    {
        $loops = Rim::loops($next);
        $u = $v = [];
        foreach ($loops as $loop) {
            foreach ($loop as $at) {
                $x = $this->px[$at] - $sheet->through->x;
                $y = $this->py[$at] - $sheet->through->y;
                $z = $this->pz[$at] - $sheet->through->z;
                $u[$at] = $sheet->u->x * $x + $sheet->u->y * $y + $sheet->u->z * $z;
                $v[$at] = $sheet->v->x * $x + $sheet->v->y * $y + $sheet->v->z * $z;
            }
        }
        $tri = PlanarTriangulation::of($loops, $u, $v);
        if ($sheet->isFlat()) {
            return [$tri, $sheet->normal->toArray()];
        }
        $filled = new FilledTriangulation($tri, $u, $v);
        foreach ($filled->fill($sheet->step, count($this->px)) as [$pu, $pv]) {
            $h = $sheet->relief($pu, $pv);
            $this->px[] = $sheet->through->x + $sheet->u->x * $pu + $sheet->v->x * $pv + $sheet->normal->x * $h;
            $this->py[] = $sheet->through->y + $sheet->u->y * $pu + $sheet->v->y * $pv + $sheet->normal->y * $h;
            $this->pz[] = $sheet->through->z + $sheet->u->z * $pu + $sheet->v->z * $pv + $sheet->normal->z * $h;
        }

        return [$filled->triangles(), [0.0, 0.0, 0.0]];
    }

    /**
     * Signed distances of points from the sheet, put in their places in `side`.
     *
     * @param  list<int>  $points  as often as they come
     */
    private function measure(array $points, Sheet $sheet): void
    {
        $px = $this->px;
        $py = $this->py;
        $pz = $this->pz;
        $side = $this->side;
        $this->side = [];
        for ($i = count($side), $n = count($px); $i < $n; $i++) {
            $side[] = 0.0;
        }
        ['x' => $nx, 'y' => $ny, 'z' => $nz] = get_object_vars($sheet->normal);
        ['x' => $tx, 'y' => $ty, 'z' => $tz] = get_object_vars($sheet->through);
        $d = $nx * $tx + $ny * $ty + $nz * $tz;
        $reach = $sheet->reach();
        foreach ($points as $p) {
            $s = $nx * $px[$p] + $ny * $py[$p] + $nz * $pz[$p] - $d;
            if ($s <= $reach && $s >= -$reach) {
                // A point measured before for this sheet keeps its place; only what is near costs.
                $s = $sheet->known[$p] ??= $sheet->from($px[$p], $py[$p], $pz[$p]);
            }
            $side[$p] = $s;
        }
        $this->side = $side;
    }

    /** Faces the sheet may pass are made no larger than its step, so that it cannot slip through between points. */
    private function refined(Piece $piece, Sheet $sheet): Piece
    {
        $faces = $piece->faces;
        $origins = $piece->origins;
        $most = 2.25 * $sheet->step * $sheet->step;
        $steep = (1.0 + $sheet->steepness()) ** 2;
        $first = 0;
        for ($round = 0; $round < self::REFINEMENTS; $round++) {
            $this->measure($round === 0 ? $faces : array_slice($faces, $first), $sheet);
            $side = $this->side;
            $px = $this->px;
            $py = $this->py;
            $pz = $this->pz;
            $marked = $ends = [];
            for ($i = $first, $n = count($faces); $i < $n; $i += 3) {
                $a = $faces[$i];
                $b = $faces[$i + 1];
                $c = $faces[$i + 2];
                $x = $px[$a] - $px[$b];
                $y = $py[$a] - $py[$b];
                $z = $pz[$a] - $pz[$b];
                $ab = $x * $x + $y * $y + $z * $z;
                $x = $px[$b] - $px[$c];
                $y = $py[$b] - $py[$c];
                $z = $pz[$b] - $pz[$c];
                $bc = $x * $x + $y * $y + $z * $z;
                $x = $px[$c] - $px[$a];
                $y = $py[$c] - $py[$a];
                $z = $pz[$c] - $pz[$a];
                $ca = $x * $x + $y * $y + $z * $z;
                if ($ab <= $most && $bc <= $most && $ca <= $most) {
                    continue;
                }
                $longest = $ab > $bc ? ($ab > $ca ? $ab : $ca) : ($bc > $ca ? $bc : $ca);
                $least = min(abs($side[$a]), abs($side[$b]), abs($side[$c]));
                if ($least * $least > $steep * $longest) {
                    continue;
                }
                foreach ([[$a, $b, $ab], [$b, $c, $bc], [$c, $a, $ca]] as [$p, $q, $length]) {
                    if ($length > $most) {
                        $marked[$p < $q ? $p << 31 | $q : $q << 31 | $p] = true;
                        $ends[$p] = $ends[$q] = true;
                    }
                }
            }
            if ($marked === []) {
                break;
            }
            // Let go of, or every point added would copy them all, as would the next measuring.
            unset($px, $py, $pz, $side);
            [$faces, $origins, $first] = $this->halved($faces, $origins, $marked, $ends);
        }

        return new Piece($faces, $origins);
    }

    /**
     * @param  list<int>  $faces
     * @param  list<int>  $origins
     * @param  array<int, true>  $marked  edges to halve
     * @param  array<int, true>  $ends  their points
     * @return array{list<int>, list<int>, int} faces and origins, those that were not halved first; and where the others begin
     */
    private function halved(array $faces, array $origins, array $marked, array $ends): array
    {
        $out = $from = $kept = $keptFrom = [];
        foreach ($origins as $f => $origin) {
            $i = 3 * $f;
            if ((isset($ends[$faces[$i]]) ? 1 : 0) + (isset($ends[$faces[$i + 1]]) ? 1 : 0) + (isset($ends[$faces[$i + 2]]) ? 1 : 0) < 2) {
                $kept[] = $faces[$i];
                $kept[] = $faces[$i + 1];
                $kept[] = $faces[$i + 2];
                $keptFrom[] = $origin;

                continue;
            }
            $c = [$faces[$i], $faces[$i + 1], $faces[$i + 2]];
            $m = [];
            $count = 0;
            for ($k = 0; $k < 3; $k++) {
                $p = $c[$k];
                $q = $c[($k + 1) % 3];
                $key = $p < $q ? $p << 31 | $q : $q << 31 | $p;
                $m[] = isset($marked[$key]) ? $this->middleOf($key) : -1;
                $count += isset($marked[$key]) ? 1 : 0;
            }
            if ($count === 0) {
                array_push($kept, ...$c);
                $keptFrom[] = $origin;

                continue;
            }
            if ($count === 3) {
                array_push($out, $c[0], $m[0], $m[2], $m[0], $c[1], $m[1], $m[2], $m[1], $c[2], $m[0], $m[1], $m[2]);
                array_push($from, $origin, $origin, $origin, $origin);

                continue;
            }
            // Turned so that the first edge is marked, and the second with it where two are.
            while (! ($m[0] >= 0 && ($count === 1 || $m[1] >= 0))) {
                $c = [$c[1], $c[2], $c[0]];
                $m = [$m[1], $m[2], $m[0]];
            }
            if ($count === 1) {
                array_push($out, $c[0], $m[0], $c[2], $m[0], $c[1], $c[2]);
                array_push($from, $origin, $origin);
            } else {
                array_push($out, $m[0], $c[1], $m[1], $c[0], $m[0], $m[1], $c[0], $m[1], $c[2]);
                array_push($from, $origin, $origin, $origin);
            }
        }

        return [array_merge($kept, $out), array_merge($keptFrom, $from), count($kept)];
    }

    private function middleOf(int $edge): int
    {
        if (! isset($this->middle[$edge])) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $this->px[] = 0.5 * ($this->px[$p] + $this->px[$q]);
            $this->py[] = 0.5 * ($this->py[$p] + $this->py[$q]);
            $this->pz[] = 0.5 * ($this->pz[$p] + $this->pz[$q]);
            $this->middle[$edge] = count($this->px) - 1;
        }

        return $this->middle[$edge];
    }
}
