<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Collide\NearCreases;
use YardBreak\Core\Geometry\Cell;

/**
 * Where a sheet touches what stands and moves, or would pass into it within a sub-step: its points at their surfaces; and, for what is finer
 * than its mesh, their corners at its faces, and their convex edges at its edges.
 */
final class Touches
{
    /** m/s at most with which what lies too deep in something is pushed out. */
    private const PUSH = 0.5;

    /** s within which it is, where it lies less deep: at once it would be strained, and spring. */
    private const SOON = 0.1;

    /** Times its thickness that a corner or an edge may be on the wrong side of cloth to be on it still: less than half of what walls have. */
    private const DEEP = 1.5;

    /** Times its longest edge by which faces reach beyond their corners. */
    private const WIDE = 0.6;

    /** Times its edge that corners and edges may stand out between its points: what is round to that is met by the points alone. */
    private const STANDS = 0.02;

    /** Times its edge from which on edges of what it meets count: of shorter ones the corners do. */
    private const LONG = 0.3;

    /** m, more than any gap. */
    private const FIRST = 1e6;

    /** Times the way things go against each other within a sub-step that they are looked at before they meet. */
    private const AHEAD = 1.5;

    /** Cosine between a face, or the line across two edges, and the way a surface looks, from which on they can touch. */
    private const FACING = 0.2;

    /** m by which it came nearer than its thickness to what it meets, at most, since that was last told. */
    public float $deepest = 0.0;

    /** @var list<int> points that may touch something */
    private array $about = [];

    /** @var list<int> faces that may */
    private array $faces = [];

    /** @var array<int, array{int, int}> pairs that may */
    private array $pairs = [];

    private ?NearCreases $creases = null;

    /** m/s by which any point that may touch something goes against it at most. */
    private float $against = 0.0;

    /** @param  bool  $finely  whether corners and edges finer than its mesh are met too */
    public function __construct(private readonly Sheet $sheet, private readonly bool $finely = true)
    {
    }

    /** m from which it may come to touch something while so much time passes. */
    public static function reach(Sheet $sheet, Colliders $colliders, float $thickness, float $seconds, float $weight): float
    {
        return $thickness + self::AHEAD * $seconds * ($sheet->fastest() + $colliders->fastest() + $weight * $seconds) + self::WIDE * $sheet->weave->longest;
    }

    /**
     * What may be touched while some time passes.
     *
     * @param  float  $weight  m/s²
     */
    public function look(Colliders $colliders, float $thickness, float $seconds, float $weight): void
    {
        $sheet = $this->sheet;
        $reach = self::reach($sheet, $colliders, $thickness, $seconds, $weight);
        $this->about = $this->faces = $this->pairs = [];
        $this->creases = null;
        $near = $firm = [];
        $found = $colliders->nearest($sheet->x, $sheet->y, $sheet->z, $reach);
        foreach ($found->distance as $i => $distance) {
            if (is_finite($distance)) {
                $this->about[] = $i;
                $near[$i] = true;
                if ($found->prop[$i] >= 0) {
                    $firm[$i] = true;
                }
            }
        }
        if ($firm === [] || ! $this->finely) {
            return;
        }
        $box = [INF, INF, INF, -INF, -INF, -INF];
        foreach ($firm as $i => $_) {
            $box = [
                min($box[0], $sheet->x[$i]), min($box[1], $sheet->y[$i]), min($box[2], $sheet->z[$i]), max($box[3], $sheet->x[$i]), max($box[4], $sheet->y[$i]), max($box[5], $sheet->z[$i]),
            ];
        }
        $this->creases = $colliders->creases([$box[0] - $reach, $box[1] - $reach, $box[2] - $reach, $box[3] + $reach, $box[4] + $reach, $box[5] + $reach], self::LONG * $sheet->weave->edge);
        if ($this->creases->x === []) {
            return;
        }
        [$corners, $sides] = [$sheet->weave->faces, $sheet->weave->sides];
        for ($t = 0, $n = count($corners); $t < $n; $t += 3) {
            if (isset($firm[$corners[$t]]) || isset($firm[$corners[$t + 1]]) || isset($firm[$corners[$t + 2]])) {
                $this->faces[] = $t;
                foreach ([$sides[$t], $sides[$t + 1], $sides[$t + 2]] as $pair) {
                    $this->pairs[$pair] = [$sheet->weave->pairs[2 * $pair], $sheet->weave->pairs[2 * $pair + 1]];
                }
            }
        }
    }

