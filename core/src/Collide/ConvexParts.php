<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Mesh;

/**
 * What is not convex, as convex parts: its surface is cut again and again where it lies deepest inside its hull, and parts that go together
 * are joined. Only the surface is cut and no faces are put where it is, for hulls ask for points alone, so that open surfaces do as well.
 *
 * Approximate convex decomposition by the deepest point, as of Lien & Amato 2007, "Approximate convex decomposition of polyhedra";
 * depth is judged, not volume: a hull a tenth larger than what it holds may be right, and one a hundredth larger wrong.
 */
final class ConvexParts
{
    /** Places looked at where cuts are compared. */
    private const GLANCE = 300;

    /** Cuts that are looked at closer, where it is worth the time. */
    private const CLOSER = 5;

    /** Share of the size from which two places are worth a cut each. */
    private const FAR = 0.25;

    /** Share of the volume of a part that each half must have. */
    private const WORTH = 0.02;

    /** Share of the depth allowed that points may lie outside the hulls measured. */
    private const ROUGHLY = 0.05;

    /** Share of the size within which a face lies in a cut. */
    private const BESIDE = 0.005;

    /** Cosine beyond which a face of a hull looks away from a place of the surface, so that the place is no farther inside for it. */
    private const AWAY = -0.3;

    /** Cosine from which a face looks the way a cut does. */
    private const ALONG = 0.5;

    /** Times the depth reached up to which fewer parts are better. */
    private const LITTLE = 1.25;

    /** Share of two parts' volume that their common hull may add. */
    private const JOINED = 0.35;

    /** Times as many parts as wanted are cut before parts are joined. */
    private const FINER = 1.25;

    /** @var array<int, array{array{float, float, float, float}, int, int}> by cell: the plane it was cut by, the cell behind it and the one before it */
    private array $tree = [];

    private int $cells = 1;

    /** Metres that is close enough, for what cannot be had as close as wanted. */
    private float $enough = 0.0;

    /**
     * @param  float  $size  metres, of the whole
     * @param  float  $within  metres that its surface may lie inside the hulls
     * @param  bool  $closely  whether to look for better cuts, at some times the cost
     */
    private function __construct(private readonly SurfacePlaces $places, private readonly float $size, private readonly float $within, private readonly bool $closely)
    {
    }

    /**
     * @param  Mesh  $mesh  about its middle
     * @param  float  $within  share of its size that its surface may lie inside the hulls
     * @param  int  $most  parts
     * @param  bool  $closely  whether to look for better cuts, at some times the cost
     * @return array{non-empty-list<Hull>, float} the hulls, and the share of its size that its surface lies inside them at most
     */
    public static function of(Mesh $mesh, float $within, int $most, bool $closely = true): array
    {
        $whole = [Hull::near($mesh->x, $mesh->y, $mesh->z)];
        $size = $whole[0]->size;
        if ($mesh->faceCount() === 0 || $size <= 0.0) {
            return [$whole, 0.0];
        }
        $own = new self(new SurfacePlaces($mesh, $size, $within * $size), $size, $within * $size, $closely);
        if ($own->places->faces === []) {
            return [$whole, 0.0];
        }
        $first = $own->measured($own->places->faces, array_keys($own->places->x), [], [0]);
        if ($first->depth <= $own->within || $most < 2) {
            return [$whole, $first->depth / $size];
        }
        $finer = (int) ceil(self::FINER * $most);
        $parts = $own->joined($own->apart($first, $finer, false), $most);
        $deepest = self::deepest($parts);
        if ($closely && $deepest > $own->within) {
            // What goes round, a ring or a letter S, is better cut across all along.
            $other = new self($own->places, $size, $own->within, true);
            $across = $other->joined($other->apart($first, $finer, true), $most);
            if (self::deepest($across) < $deepest) {
                $parts = $across;
                $deepest = self::deepest($across);
                $own = $other;
            }
        }

        return [$own->hulls($mesh, $parts) ?: $whole, $deepest / $size];
    }

    /** @param  non-empty-list<SurfacePart>  $parts */
    private static function deepest(array $parts): float
    {
        return max(array_map(static fn (SurfacePart $p): float => $p->depth, $parts));
    }

