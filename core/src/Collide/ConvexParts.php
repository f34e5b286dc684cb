<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\FaceNormals;
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
    /** Faces looked at where cuts are compared, and corners of hulls then. */
    private const GLANCE = 160;

    private const CORNERS = 16;

    /** Faces looked at where it is decided. */
    private const CLOSER = 500;

    /** Share of the size from which two places are worth a cut each. */
    private const FAR = 0.25;

    /** Share of the volume of a part that each half must have. */
    private const WORTH = 0.02;

    /** Share of the depth allowed below which it need not be known more closely. */
    private const SLIGHT = 0.2;

    /** Cosine beyond which a face of a hull looks away from a place of the surface, so that the place is no farther inside for it. */
    private const AWAY = -0.3;

    /** Cosine from which a face looks the way a cut does. */
    private const ALONG = 0.5;

    /** Share of two parts' volume that their common hull may add. */
    private const JOINED = 0.35;

    /** Times as many parts as wanted are cut before parts are joined. */
    private const FINER = 1.25;

    /** Of a cube, those to its faces, its edges and its corners, each with the one against it. */
    private const DIRECTIONS = [
        [1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [1.0, 1.0, 0.0], [1.0, -1.0, 0.0], [1.0, 0.0, 1.0], [1.0, 0.0, -1.0], [0.0, 1.0, 1.0],
        [0.0, 1.0, -1.0], [1.0, 1.0, 1.0], [1.0, 1.0, -1.0], [1.0, -1.0, 1.0], [-1.0, 1.0, 1.0],
    ];

    /** Share of the size below which a length is nothing. */
    private const NOTHING = 1e-9;

    /**
     * @param  float  $size  metres, of the whole
     * @param  float  $within  metres that its surface may lie inside the hulls
     */
    private function __construct(private readonly float $size, private readonly float $within)
    {
    }

    /**
     * @param  Mesh  $mesh  about its middle
     * @param  float  $within  share of its size that its surface may lie inside the hulls
     * @param  int  $most  parts
     * @return array{non-empty-list<Hull>, float} the hulls, and the share of its size that its surface lies inside them at most
     */
    public static function of(Mesh $mesh, float $within, int $most): array
    {
        $whole = [Hull::near($mesh->x, $mesh->y, $mesh->z)];
        $size = $whole[0]->size;
        if ($mesh->faceCount() === 0 || $size <= 0.0) {
            return [$whole, 0.0];
        }
        $own = new self($size, $within * $size);
        $first = $own->measured($own->triangles($mesh), [], true);
        if ($first['depth'] <= $own->within || $most < 2) {
            return [$whole, $first['depth'] / $size];
        }
        $finer = (int) ceil(self::FINER * $most);
        $parts = $own->joined($own->apart($first, $finer, false), $most);
        $deepest = max(array_column($parts, 'depth'));
        if ($deepest > $own->within) {
            // What goes round, a ring or a letter S, is better cut across all along.
            $across = $own->joined($own->apart($first, $finer, true), $most);
            if (max(array_column($across, 'depth')) < $deepest) {
                $parts = $across;
                $deepest = max(array_column($parts, 'depth'));
            }
        }
        $hulls = [];
        foreach ($parts as $part) {
            [$x, $y, $z] = self::points($part['faces']);
            $hulls[] = Hull::near($x, $y, $z);
        }

        return [$hulls === [] ? $whole : $hulls, $deepest / $size];
    }

    /**
     * @return list<list<float>> each its three corners and its normal, twelve numbers
     */
    private function triangles(Mesh $mesh): array
    {
        [$nx, $ny, $nz] = FaceNormals::unit(...FaceNormals::perFace($mesh));
        $out = [];
        foreach ($nx as $f => $n) {
            [$a, $b, $c] = [$mesh->faces[3 * $f], $mesh->faces[3 * $f + 1], $mesh->faces[3 * $f + 2]];
            if ($n !== 0.0 || $ny[$f] !== 0.0 || $nz[$f] !== 0.0) {
                $out[] = [
                    $mesh->x[$a], $mesh->y[$a], $mesh->z[$a], $mesh->x[$b], $mesh->y[$b], $mesh->z[$b], $mesh->x[$c], $mesh->y[$c], $mesh->z[$c],
                    $n, $ny[$f], $nz[$f],
                ];
            }
        }

        return $out;
    }

    /**
     * @param  array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}  $whole
     * @return list<array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}>
     */
    private function apart(array $whole, int $most, bool $across): array
    {
        $parts = [$whole];
        while (count($parts) < $most) {
            $worst = -1;
            foreach ($parts as $k => $part) {
                if ($part['depth'] > $this->within && ($worst < 0 || $part['depth'] > $parts[$worst]['depth'])) {
                    $worst = $k;
                }
            }
            if ($worst < 0) {
                break;
            }
            $halves = $this->halved($parts[$worst], $across);
            if ($halves === null) {
                // It cannot be had any better.
                $parts[$worst]['depth'] = -$parts[$worst]['depth'];

                continue;
            }
            array_splice($parts, $worst, 1, $halves);
        }
        foreach ($parts as $k => $part) {
            $parts[$k]['depth'] = abs($part['depth']);
        }

        return $parts;
    }

    /**
     * The best of some cuts through the place from which it is farthest to the outside, and through the one amidst all that lie too deep.
     *
     * @param  array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}  $part
     * @return list<array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}>|null
     */
    private function halved(array $part, bool $across): ?array
    {
        ['volume' => $seen, 'bulk' => $bulk] = $this->measured($part['faces'], $part['cuts'], false);
        $best = INF;
        $cut = null;
        $amidst = self::amidst($part['deep']);
        $apart = max(array_map(static fn (float $p, float $q): float => abs($p - $q), $part['at'], $amidst));
        $places = $across || $apart < self::FAR * $this->size ? [$amidst] : [$part['at'], $amidst];
        foreach (array_merge(...array_map(fn (array $at): array => $this->candidates($part, $at, $across), $places)) as $plane) {
            [$back, $front] = $this->cut($part['faces'], $plane);
            if ($back === [] || $front === [] || self::isCut($plane, $part['cuts'], 1e-3 * $this->size) || self::isCut(self::outwards($plane, -1.0), $part['cuts'], 1e-3 * $this->size)) {
                continue;
            }
            $sum = $deep = 0.0;
            $halves = [];
            foreach ([[$back, 1.0], [$front, -1.0]] as [$faces, $side]) {
                $half = $this->measured($faces, [...$part['cuts'], self::outwards($plane, $side)], false);
                $sum += $half['volume'];
                $halves[] = $half['volume'];
                $deep += $half['bulk'];
            }
            // Across, the more even the better.
            $score = $across ? $deep / max($bulk, 1e-300) + max($halves) / $sum : $sum / max($seen, 1e-300) + $deep / max($bulk, 1e-300);
            if ($score < $best && min($halves) > self::WORTH * $seen) {
                $best = $score;
                $cut = $plane;
            }
        }
        if ($cut === null) {
            return null;
        }
        [$back, $front] = $this->cut($part['faces'], $cut);

        return [
            $this->measured($back, [...$part['cuts'], self::outwards($cut, 1.0)], true),
            $this->measured($front, [...$part['cuts'], self::outwards($cut, -1.0)], true),
        ];
    }

    /**
     * @param  array{float, float, float, float}  $plane
     * @return array{float, float, float, float}
     */
    private static function outwards(array $plane, float $side): array
    {
        return [$side * $plane[0], $side * $plane[1], $side * $plane[2], $side * $plane[3]];
    }

    /**
     * The place that is nearest to the middle of all.
     *
     * @param  list<list<float>>  $places
     * @return list<float>
     */
    private static function amidst(array $places): array
    {
        $n = max(1, count($places));
        $x = array_sum(array_column($places, 0)) / $n;
        $y = array_sum(array_column($places, 1)) / $n;
        $z = array_sum(array_column($places, 2)) / $n;
        $best = INF;
        $out = [$x, $y, $z];
        foreach ($places as $p) {
            $d = ($p[0] - $x) ** 2 + ($p[1] - $y) ** 2 + ($p[2] - $z) ** 2;
            if ($d < $best) {
                $best = $d;
                $out = $p;
            }
        }

        return $out;
    }

    /**
     * Planes through a place: those of the faces about it, the one half way between two of them, the one across their common edge, and
     * some that go straight in.
     *
     * @param  array{faces: list<list<float>>, ...}  $part
     * @param  list<float>  $at
     * @return list<array{float, float, float, float}> normal and level
     */
    private function candidates(array $part, array $at, bool $across): array
    {
        [$x, $y, $z] = $at;
        $near = [];
        foreach ($part['faces'] as $f => $t) {
            [$qx, $qy, $qz] = ContactSurface::nearestOf([$t[0], $t[1], $t[2]], [$t[3], $t[4], $t[5]], [$t[6], $t[7], $t[8]], $x, $y, $z);
            $near[$f] = ($x - $qx) ** 2 + ($y - $qy) ** 2 + ($z - $qz) ** 2;
        }
        asort($near);
        $looks = [];
        foreach ($near as $f => $d) {
            if ($d > (0.1 * $this->size) ** 2 || count($looks) >= 2) {
                break;
            }
            $n = array_slice($part['faces'][$f], 9, 3);
            foreach ($looks as $other) {
                if (abs($n[0] * $other[0] + $n[1] * $other[1] + $n[2] * $other[2]) > 0.985) {
                    continue 2;
                }
            }
            $looks[] = $n;
        }
        $normals = $across ? [] : $looks;
        foreach ($across ? [] : $looks as $i => $a) {
            foreach (array_slice($looks, $i + 1) as $b) {
                $normals[] = [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
                $normals[] = [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
            }
        }
        // What is bowed is cut across, straight into it.
        [$nx, $ny, $nz] = $looks[0] ?? [1.0, 0.0, 0.0];
        array_push($normals, [0.0, $nz, -$ny], [-$nz, 0.0, $nx], [$ny, -$nx, 0.0]);
        $out = [];
        foreach ($normals as [$nx, $ny, $nz]) {
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l > 0.1) {
                $out[] = [$nx / $l, $ny / $l, $nz / $l, ($nx * $x + $ny * $y + $nz * $z) / $l];
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
        $nothing = self::NOTHING * $this->size;
        $back = $front = [];
        foreach ($faces as $t) {
            $h = [
                $nx * $t[0] + $ny * $t[1] + $nz * $t[2] - $level,
                $nx * $t[3] + $ny * $t[4] + $nz * $t[5] - $level,
                $nx * $t[6] + $ny * $t[7] + $nz * $t[8] - $level,
            ];
            $high = max($h);
            $low = min($h);
            if ($high <= $nothing && $low >= -$nothing) {
                // What lies in the plane itself bounds what lies behind it.
                if ($nx * $t[9] + $ny * $t[10] + $nz * $t[11] > 0.0) {
                    $back[] = $t;
                } else {
                    $front[] = $t;
                }
            } elseif ($high <= $nothing) {
                $back[] = $t;
            } elseif ($low >= -$nothing) {
                $front[] = $t;
            } else {
                array_push($back, ...self::clipped($t, $h, -1.0));
                array_push($front, ...self::clipped($t, $h, 1.0));
            }
        }

        return [$back, $front];
    }

    /**
     * What of a triangle lies on one side of a plane.
     *
     * @param  list<float>  $t
     * @param  array{float, float, float}  $h  heights of its corners over the plane
     * @param  float  $sign  of the side: 1 for above
     * @return list<list<float>>
     */
    private static function clipped(array $t, array $h, float $sign): array
    {
        $loop = [];
        for ($k = 0; $k < 3; $k++) {
            $m = $k === 2 ? 0 : $k + 1;
            if ($sign * $h[$k] >= 0.0) {
                $loop[] = $t[3 * $k];
                $loop[] = $t[3 * $k + 1];
                $loop[] = $t[3 * $k + 2];
            }
            if ($h[$k] * $h[$m] < 0.0) {
                $s = $h[$k] / ($h[$k] - $h[$m]);
                for ($axis = 0; $axis < 3; $axis++) {
                    $loop[] = $t[3 * $k + $axis] + $s * ($t[3 * $m + $axis] - $t[3 * $k + $axis]);
                }
            }
        }
        $out = [];
        for ($k = 6, $n = count($loop); $k < $n; $k += 3) {
            $out[] = [
                $loop[0], $loop[1], $loop[2], $loop[$k - 3], $loop[$k - 2], $loop[$k - 1], $loop[$k], $loop[$k + 1], $loop[$k + 2], $t[9], $t[10],
                $t[11],
            ];
        }

        return $out;
    }

    /**
     * @param  list<list<float>>  $faces
     * @param  list<array{float, float, float, float}>  $cuts  planes it was cut by, outwards
     * @param  bool  $wholly  or at a glance
     * @return array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>} how deep its surface
     *   lies inside the hull, the place from which it is farthest to the outside, straight ahead, all that lies too deep, and how much that is in all
     */
    private function measured(array $faces, array $cuts, bool $wholly): array
    {
        $out = ['faces' => $faces, 'cuts' => $cuts, 'depth' => 0.0, 'far' => 0.0, 'at' => [0.0, 0.0, 0.0], 'deep' => [], 'bulk' => 0.0, 'volume' => 0.0, 'box' => []];
        [$x, $y, $z] = $wholly ? self::points($faces) : self::outermost($faces);
        $out['box'] = [min($x), max($x), min($y), max($y), min($z), max($z)];
        try {
            $hull = $wholly
                ? Hull::triangles($x, $y, $z, max(1e-4 * $this->size, 1e-12))
                : Hull::triangles($x, $y, $z, 0.01 * $this->size, self::CORNERS);
        } catch (\UnexpectedValueException) {
            // What lies in a plane is its own hull.
            return $out;
        }
        $planes = [];
        foreach ($hull as [$a, $b, $c]) {
            $plane = Hull::plane($x, $y, $z, $a, $b, $c);
            $out['volume'] += ($x[$a] * ($y[$b] * $z[$c] - $z[$b] * $y[$c]) + $y[$a] * ($z[$b] * $x[$c] - $x[$b] * $z[$c]) + $z[$a] * ($x[$b] * $y[$c] - $y[$b] * $x[$c])) / 6.0;
            foreach ($planes as [$nx, $ny, $nz, $level]) {
                if ($plane[0] * $nx + $plane[1] * $ny + $plane[2] * $nz > 0.99999 && abs($plane[3] - $level) < 1e-5 * $this->size) {
                    continue 2;
                }
            }
            // Faces that look less than so much its way lie no deeper for it.
            $planes[] = [$plane[0], $plane[1], $plane[2], $plane[3], self::isCut($plane, $cuts, 1e-5 * $this->size) ? self::ALONG : self::AWAY];
        }
        $step = max(1, intdiv(count($faces), $wholly ? self::CLOSER : self::GLANCE));
        $flat = array_merge(...$planes);
        for ($f = 0, $n = count($faces); $f < $n; $f += $step) {
            if (! $this->isNear($faces[$f], $flat, max(min($out['depth'], $this->within), self::SLIGHT * $this->within))) {
                $this->deeper($faces[$f], $planes, $wholly ? 0 : $step, $out);
            }
        }

        return $out;
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
     * Whether all of a face lies within a length of one plane that it looks towards.
     *
     * @param  list<float>  $t
     * @param  list<float>  $planes  five numbers each
     */
    private function isNear(array $t, array $planes, float $length): bool
    {
        [$ax, $ay, $az, $bx, $by, $bz, $cx, $cy, $cz, $nx, $ny, $nz] = $t;
        for ($k = 0, $n = count($planes); $k < $n; $k += 5) {
            $px = $planes[$k];
            $py = $planes[$k + 1];
            $pz = $planes[$k + 2];
            $least = $planes[$k + 3] - $length;
            if (
                $px * $ax + $py * $ay + $pz * $az >= $least
                && $px * $bx + $py * $by + $pz * $bz >= $least
                && $px * $cx + $py * $cy + $pz * $cz >= $least
                && $px * $nx + $py * $ny + $pz * $nz > $planes[$k + 4]
            ) {
                return true;
            }
        }

        return false;
    }

    /**
     * Looks how deep a face lies inside a hull: at its corners, in its middle, and along its sides where they are long.
     *
     * @param  list<float>  $t
     * @param  list<array{float, float, float, float, float}>  $planes  normal, level, and the cosine from which it counts
     * @param  int  $every  faces it stands for at a glance; 0 for a closer look
     * @param  array{depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, ...}  $out
     */
    private function deeper(array $t, array $planes, int $every, array &$out): void
    {
        [, , , , , , , , , $nx, $ny, $nz] = $t;
        $facing = [];
        foreach ($planes as [$px, $py, $pz, $level, $counts]) {
            $looks = $px * $nx + $py * $ny + $pz * $nz;
            if ($looks > $counts) {
                $facing[] = [$px, $py, $pz, $level, $looks];
            }
        }
        if ($facing === []) {
            return;
        }
        $long = 0.0;
        for ($k = 0; $k < 9; $k += 3) {
            $m = ($k + 3) % 9;
            $long = max($long, abs($t[$k] - $t[$m]), abs($t[$k + 1] - $t[$m + 1]), abs($t[$k + 2] - $t[$m + 2]));
        }
        $n = max(1, min($every > 0 ? 2 : 6, (int) ceil($long / (0.12 * $this->size))));
        $every = max(1, $every);
        $weight = $every * self::area($t) / (0.5 * ($n + 1) * ($n + 2));
        // Places of a grid over the face, a little inside it.
        for ($i = 0; $i <= $n; $i++) {
            for ($k = 0; $k <= $n - $i; $k++) {
                $u = 0.01 + 0.97 * $i / $n;
                $v = 0.01 + 0.97 * $k / $n;
                $w = 1.0 - $u - $v;
                $x = $w * $t[0] + $u * $t[3] + $v * $t[6];
                $y = $w * $t[1] + $u * $t[4] + $v * $t[7];
                $z = $w * $t[2] + $u * $t[5] + $v * $t[8];
                $depth = $far = INF;
                foreach ($facing as [$px, $py, $pz, $level, $looks]) {
                    $d = $level - $px * $x - $py * $y - $pz * $z;
                    if ($d < $depth) {
                        $depth = $d;
                        if ($d <= $out['depth'] && $d <= $this->within) {
                            continue 2;
                        }
                    }
                    if ($looks > 0.05 && $d < $far * $looks) {
                        $far = $d / $looks;
                    }
                }
                $out['depth'] = max($out['depth'], $depth);
                if ($depth > $this->within) {
                    $out['deep'][] = [$x, $y, $z];
                    $out['bulk'] += $far * $weight;
                    if ($far > $out['far']) {
                        $out['far'] = $far;
                        $out['at'] = [$x, $y, $z];
                    }
                }
            }
        }
    }

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b
     */
    private static function touch(array $a, array $b, float $near): bool
    {
        for ($k = 0; $k < 6; $k += 2) {
            if ($a[$k] > $b[$k + 1] + $near || $b[$k] > $a[$k + 1] + $near) {
                return false;
            }
        }

        return true;
    }

    /** @param  list<float>  $t */
    private static function area(array $t): float
    {
        [$ux, $uy, $uz] = [$t[3] - $t[0], $t[4] - $t[1], $t[5] - $t[2]];
        [$vx, $vy, $vz] = [$t[6] - $t[0], $t[7] - $t[1], $t[8] - $t[2]];

        return 0.5 * sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
    }

    /**
     * Parts joined two by two, those that lose least first, as long as they stay within the depth; and on, where there are too many.
     *
     * @param  list<array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}>  $parts
     * @return list<array{faces: list<list<float>>, cuts: list<array{float, float, float, float}>, depth: float, far: float, at: list<float>, deep: list<list<float>>, bulk: float, volume: float, box: list<float>}>
     */
    private function joined(array $parts, int $most): array
    {
        // Two that were one are known not to go together.
        $tried = [];
        while (count($parts) > 2) {
            $least = INF;
            $pair = null;
            foreach ($parts as $i => $a) {
                foreach ($parts as $k => $b) {
                    if ($k <= $i) {
                        continue;
                    }
                    if (! array_key_exists("$i $k", $tried)) {
                        $cuts = self::common($a['cuts'], $b['cuts']);
                        // What was never one is not made so.
                        $tried["$i $k"] = count($cuts) < count($a['cuts']) + count($b['cuts']) && self::touch($a['box'], $b['box'], 0.01 * $this->size)
                            ? $this->measured([...$a['faces'], ...$b['faces']], $cuts, true)
                            : null;
                    }
                    $both = $tried["$i $k"];
                    if ($both === null) {
                        continue;
                    }
                    $adds = $both['volume'] - $a['volume'] - $b['volume'];
                    $loss = $both['depth'] / $this->size + max(0.0, $adds) / max($both['volume'], 1e-300);
                    $may = $both['depth'] <= $this->within && $adds <= self::JOINED * $both['volume'];
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
            unset($parts[$k]);
            // Numbers stay as they are, so that what was tried stays true of the others.
            $tried = array_filter($tried, static fn (string $key): bool => array_intersect(explode(' ', $key), ["$i", "$k"]) === [], ARRAY_FILTER_USE_KEY);
        }

        return array_values($parts);
    }

    /**
     * Cuts that a joined part still ends at: those of either but not of both, from opposite sides.
     *
     * @param  list<array{float, float, float, float}>  $a
     * @param  list<array{float, float, float, float}>  $b
     * @return list<array{float, float, float, float}>
     */
    private static function common(array $a, array $b): array
    {
        return array_values(array_filter(
            [...$a, ...$b],
            static fn (array $cut): bool => ! in_array(self::outwards($cut, -1.0), $a, false) && ! in_array(self::outwards($cut, -1.0), $b, false),
        ));
    }

    /**
     * Corners that lie farthest out in some directions.
     *
     * @param  list<list<float>>  $faces
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function outermost(array $faces): array
    {
        $n = count($faces);
        $px = $py = $pz = [];
        for ($f = 0; $f < $n; $f++) {
            $t = $faces[$f];
            array_push($px, $t[0], $t[3], $t[6]);
            array_push($py, $t[1], $t[4], $t[7]);
            array_push($pz, $t[2], $t[5], $t[8]);
        }
        $at = [];
        foreach (self::DIRECTIONS as [$a, $b, $c]) {
            $low = INF;
            $high = -INF;
            $first = $last = 0;
            for ($k = 0, $m = 3 * $n; $k < $m; $k++) {
                $d = $a * $px[$k] + $b * $py[$k] + $c * $pz[$k];
                if ($d < $low) {
                    $low = $d;
                    $first = $k;
                }
                if ($d > $high) {
                    $high = $d;
                    $last = $k;
                }
            }
            $at[] = [$px[$first], $py[$first], $pz[$first]];
            $at[] = [$px[$last], $py[$last], $pz[$last]];
        }
        $at = array_values(array_unique($at, SORT_REGULAR));

        return [array_column($at, 0), array_column($at, 1), array_column($at, 2)];
    }

    /**
     * @param  list<list<float>>  $faces
     * @return array{list<float>, list<float>, list<float>} corners, each once
     */
    private static function points(array $faces): array
    {
        $x = $y = $z = $seen = [];
        foreach ($faces as $t) {
            for ($k = 0; $k < 9; $k += 3) {
                $key = $t[$k].' '.$t[$k + 1].' '.$t[$k + 2];
                if (! isset($seen[$key])) {
                    $seen[$key] = true;
                    $x[] = $t[$k];
                    $y[] = $t[$k + 1];
                    $z[] = $t[$k + 2];
                }
            }
        }

        return [$x, $y, $z];
    }
}