    /**
     * @param  array<int, float>  $hold  how much points are held
     * @param  float  $since  s since that was looked at
     * @param  float  $friction  of the cloth
     * @param  float  $weight  m/s²
     * @return array<int, Contact>
     */
    public function now(Colliders $colliders, float $thickness, array $hold, float $h, float $since, float $friction, float $weight): array
    {
        if ($this->about === []) {
            return [];
        }
        $out = $this->atPoints($colliders, $thickness, $hold, $h, $since, $friction, $weight);
        if ($this->creases === null || $this->faces === []) {
            return $out;
        }
        $held = array_filter($hold, static fn (float $share): bool => $share >= Sheet::HELD);
        $reach = $thickness + self::AHEAD * $h * ($this->against + $weight * $h);
        $out += $this->atFaces($colliders, $this->creases, $thickness, $held, $h, $since, $friction, $reach) + $this->atEdges($colliders, $this->creases, $thickness, $held, $h, $since, $friction, $reach);
        // Those of the solve have no point in common: what was pressed before comes first, then the deepest.
        $pressed = $this->sheet->pressed();
        $order = [];
        foreach ($out as $key => $contact) {
            $order[$key] = $contact->gap - (isset($pressed[$key]) ? self::FIRST : 0.0);
        }
        asort($order);
        $taken = [];
        foreach (array_keys($order) as $key) {
            $contact = $out[$key];
            foreach ($contact->points as $i) {
                $contact->shares = $contact->shares || isset($taken[$i]);
            }
            foreach ($contact->shares ? [] : $contact->points as $i) {
                $taken[$i] = true;
            }
            // Corners and edges that would only be shoved out after the solve disturb more than they help: the points about them are set.
            if ($contact->shares && count($contact->points) > 1) {
                unset($out[$key]);
            }
        }

        return $out;
    }

    /**
     * @param  array<int, float>  $hold
     * @return array<int, Contact> by point
     */
    private function atPoints(Colliders $colliders, float $thickness, array $hold, float $h, float $since, float $friction, float $weight): array
    {
        $sheet = $this->sheet;
        $x = $y = $z = [];
        foreach ($this->about as $i) {
            $x[] = $sheet->x[$i];
            $y[] = $sheet->y[$i];
            $z[] = $sheet->z[$i];
        }
        $found = $colliders->nearest($x, $y, $z, self::reach($sheet, $colliders, $thickness, $h, $weight));
        [$vx, $vy, $vz] = $colliders->velocities($x, $y, $z, $found);
        $out = [];
        $this->against = 0.0;
        foreach ($found->distance as $k => $distance) {
            $i = $this->about[$k];
            if (! is_finite($distance)) {
                continue;
            }
            $this->against = max($this->against, sqrt(($sheet->vx[$i] - $vx[$k]) ** 2 + ($sheet->vy[$i] - $vy[$k]) ** 2 + ($sheet->vz[$i] - $vz[$k]) ** 2));
            if (($hold[$i] ?? 0.0) < Sheet::HELD) {
                $goes = $vx[$k] * $found->nx[$k] + $vy[$k] * $found->ny[$k] + $vz[$k] * $found->nz[$k];
                // What it meets has moved on since it was looked at.
                $out[$i] = $this->contact(
                    [$i], [1.0], [$found->nx[$k], $found->ny[$k], $found->nz[$k]], $distance - $goes * $since - $thickness, [$vx[$k], $vy[$k], $vz[$k]],
                    sqrt($friction * $colliders->surface($found->prop[$k])[0]), $h, $found->prop[$k], $found->piece[$k],
                );
            }
        }

        return $out;
    }