    /** @return non-empty-list<SurfacePart> */
    private function apart(SurfacePart $whole, int $most, bool $across): array
    {
        $parts = [$whole];
        $done = [];
        $steps = [[$parts, $whole->depth]];
        while (count($parts) + count($done) < $most) {
            $worst = -1;
            foreach ($parts as $k => $part) {
                if ($part->depth > $this->within && ($worst < 0 || $part->depth > $parts[$worst]->depth)) {
                    $worst = $k;
                }
            }
            if ($worst < 0) {
                break;
            }
            $halves = $this->halved($parts[$worst], $across);
            if ($halves === null) {
                // It cannot be had any better.
                $done[] = $parts[$worst];
            }
            array_splice($parts, $worst, 1, $halves ?? []);
            $all = [...$parts, ...$done];
            $steps[] = [$all, self::deepest($all)];
        }

        return $this->enough($steps);
    }

    /**
     * Where it cannot be had as close as wanted, many parts are not worth little: as many as come nearly as close as all.
     *
     * @param  non-empty-list<array{non-empty-list<SurfacePart>, float}>  $steps  parts after each cut, and the deepest of them
     * @return non-empty-list<SurfacePart>
     */
    private function enough(array $steps): array
    {
        $reached = $steps[count($steps) - 1][1];
        $this->enough = $reached > $this->within ? self::LITTLE * $reached : $this->within;
        foreach ($steps as [$parts, $deepest]) {
            if ($deepest <= $this->enough) {
                return $parts;
            }
        }

        return $steps[count($steps) - 1][0];
    }

    /**
     * The best of some cuts through the place from which it is farthest to the outside, and through the one amidst all that lie too deep.
     *
     * @return list<SurfacePart>|null
     */
    private function halved(SurfacePart $part, bool $across): ?array
    {
        $amidst = $this->places->amidst($part->deep);
        $at = $across || $this->places->between($part->at, $amidst) < (self::FAR * $this->size) ** 2 ? [$amidst] : [$part->at, $amidst];
        $planes = array_merge(...array_map(fn (int $place): array => $this->candidates($part, $place, $across), $at));
        // Through the middle, where there is nothing better.
        $cuts = $this->best($part, $planes, $across) ?: $this->best($part, $part->middles(), $across);
        $least = INF;
        $out = $by = null;
        foreach ($cuts as $cut) {
            [$back, $front] = $this->cut($part->faces, $cut);
            [$behind, $before] = $this->places->parted([...$part->places, ...$this->places->alongCut($part->faces, $cut)], $cut);
            $halves = [
                $this->measured($back, $behind, [...$part->cuts, $cut], [$this->cells]),
                $this->measured($front, $before, [...$part->cuts, SurfacePart::turned($cut)], [$this->cells + 1]),
            ];
            $score = self::score($across, $halves[0]->bulk + $halves[1]->bulk, $part->bulk, $halves[0]->volume, $halves[1]->volume, $part->volume);
            if ($score < $least) {
                $least = $score;
                $out = $halves;
                $by = $cut;
            }
        }
        if ($by !== null) {
            $this->tree[$part->cells[0]] = [$by, $this->cells, $this->cells + 1];
            $this->cells += 2;
        }

        return $out;
    }

    /** What is left too deep, and the volume of the hulls, each as a share of what it was; across, the more even the better. */
    private static function score(bool $across, float $deep, float $bulk, float $first, float $second, float $whole): float
    {
        return $deep / max($bulk, 1e-300) + ($across ? max($first, $second) / max($first + $second, 1e-300) : ($first + $second) / max($whole, 1e-300));
    }

    /**
     * The planes that, at a glance, leave least too deep and make the smallest hulls; where they go across, the most even ones.
     *
     * @param  list<array{float, float, float, float}>  $planes
     * @return list<array{float, float, float, float}>
     */
    private function best(SurfacePart $part, array $planes, bool $across): array
    {
        $some = SurfacePlaces::some($part->places, self::GLANCE);
        [$seen, $bulk] = $this->places->glance($some, $part->cuts, self::ALONG);
        $scores = [];
        foreach ($planes as $k => $plane) {
            [$back, $front] = $this->places->parted($some, $plane);
            if ($back === [] || $front === [] || self::isCut($plane, $part->cuts, 1e-3 * $this->size) || self::isCut(SurfacePart::turned($plane), $part->cuts, 1e-3 * $this->size)) {
                continue;
            }
            [$first, $deepFirst] = $this->places->glance($back, [...$part->cuts, $plane], self::ALONG);
            [$second, $deepSecond] = $this->places->glance($front, [...$part->cuts, SurfacePart::turned($plane)], self::ALONG);
            if (min($first, $second) > self::WORTH * $seen) {
                $scores[$k] = self::score($across, $deepFirst + $deepSecond, $bulk, $first, $second, $seen);
            }
        }
        asort($scores);

        return array_map(static fn (int $k): array => $planes[$k], array_slice(array_keys($scores), 0, $this->closely ? self::CLOSER : 1));
    }