    /**
     * @param  list<int>  $points
     * @param  list<float>  $weights
     * @param  array{float, float, float}  $n
     * @param  array{float, float, float}  $v  m/s of the surface
     */
    private function contact(array $points, array $weights, array $n, float $gap, array $v, float $friction, float $h, int $prop, int $piece): Contact
    {
        $this->deepest = max($this->deepest, -$gap);

        return new Contact(
            $points, $weights, ...$n, gap: $gap, least: $v[0] * $n[0] + $v[1] * $n[1] + $v[2] * $n[2] - max(0.0, $gap) / $h, sx: $v[0], sy: $v[1], sz: $v[2],
            friction: $friction, out: max(0.0, min(self::PUSH, -$gap / self::SOON, -$gap / $h)), prop: $prop, piece: $piece,
        );
    }

    /**
     * Corners at faces, the nearest at each quarter of one.
     *
     * @param  array<int, float>  $held
     * @return array<int, Contact>
     */
    private function atFaces(Colliders $colliders, NearCreases $creases, float $thickness, array $held, float $h, float $since, float $friction, float $reach): array
    {
        [$x, $y, $z] = [$this->sheet->x, $this->sheet->y, $this->sheet->z];
        $corners = $this->sheet->weave->faces;
        $boxes = [];
        foreach ($this->faces as $t) {
            [$a, $b, $c] = [$corners[$t], $corners[$t + 1], $corners[$t + 2]];
            $boxes[] = [min($x[$a], $x[$b], $x[$c]), min($y[$a], $y[$b], $y[$c]), min($z[$a], $z[$b], $z[$c]), max($x[$a], $x[$b], $x[$c]), max($y[$a], $y[$b], $y[$c]), max($z[$a], $z[$b], $z[$c])];
        }
        $k = 1.0 / ($this->sheet->weave->longest + $reach);
        $cells = self::inCells($boxes, $reach, $k);
        $best = [];
        $allowed = self::STANDS * $this->sheet->weave->edge - $thickness;
        $deep = -self::DEEP * $thickness;
        foreach ($creases->x as $v => $px) {
            $px += $since * $creases->vx[$v];
            $py = $creases->y[$v] + $since * $creases->vy[$v];
            $pz = $creases->z[$v] + $since * $creases->vz[$v];
            foreach ($cells[Cell::of($k * $px, $k * $py, $k * $pz)] ?? [] as $f) {
                $box = $boxes[$f];
                if ($px < $box[0] - $reach || $px > $box[3] + $reach || $py < $box[1] - $reach || $py > $box[4] + $reach || $pz < $box[2] - $reach || $pz > $box[5] + $reach) {
                    continue;
                }
                $t = $this->faces[$f];
                $a = $corners[$t];
                $b = $corners[$t + 1];
                $c = $corners[$t + 2];
                $ux = $x[$b] - $x[$a];
                $uy = $y[$b] - $y[$a];
                $uz = $z[$b] - $z[$a];
                $wx = $x[$c] - $x[$a];
                $wy = $y[$c] - $y[$a];
                $wz = $z[$c] - $z[$a];
                $nx = $uy * $wz - $uz * $wy;
                $ny = $uz * $wx - $ux * $wz;
                $nz = $ux * $wy - $uy * $wx;
                $twice = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $facing = $nx * $creases->nx[$v] + $ny * $creases->ny[$v] + $nz * $creases->nz[$v];
                if ($twice < 1e-18 || abs($facing) < self::FACING * $twice) {
                    continue;
                }
                $l = ($facing > 0.0 ? 1.0 : -1.0) / $twice;
                $dx = $px - $x[$a];
                $dy = $py - $y[$a];
                $dz = $pz - $z[$a];
                $gap = -$l * ($dx * $nx + $dy * $ny + $dz * $nz) + $allowed;
                if ($gap > $reach || $gap < $deep) {
                    continue;
                }
                // Where it is above the face: its share of the two sides.
                $s = (($dy * $wz - $dz * $wy) * $nx + ($dz * $wx - $dx * $wz) * $ny + ($dx * $wy - $dy * $wx) * $nz) / ($twice * $twice);
                $r = (($uy * $dz - $uz * $dy) * $nx + ($uz * $dx - $ux * $dz) * $ny + ($ux * $dy - $uy * $dx) * $nz) / ($twice * $twice);
                if ($s < 0.0 || $r < 0.0 || $s + $r > 1.0) {
                    continue;
                }
                $quarter = 1.0 - $s - $r > 0.5 ? 0 : ($s > 0.5 ? 1 : ($r > 0.5 ? 2 : 3));
                if (! isset($best[4 * $f + $quarter]) || $gap < $best[4 * $f + $quarter][0]) {
                    $best[4 * $f + $quarter] = [$gap, $v, [$a, $b, $c], [1.0 - $s - $r, $s, $r], [$l * $nx, $l * $ny, $l * $nz]];
                }
            }
        }
        $out = [];
        $first = $this->sheet->weave->count();
        foreach ($best as $key => [$gap, $v, $points, $weights, $n]) {
            $this->put($out, $first + 4 * intdiv($this->faces[$key >> 2], 3) + ($key & 3), $points, $weights, $n, $gap, [$creases->vx[$v], $creases->vy[$v], $creases->vz[$v]], $creases->of[2 * $v], $creases->of[2 * $v + 1], $colliders, $held, $h, $friction);
        }

        return $out;
    }

    /**
     * Convex edges at edges, the nearest at each.
     *
     * @param  array<int, float>  $held
     * @return array<int, Contact>
     */
    private function atEdges(Colliders $colliders, NearCreases $creases, float $thickness, array $held, float $h, float $since, float $friction, float $reach): array
    {
        [$x, $y, $z] = [$this->sheet->x, $this->sheet->y, $this->sheet->z];
        $boxes = $pairs = [];
        foreach ($this->pairs as $pair => [$a, $b]) {
            $pairs[] = [$pair, $a, $b];
            $boxes[] = [min($x[$a], $x[$b]), min($y[$a], $y[$b]), min($z[$a], $z[$b]), max($x[$a], $x[$b]), max($y[$a], $y[$b]), max($z[$a], $z[$b])];
        }
        $k = 1.0 / ($this->sheet->weave->longest + $reach);
        $cells = self::inCells($boxes, $reach, $k);
        $best = [];
        $allowed = self::STANDS * $this->sheet->weave->edge - $thickness;
        $deep = -self::DEEP * $thickness;
        foreach ($creases->ex as $e => $ex) {
            $p = $creases->edges[2 * $e];
            $q = $creases->edges[2 * $e + 1];
            $ax = $creases->x[$p] + $since * $creases->vx[$p];
            $ay = $creases->y[$p] + $since * $creases->vy[$p];
            $az = $creases->z[$p] + $since * $creases->vz[$p];
            $fx = $creases->x[$q] + $since * $creases->vx[$q] - $ax;
            $fy = $creases->y[$q] + $since * $creases->vy[$q] - $ay;
            $fz = $creases->z[$q] + $since * $creases->vz[$q] - $az;
            $steps = 1 + (int) (2.0 * $k * sqrt($fx * $fx + $fy * $fy + $fz * $fz));
            $asked = [];
            for ($m = 0; $m <= $steps; $m++) {
                $share = $m / $steps;
                $asked += array_fill_keys($cells[Cell::of($k * ($ax + $share * $fx), $k * ($ay + $share * $fy), $k * ($az + $share * $fz))] ?? [], true);
            }
            foreach ($asked as $g => $_) {
                [, $a, $b] = $pairs[$g];
                $ux = $x[$b] - $x[$a];
                $uy = $y[$b] - $y[$a];
                $uz = $z[$b] - $z[$a];
                $nx = $uy * $fz - $uz * $fy;
                $ny = $uz * $fx - $ux * $fz;
                $nz = $ux * $fy - $uy * $fx;
                $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $facing = $nx * $ex + $ny * $creases->ey[$e] + $nz * $creases->ez[$e];
                if ($l < 1e-18 || abs($facing) < self::FACING * $l) {
                    continue;
                }
                $dx = $ax - $x[$a];
                $dy = $ay - $y[$a];
                $dz = $az - $z[$a];
                $l2 = 1.0 / ($l * $l);
                // Shares of both lines where these come nearest.
                $s = $l2 * (($dy * $fz - $dz * $fy) * $nx + ($dz * $fx - $dx * $fz) * $ny + ($dx * $fy - $dy * $fx) * $nz);
                $r = $l2 * (($dy * $uz - $dz * $uy) * $nx + ($dz * $ux - $dx * $uz) * $ny + ($dx * $uy - $dy * $ux) * $nz);
                if ($s < 0.0 || $s > 1.0 || $r < 0.0 || $r > 1.0) {
                    continue;
                }
                $l = ($facing > 0.0 ? 1.0 : -1.0) / $l;
                $gap = -$l * ($dx * $nx + $dy * $ny + $dz * $nz) + $allowed;
                if ($gap <= $reach && $gap >= $deep && (! isset($best[$g]) || $gap < $best[$g][0])) {
                    $best[$g] = [$gap, $p, $q, $r, [$a, $b], [1.0 - $s, $s], [$l * $nx, $l * $ny, $l * $nz]];
                }
            }
        }
        $out = [];
        $first = $this->sheet->weave->count() + 4 * intdiv(count($this->sheet->weave->faces), 3);
        foreach ($best as $g => [$gap, $p, $q, $r, $points, $weights, $n]) {
            $v = [$creases->vx[$p] + $r * ($creases->vx[$q] - $creases->vx[$p]), $creases->vy[$p] + $r * ($creases->vy[$q] - $creases->vy[$p]), $creases->vz[$p] + $r * ($creases->vz[$q] - $creases->vz[$p])];
            $this->put($out, $first + $pairs[$g][0], $points, $weights, $n, $gap, $v, $creases->of[2 * $p], $creases->of[2 * $p + 1], $colliders, $held, $h, $friction);
        }

        return $out;
    }