    /**
     * Planes through a place: those of the faces about it, the one half way between two of them, the one across their common edge, and
     * some that go straight in.
     *
     * @return list<array{float, float, float, float}> normal and level
     */
    private function candidates(SurfacePart $part, int $at, bool $across): array
    {
        $p = $this->places;
        $near = [];
        foreach ($part->places as $s) {
            $d = $this->places->between($s, $at);
            if ($d < (0.1 * $this->size) ** 2) {
                $near[$s] = $d;
            }
        }
        asort($near);
        $looks = [[$p->nx[$at], $p->ny[$at], $p->nz[$at]]];
        foreach ($near as $s => $_) {
            if (abs($p->nx[$s] * $looks[0][0] + $p->ny[$s] * $looks[0][1] + $p->nz[$s] * $looks[0][2]) <= 0.985) {
                $looks[] = [$p->nx[$s], $p->ny[$s], $p->nz[$s]];
                break;
            }
        }
        $normals = $across ? [] : $looks;
        if (! $across && count($looks) === 2) {
            [$a, $b] = $looks;
            $normals[] = [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
            $normals[] = [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
        }
        // What is bowed is cut across, straight into it.
        [$nx, $ny, $nz] = $looks[0];
        array_push($normals, [0.0, $nz, -$ny], [-$nz, 0.0, $nx], [$ny, -$nx, 0.0]);
        $out = [];
        foreach ($normals as [$nx, $ny, $nz]) {
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l > 0.1) {
                // Through the corner itself, which the place is a little beside.
                $out[] = [$nx / $l, $ny / $l, $nz / $l, ($nx * $p->cornerX[$at] + $ny * $p->cornerY[$at] + $nz * $p->cornerZ[$at]) / $l];
            }
        }

        return $out;
    }

    /**
     * @param  list<list<float>>  $faces
     * @param  array{float, float, float, float}  $plane
     * @return array{list<list<float>>, list<list<float>>} what lies behind it and what before it
     */
    private function cut(array $faces, array $plane): array
    {
        [$nx, $ny, $nz, $level] = $plane;
        $nothing = SurfacePlaces::NOTHING * $this->size;
        $back = $front = [];
        foreach ($faces as $loop) {
            $high = -INF;
            $low = INF;
            for ($k = 0, $n = count($loop); $k < $n; $k += 3) {
                $h = $nx * $loop[$k] + $ny * $loop[$k + 1] + $nz * $loop[$k + 2] - $level;
                $high = $h > $high ? $h : $high;
                $low = $h < $low ? $h : $low;
            }
            if ($high <= $nothing && ($low < -$nothing || self::looks($loop, $plane))) {
                $back[] = $loop;
            } elseif ($low >= -$nothing) {
                $front[] = $loop;
            } else {
                $back[] = self::clipped($loop, $plane, -1.0);
                $front[] = self::clipped($loop, $plane, 1.0);
            }
        }

        return [$back, $front];
    }

    /**
     * Whether a face looks the way a plane does that it lies in, so that it bounds what lies behind that.
     *
     * @param  list<float>  $loop
     * @param  array{float, float, float, float}  $plane
     */
    private static function looks(array $loop, array $plane): bool
    {
        [$x, $y, $z] = SurfacePlaces::normal($loop);

        return $plane[0] * $x + $plane[1] * $y + $plane[2] * $z > 0.0;
    }

    /**
     * What of a convex face lies on one side of a plane.
     *
     * @param  list<float>  $loop
     * @param  array{float, float, float, float}  $plane
     * @param  float  $side  1 for above
     * @return list<float>
     */
    private static function clipped(array $loop, array $plane, float $side): array
    {
        [$nx, $ny, $nz, $level] = $plane;
        $n = count($loop);
        $out = [];
        [$px, $py, $pz] = [$loop[$n - 3], $loop[$n - 2], $loop[$n - 1]];
        $before = $side * ($nx * $px + $ny * $py + $nz * $pz - $level);
        for ($k = 0; $k < $n; $k += 3) {
            [$x, $y, $z] = [$loop[$k], $loop[$k + 1], $loop[$k + 2]];
            $h = $side * ($nx * $x + $ny * $y + $nz * $z - $level);
            if ($h * $before < 0.0) {
                // From the same end on both sides, so that both have the same point.
                $s = $before < 0.0 ? $before / ($before - $h) : 1.0 - $h / ($h - $before);
                array_push($out, $px + $s * ($x - $px), $py + $s * ($y - $py), $pz + $s * ($z - $pz));
            }
            if ($h >= 0.0) {
                array_push($out, $x, $y, $z);
            }
            [$px, $py, $pz, $before] = [$x, $y, $z, $h];
        }

        return $out;
    }

    /**
     * @param  list<list<float>>  $faces
     * @param  list<int>  $places
     * @param  list<array{float, float, float, float}>  $cuts  planes it was cut by, outwards
     * @param  list<int>  $cells
     */
    private function measured(array $faces, array $places, array $cuts, array $cells): SurfacePart
    {
        [$x, $y, $z] = self::points($faces);
        $box = $x === [] ? [0.0, 0.0, 0.0, 0.0, 0.0, 0.0] : [min($x), max($x), min($y), max($y), min($z), max($z)];
        try {
            $hull = Hull::triangles($x, $y, $z, max(self::ROUGHLY * $this->within, 1e-12));
        } catch (\UnexpectedValueException) {
            // What lies in a plane is its own hull.
            return new SurfacePart($faces, $places, $cuts, $cells, 0.0, [], $places[0] ?? 0, 0.0, 0.0, $box);
        }
        $volume = 0.0;
        $planes = [];
        foreach ($hull as [$a, $b, $c]) {
            $plane = Hull::plane($x, $y, $z, $a, $b, $c);
            $volume += ($x[$a] * ($y[$b] * $z[$c] - $z[$b] * $y[$c]) + $y[$a] * ($z[$b] * $x[$c] - $x[$b] * $z[$c]) + $z[$a] * ($x[$b] * $y[$c] - $y[$b] * $x[$c])) / 6.0;
            // Faces that look less than so much its way lie no deeper for it.
            array_push($planes, $plane[0], $plane[1], $plane[2], $plane[3], self::isCut($plane, $cuts, 1e-5 * $this->size) ? self::ALONG : self::AWAY);
        }
        [$depth, $deep, $at, $bulk] = $this->places->depth($places, $planes, $this->closely);

        return new SurfacePart($faces, $places, $cuts, $cells, $depth, $deep, $at, $bulk, $volume, $box);
    }

    /**
     * @param  array{float, float, float, float}  $plane
     * @param  list<array{float, float, float, float}>  $cuts
     */
    private static function isCut(array $plane, array $cuts, float $near): bool
    {
        foreach ($cuts as [$nx, $ny, $nz, $level]) {
            if ($plane[0] * $nx + $plane[1] * $ny + $plane[2] * $nz > 0.9999 && abs($plane[3] - $level) < $near) {
                return true;
            }
        }

        return false;
    }

    /**
     * Parts joined two by two, those that lose least first, as long as they stay within the depth; and on, where there are too many.
     *
     * @param  non-empty-list<SurfacePart>  $parts
     * @return non-empty-list<SurfacePart>
     */
    private function joined(array $parts, int $most): array
    {
        /** @var array<int, array<int, SurfacePart|null>> $tried what two would be together */
        $tried = [];
        while (count($parts) > 2) {
            $least = INF;
            $pair = null;
            foreach ($parts as $i => $a) {
                foreach ($parts as $k => $b) {
                    if ($k <= $i) {
                        continue;
                    }
                    if (! array_key_exists($k, $tried[$i] ?? [])) {
                        $cuts = $a->cutsWith($b);
                        // What was never one is not made so.
                        $tried[$i][$k] = count($cuts) < count($a->cuts) + count($b->cuts) && $a->isBeside($b, 0.01 * $this->size)
                            ? $this->measured([...$a->faces, ...$b->faces], [...$a->places, ...$b->places], $cuts, [...$a->cells, ...$b->cells])
                            : null;
                    }
                    $both = $tried[$i][$k];
                    if ($both === null) {
                        continue;
                    }
                    $adds = $both->volume - $a->volume - $b->volume;
                    $loss = $both->depth / $this->size + max(0.0, $adds) / max($both->volume, 1e-300);
                    $may = $both->depth <= $this->enough && $adds <= self::JOINED * $both->volume;
                    if (($may || count($parts) > $most) && $loss < $least) {
                        $least = $loss;
                        $pair = [$i, $k, $both];
                    }
                }
            }
            if ($pair === null) {
                break;
            }
            [$i, $k, $both] = $pair;
            $parts[$i] = $both;
            // Numbers stay as they are, so that what was tried stays true of the others.
            unset($parts[$k], $tried[$i], $tried[$k]);
            foreach ($tried as $one => $_) {
                unset($tried[$one][$i], $tried[$one][$k]);
            }
        }

        return array_values($parts);
    }

    /**
     * The hulls of what of a mesh lies in the cells of each part, to its true points.
     *
     * @param  list<SurfacePart>  $parts
     * @return list<Hull>
     */
    private function hulls(Mesh $mesh, array $parts): array
    {
        $of = [];
        foreach ($parts as $k => $part) {
            foreach ($part->cells as $cell) {
                $of[$cell] = $k;
            }
        }
        $all = [];
        for ($f = 0, $n = count($mesh->faces); $f < $n; $f += 3) {
            $loop = [];
            for ($k = $f; $k < $f + 3; $k++) {
                $v = $mesh->faces[$k];
                array_push($loop, $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
            }
            $all[] = $loop;
        }
        $faces = array_fill(0, count($parts), []);
        $stack = [[0, $all]];
        while ($stack !== []) {
            [$cell, $loops] = array_pop($stack);
            if (isset($of[$cell])) {
                array_push($faces[$of[$cell]], ...$loops);

                continue;
            }
            [$plane, $behind, $before] = $this->tree[$cell];
            [$back, $front] = $this->cut($loops, $plane);
            array_push($stack, [$behind, $back], [$before, $front]);
        }
        $out = [];
        foreach ($faces as $k => $loops) {
            if ($loops !== []) {
                $out[] = Hull::near(...self::points($loops))->cutBy($this->within($parts[$k]->cuts, $loops), self::BESIDE * $this->size);
            }
        }

        return $out;
    }

    /**
     * Of cuts, those that go through the whole: where a part of its surface lies in one, that can be touched.
     *
     * @param  list<array{float, float, float, float}>  $cuts
     * @param  list<list<float>>  $faces
     * @return list<array{float, float, float, float}>
     */
    private function within(array $cuts, array $faces): array
    {
        return array_values(array_filter($cuts, function (array $cut) use ($faces): bool {
            foreach ($faces as $loop) {
                for ($k = 0, $n = count($loop); $k < $n; $k += 3) {
                    if (abs($cut[0] * $loop[$k] + $cut[1] * $loop[$k + 1] + $cut[2] * $loop[$k + 2] - $cut[3]) > self::BESIDE * $this->size) {
                        continue 2;
                    }
                }
                if (self::looks($loop, $cut)) {
                    return false;
                }
            }

            return true;
        }));
    }

    /**
     * @param  list<list<float>>  $faces
     * @return array{list<float>, list<float>, list<float>} corners, each once
     */
    private static function points(array $faces): array
    {
        $x = $y = $z = $seen = [];
        foreach ($faces as $loop) {
            for ($k = 0, $n = count($loop); $k < $n; $k += 3) {
                $key = pack('d3', $loop[$k], $loop[$k + 1], $loop[$k + 2]);
                if (! isset($seen[$key])) {
                    $seen[$key] = true;
                    $x[] = $loop[$k];
                    $y[] = $loop[$k + 1];
                    $z[] = $loop[$k + 2];
                }
            }
        }

        return [$x, $y, $z];
    }
}