    /**
     * Puts a contact where it counts: where the place would pass the surface, and something of it is free.
     *
     * @param  array<int, Contact>  $out
     * @param  list<int>  $points
     * @param  list<float>  $weights
     * @param  array{float, float, float}  $n
     * @param  array{float, float, float}  $v
     * @param  array<int, float>  $held
     */
    private function put(array &$out, int $key, array $points, array $weights, array $n, float $gap, array $v, int $prop, int $piece, Colliders $colliders, array $held, float $h, float $friction): void
    {
        foreach ($points as $i) {
            if (isset($held[$i])) {
                return;
            }
        }
        $out[$key] = $this->contact($points, $weights, $n, $gap, $v, sqrt($friction * $colliders->surface($prop)[0]), $h, $prop, $piece);
    }

    /**
     * @param  list<array{float, float, float, float, float, float}>  $boxes
     * @return array<int, list<int>> numbers of boxes, wider by a reach, by cell they lie in
     */
    private static function inCells(array $boxes, float $reach, float $k): array
    {
        $cells = [];
        foreach ($boxes as $f => [$x0, $y0, $z0, $x1, $y1, $z1]) {
            for ($a = (int) floor($k * ($x0 - $reach)), $a1 = (int) floor($k * ($x1 + $reach)); $a <= $a1; $a++) {
                for ($b = (int) floor($k * ($y0 - $reach)), $b1 = (int) floor($k * ($y1 + $reach)); $b <= $b1; $b++) {
                    for ($c = (int) floor($k * ($z0 - $reach)), $c1 = (int) floor($k * ($z1 + $reach)); $c <= $c1; $c++) {
                        $cells[$a * Cell::X + $b * Cell::Y + $c][] = $f;
                    }
                }
            }
        }

        return $cells;
    }
}
