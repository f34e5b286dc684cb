<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\ContactSurface;

/**
 * Where a hull and a true surface meet or are about to, all in the axes of the surface at its full size.
 *
 * No distance is asked for. Three kinds of contact are made, each of them local: a corner of the hull on a face (normal of the face),
 * a point of the surface in a face of the hull (normal of that face), and an edge of the surface that stands out across an edge of the
 * hull (the normal that parts them most, of those between its two faces). Edges that are flat or grooves make none, so that what
 * slides over a surface trips over nothing. Separating axes between features: Gottschalk, Lin & Manocha 1996, "OBBTree".
 *
 * A point is eleven numbers: normal from the surface (3), place on the surface (3), place on the hull (3), the gap between, below zero
 * where they overlap, and the gap there will be after the span as they move now.
 */
final class SurfaceMeeting
{
    /** Numbers a point has. */
    public const POINT = 11;

    private const ON_HULL = 6;

    public const GAP = 9;

    private const AHEAD = 10;

    /** Share of the size of a hull that it may overlap a face by and still count as in front of it. */
    private const DEEPEST = 0.25;

    /** Share of the size of a hull within which corners lie level over an edge. */
    private const LEVEL = 0.01;

    /** Tangent of the half angle up to which a normal may lean over an edge. */
    private const STEEPEST = 5.7;

    /** Share of the size of a ball that it may be apart from what it touches. */
    private const TOUCHING = 1e-3;

    /** Steps along the way of a ball. */
    private const ROUNDS = 24;

    /** Faces of a hull told apart at once. */
    private const BITS = 62;

    /** Contacts of different normals that are kept, at most. */
    private const MOST = 6;

    /** Points of one of them. */
    private const POINTS = 5;

    /** Cosine of the angle within which normals count as one. */
    private const ALIKE = 0.9986;

    /** @var list<float> corners of the hull */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];

    /** @var list<float> normals of its faces, flat triples */
    public array $hullNormals = [];

    /** @var list<float> */
    public array $hullLevels = [];

    /** @var list<bool> whether each is a cut within its body, which nothing can touch */
    public array $hullInner = [];

    /** Metres its corners are rounded by. */
    public float $roundness = 0.0;

    public float $size = 0.0;

    /** Its middle. */
    public float $mx = 0.0;

    public float $my = 0.0;

    public float $mz = 0.0;

    /** m/s of its middle. */
    public float $vx = 0.0;

    public float $vy = 0.0;

    public float $vz = 0.0;

    /** rad/s */
    public float $wx = 0.0;

    public float $wy = 0.0;

    public float $wz = 0.0;

    /** Seconds ahead. */
    public float $span = 0.0;

    /** @var array<int, true> faces that the way of its middle crosses */
    private array $crossed = [];

    /** @var list<int> faces that may be met */
    private array $near = [];

    /** @var list<float> what was found */
    private array $found = [];

    public function __construct(private readonly ContactSurface $surface)
    {
    }

    /**
     * Whether its middle lies in front of what is nearest to it, for a sheet whose sides both count.
     *
     * @param  float  $reach  metres
     * @return int 1 or −1; 0 where nothing is near
     */
    public function side(float $reach): int
    {
        $s = $this->surface;
        $best = INF;
        $side = 0;
        foreach ($this->within($reach, null) as $f) {
            [$qx, $qy, $qz] = $this->surface->nearestOn($f, $this->mx, $this->my, $this->mz);
            $dx = $this->mx - $qx;
            $dy = $this->my - $qy;
            $dz = $this->mz - $qz;
            $height = $dx * $s->normals[3 * $f] + $dy * $s->normals[3 * $f + 1] + $dz * $s->normals[3 * $f + 2];
            // Of faces equally near, the one it stands over most.
            $d = $dx * $dx + $dy * $dy + $dz * $dz - 1e-6 * $height * $height;
            if ($d < $best) {
                $best = $d;
                $side = $height < 0.0 ? -1 : 1;
            }
        }

        return $side;
    }

    /**
     * Looks for the faces that may be met.
     *
     * @param  array{float, float, float}|null  $before  where its middle was when it was last seen in front
     * @return bool whether there are any
     */
    public function isNear(float $reach, ?array $before): bool
    {
        $this->near = $this->within($reach, $before);

        return $this->near !== [];
    }

    /**
     * Of what is near, what touches.
     *
     * @param  float  $reach  metres: what is farther apart is left out
     * @param  int  $side  that counts, of a sheet; 1 for what is closed; 0 where nothing is near enough to tell
     * @param  array{float, float, float}|null  $before  where its middle was when it was last seen in front
     * @return array{list<list<float>>, bool} groups of points, those of one normal together; and whether its middle has come through a face
     */
    public function contacts(float $reach, int $side, ?array $before): array
    {
        $this->found = $this->crossed = [];
        if ($this->near === [] || $side === 0) {
            return [[], false];
        }
        if ($before !== null) {
            $this->cross($before, $side);
        }
        if ($this->roundness > 0.0) {
            $this->ball($reach, $side);
        } else {
            $beyond = $this->beyond($reach);
            $this->near = $this->notBeyond($beyond);
            $this->corners($reach, $side, $this->crossed === [] || $before === null ? [$this->mx, $this->my, $this->mz] : $before);
            $this->points(array_keys($beyond, 0, true), $reach, $side);
            $this->edges($reach, $side);
        }

        return [$this->groups(), $this->crossed !== []];
    }

    /**
     * @param  array{float, float, float}|null  $before
     * @return list<int>
     */
    private function within(float $reach, ?array $before): array
    {
        $r = $reach + $this->roundness;
        $box = [min($this->x) - $r, max($this->x) + $r, min($this->y) - $r, max($this->y) + $r, min($this->z) - $r, max($this->z) + $r];
        foreach ($before ?? [] as $axis => $v) {
            $box[2 * $axis] = min($box[2 * $axis], $v);
            $box[2 * $axis + 1] = max($box[2 * $axis + 1], $v);
        }

        return $this->surface->meeting(...$box);
    }

    /**
     * For each point of the faces near, which faces of the hull it lies beyond by more than a length: a bit each (Cohen & Sutherland's
     * outcodes, as in Foley et al. 1990, "Computer graphics: principles and practice", 3.12).
     *
     * @return array<int, int>
     */
    private function beyond(float $reach): array
    {
        $s = $this->surface;
        [$sx, $sy, $sz, $faces] = [$s->x, $s->y, $s->z, $s->faces];
        $normals = $this->hullNormals;
        $limits = [];
        foreach (array_slice($this->hullLevels, 0, self::BITS) as $level) {
            $limits[] = $level + $reach;
        }
        $n = 3 * count($limits);
        $out = [];
        foreach ($this->near as $f) {
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $p = $faces[$k];
                if (isset($out[$p])) {
                    continue;
                }
                $x = $sx[$p];
                $y = $sy[$p];
                $z = $sz[$p];
                $bits = 0;
                for ($g = 0, $bit = 1, $i = 0; $i < $n; $i += 3, $g++, $bit <<= 1) {
                    if ($limits[$g] < $normals[$i] * $x + $normals[$i + 1] * $y + $normals[$i + 2] * $z) {
                        $bits |= $bit;
                    }
                }
                $out[$p] = $bits;
            }
        }

        return $out;
    }

    /**
     * The faces near but those that lie beyond one face of the hull with all their points.
     *
     * @param  array<int, int>  $beyond
     * @return list<int>
     */
    private function notBeyond(array $beyond): array
    {
        $faces = $this->surface->faces;
        $out = [];
        foreach ($this->near as $f) {
            if (($beyond[$faces[3 * $f]] & $beyond[$faces[3 * $f + 1]] & $beyond[$faces[3 * $f + 2]]) === 0 || isset($this->crossed[$f])) {
                $out[] = $f;
            }
        }

        return $out;
    }

    /** @param  array{float, float, float}  $before */
    private function cross(array $before, int $side): void
    {
        $s = $this->surface;
        [$bx, $by, $bz] = $before;
        foreach ($this->near as $f) {
            $nx = $side * $s->normals[3 * $f];
            $ny = $side * $s->normals[3 * $f + 1];
            $nz = $side * $s->normals[3 * $f + 2];
            $level = $side * $s->levels[$f];
            $was = $nx * $bx + $ny * $by + $nz * $bz - $level;
            $is = $nx * $this->mx + $ny * $this->my + $nz * $this->mz - $level;
            if ($was < 0.0 || $is >= 0.0) {
                continue;
            }
            $t = $was / ($was - $is);
            if ($this->over($f, $bx + $t * ($this->mx - $bx), $by + $t * ($this->my - $by), $bz + $t * ($this->mz - $bz), $side, 0.0)) {
                $this->crossed[$f] = true;
            }
        }
    }

    /** Whether a place lies over a face, or no farther beyond one of its grooves than a length. */
    private function over(int $f, float $x, float $y, float $z, int $side, float $beyondGrooves): bool
    {
        $s = $this->surface;
        $i = 3 * $f;
        $nx = $s->normals[$i];
        $ny = $s->normals[$i + 1];
        $nz = $s->normals[$i + 2];
        for ($k = $i; $k < $i + 3; $k++) {
            $p = $s->faces[$k];
            $q = $s->faces[$k === $i + 2 ? $i : $k + 1];
            $ux = $s->x[$q] - $s->x[$p];
            $uy = $s->y[$q] - $s->y[$p];
            $uz = $s->z[$q] - $s->z[$p];
            $dx = $x - $s->x[$p];
            $dy = $y - $s->y[$p];
            $dz = $z - $s->z[$p];
            // Along the inward normal of the side, times its length.
            $in = ($ny * $uz - $nz * $uy) * $dx + ($nz * $ux - $nx * $uz) * $dy + ($nx * $uy - $ny * $ux) * $dz;
            if ($in < 0.0) {
                $l = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
                $allowed = 1e-7 * $this->size + ($s->bends[$k] * $side === -1 ? $beyondGrooves : 0.0);
                if ($in < -$allowed * $l) {
                    return false;
                }
            }
        }

        return true;
    }

    /**
     * Corners of the hull on faces of the surface.
     *
     * @param  array{float, float, float}  $from  its middle, or where that was before it came through a face
     */
    private function corners(float $reach, int $side, array $from): void
    {
        [$mx, $my, $mz] = $from;
        $s = $this->surface;
        $limit = self::DEEPEST * $this->size;
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $n = count($x);
        $on = array_fill(0, $n, []);
        $front = [];
        $fast = $this->span * (sqrt($this->vx ** 2 + $this->vy ** 2 + $this->vz ** 2) + $this->size * sqrt($this->wx ** 2 + $this->wy ** 2 + $this->wz ** 2));
        foreach ($this->near as $f) {
            $nx = $side * $s->normals[3 * $f];
            $ny = $side * $s->normals[3 * $f + 1];
            $nz = $side * $s->normals[3 * $f + 2];
            $level = $side * $s->levels[$f];
            $crossed = isset($this->crossed[$f]);
            $deepest = $crossed ? INF : $limit;
            $middle = $nx * $mx + $ny * $my + $nz * $mz - $level;
            $front[$f] = $crossed || $middle >= 0.0;
            [$cx, $cy, $cz, $radius] = $this->round($f);
            $far = $radius + $fast;
            for ($k = 0; $k < $n; $k++) {
                $px = $x[$k];
                $py = $y[$k];
                $pz = $z[$k];
                $h = $nx * $px + $ny * $py + $nz * $pz - $level;
                if ($h >= $reach) {
                    continue;
                }
                if ($h > -$deepest) {
                    // What is farther aside than it may come, and than grooves count, is not over it.
                    $aside = $far + ($fast - $h > $reach ? $fast - $h : $reach);
                    if (($px - $cx) ** 2 + ($py - $cy) ** 2 + ($pz - $cz) ** 2 - $h * $h < $aside * $aside) {
                        $on[$k][$f] = $h;
                    }
                } elseif ($middle > 0.0 && $h > -$this->size) {
                    $t = $middle / ($middle - $h);
                    if ($this->over($f, $mx + $t * ($px - $mx), $my + $t * ($py - $my), $mz + $t * ($pz - $mz), $side, 0.0)) {
                        $on[$k][$f] = $h;
                    }
                }
            }
        }
        foreach ($on as $k => $heights) {
            if ($heights === []) {
                continue;
            }
            // A thin wall is left the way it was come in: not by a face whose front the hull does not lie in.
            $cameIn = false;
            foreach ($heights as $f => $h) {
                $cameIn = $cameIn || $h < 0.0 && $front[$f];
            }
            [$ux, $uy, $uz] = $this->velocity($x[$k], $y[$k], $z[$k]);
            arsort($heights);
            $kept = [];
            foreach ($heights as $f => $h) {
                if ($cameIn && $h < 0.0 && ! $front[$f]) {
                    continue;
                }
                $nx = $side * $s->normals[3 * $f];
                $ny = $side * $s->normals[3 * $f + 1];
                $nz = $side * $s->normals[3 * $f + 2];
                $closing = -($nx * $ux + $ny * $uy + $nz * $uz);
                // Where it comes down, if it has not yet.
                $t = $h > 0.0 && $closing > 0.0 ? ($h < $closing * $this->span ? $h / $closing : $this->span) : 0.0;
                $travel = $h > 0.0 ? 0.0 : -$h + $closing * $this->span;
                $through = $h <= -$limit && ! isset($this->crossed[$f]);
                if (! $through && ! $this->over($f, $x[$k] + $t * $ux, $y[$k] + $t * $uy, $z[$k] + $t * $uz, $side, max($reach, $travel))) {
                    continue;
                }
                if ($this->isBehind($f, $h, $kept, $side)) {
                    continue;
                }
                $kept[$f] = $h;
                if ($h < $reach) {
                    $this->add(
                        $nx, $ny, $nz, $x[$k] - $h * $nx, $y[$k] - $h * $ny, $z[$k] - $h * $nz, $x[$k], $y[$k], $z[$k], $h,
                        $h - $closing * $this->span,
                    );
                }
            }
        }
    }

    /** @return array{float, float, float, float} the middle of a face's corners and how far they are from it */
    private function round(int $f): array
    {
        $s = $this->surface;
        [$a, $b, $c] = [$s->faces[3 * $f], $s->faces[3 * $f + 1], $s->faces[3 * $f + 2]];
        $x = ($s->x[$a] + $s->x[$b] + $s->x[$c]) / 3.0;
        $y = ($s->y[$a] + $s->y[$b] + $s->y[$c]) / 3.0;
        $z = ($s->z[$a] + $s->z[$b] + $s->z[$c]) / 3.0;
        $far = max(
            ($s->x[$a] - $x) ** 2 + ($s->y[$a] - $y) ** 2 + ($s->z[$a] - $z) ** 2,
            ($s->x[$b] - $x) ** 2 + ($s->y[$b] - $y) ** 2 + ($s->z[$b] - $z) ** 2,
            ($s->x[$c] - $x) ** 2 + ($s->y[$c] - $y) ** 2 + ($s->z[$c] - $z) ** 2,
        );

        return [$x, $y, $z, sqrt($far)];
    }

    /**
     * Whether a face that a place lies under is the far side of one it lies less deep under, or over: then it lies not in it.
     *
     * @param  array<int, float>  $kept  height of the place over faces it lies over more, by face
     */
    private function isBehind(int $f, float $height, array $kept, int $side): bool
    {
        if ($height >= 0.0 || isset($this->crossed[$f])) {
            return false;
        }
        $s = $this->surface;
        [$x, $y, $z] = $this->round($f);
        foreach ($kept as $g => $_) {
            if ($side * ($s->normals[3 * $g] * $x + $s->normals[3 * $g + 1] * $y + $s->normals[3 * $g + 2] * $z - $s->levels[$g]) < -1e-6 * $this->size) {
                return true;
            }
        }

        return false;
    }

    /**
     * Points of the surface in faces of the hull.
     *
     * @param  list<int>  $near  points
     */
    private function points(array $near, float $reach, int $side): void
    {
        $limit = self::DEEPEST * $this->size;
        foreach ($near as $p) {
            $this->point($p, $reach, $limit, $side);
        }
    }

    private function point(int $p, float $reach, float $limit, int $side): void
    {
        $s = $this->surface;
        $normals = $this->hullNormals;
        $levels = $this->hullLevels;
        $x = $s->x[$p];
        $y = $s->y[$p];
        $z = $s->z[$p];
        $best = -INF;
        $face = -1;
        foreach ($levels as $g => $level) {
            $h = $normals[3 * $g] * $x + $normals[3 * $g + 1] * $y + $normals[3 * $g + 2] * $z - $level;
            if ($h > $reach) {
                return;
            }
            if ($h > $best && ! $this->hullInner[$g]) {
                $best = $h;
                $face = $g;
            }
        }
        if ($best < -$limit || $face < 0) {
            return;
        }
        // From the surface to the hull.
        $nx = -$normals[3 * $face];
        $ny = -$normals[3 * $face + 1];
        $nz = -$normals[3 * $face + 2];
        [$ux, $uy, $uz] = $this->velocity($x, $y, $z);
        $closing = -($nx * $ux + $ny * $uy + $nz * $uz);
        // Where the hull's face will be over it when they meet.
        $t = $best > 0.0 && $closing > 0.0 ? ($best < $closing * $this->span ? $best / $closing : $this->span) : 0.0;
        $fx = $x - $t * $ux + ($t > 0.0 ? 0.0 : $best * $nx);
        $fy = $y - $t * $uy + ($t > 0.0 ? 0.0 : $best * $ny);
        $fz = $z - $t * $uz + ($t > 0.0 ? 0.0 : $best * $nz);
        $loose = 1e-6 * $this->size + ($t > 0.0 ? max(0.0, $best - $closing * $this->span) : 0.0);
        foreach ($levels as $g => $level) {
            if ($g !== $face && $loose < $normals[3 * $g] * $fx + $normals[3 * $g + 1] * $fy + $normals[3 * $g + 2] * $fz - $level) {
                return;
            }
        }
        // It must stand out towards the hull: the surface looks that way there, and no edge rises from it.
        for ($k = $s->nextTo[$p], $end = $s->nextTo[$p + 1]; $k < $end; $k++) {
            $q = $s->neighbour[$k];
            $dx = $s->x[$q] - $x;
            $dy = $s->y[$q] - $y;
            $dz = $s->z[$q] - $z;
            $rise = $dx * $nx + $dy * $ny + $dz * $nz;
            if ($rise > 0.0 && $rise * $rise > 1e-8 * ($dx * $dx + $dy * $dy + $dz * $dz)) {
                return;
            }
        }
        $looks = $side * ($s->pointNormals[3 * $p] * $nx + $s->pointNormals[3 * $p + 1] * $ny + $s->pointNormals[3 * $p + 2] * $nz);
        if ($looks <= 0.0 && $s->closed) {
            return;
        }
        $this->add($nx, $ny, $nz, $x, $y, $z, $x + $best * $nx, $y + $best * $ny, $z + $best * $nz, $best, $best - $closing * $this->span);
    }

    /** Edges of the surface that stand out, across edges of the hull. */
    private function edges(float $reach, int $side): void
    {
        $s = $this->surface;
        foreach ($this->near as $f) {
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $bend = $s->bends[$k];
                if ($bend === 2 || $bend * $side === 1 && $f < $s->beyond[$k]) {
                    $this->edge($k, $f, $reach, $side);
                }
            }
        }
    }

    private function edge(int $k, int $f, float $reach, int $side): void
    {
        $s = $this->surface;
        $p = $s->faces[$k];
        $q = $s->faces[$k === 3 * $f + 2 ? 3 * $f : $k + 1];
        $px = $s->x[$p];
        $py = $s->y[$p];
        $pz = $s->z[$p];
        $ux = $s->x[$q] - $px;
        $uy = $s->y[$q] - $py;
        $uz = $s->z[$q] - $pz;
        $length = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
        $ux /= $length;
        $uy /= $length;
        $uz /= $length;
        $ax = $side * $s->normals[3 * $f];
        $ay = $side * $s->normals[3 * $f + 1];
        $az = $side * $s->normals[3 * $f + 2];
        if ($s->bends[$k] === 2) {
            // Round the rim of a sheet: outwards, in its plane, in the middle.
            $ex = $uy * $s->normals[3 * $f + 2] - $uz * $s->normals[3 * $f + 1];
            $ey = $uz * $s->normals[3 * $f] - $ux * $s->normals[3 * $f + 2];
            $ez = $ux * $s->normals[3 * $f + 1] - $uy * $s->normals[3 * $f];
            $dx = $ax;
            $dy = $ay;
            $dz = $az;
            $wide = self::STEEPEST;
        } else {
            $g = 3 * $s->beyond[$k];
            $bx = $side * $s->normals[$g];
            $by = $side * $s->normals[$g + 1];
            $bz = $side * $s->normals[$g + 2];
            $ex = $ax + $bx;
            $ey = $ay + $by;
            $ez = $az + $bz;
            $l = sqrt($ex * $ex + $ey * $ey + $ez * $ez);
            if ($l < 1e-6) {
                return;
            }
            $ex /= $l;
            $ey /= $l;
            $ez /= $l;
            $cos = 0.5 * $l;
            $wide = sqrt(max(0.0, 1.0 - $cos * $cos)) / $cos;
            $dx = $ax - $cos * $ex;
            $dy = $ay - $cos * $ey;
            $dz = $az - $cos * $ez;
            $l = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            if ($l < 1e-9) {
                return;
            }
            $dx /= $l;
            $dy /= $l;
            $dz /= $l;
            $wide = $wide > self::STEEPEST ? self::STEEPEST : $wide;
        }
        // Seen along the edge: how far each corner lies along the middle normal, and aside of it.
        $n = count($this->x);
        $along = $aside = [];
        $upper = INF;
        $lower = INF;
        for ($i = 0; $i < $n; $i++) {
            $rx = $this->x[$i] - $px;
            $ry = $this->y[$i] - $py;
            $rz = $this->z[$i] - $pz;
            $along[] = $a = $rx * $ex + $ry * $ey + $rz * $ez;
            $aside[] = $b = $rx * $dx + $ry * $dy + $rz * $dz;
            if ($a + $wide * $b < $upper) {
                $upper = $a + $wide * $b;
                $up = $i;
            }
            if ($a - $wide * $b < $lower) {
                $lower = $a - $wide * $b;
                $low = $i;
            }
        }
        $stretch = sqrt(1.0 + $wide * $wide);
        // One of its two faces parts them already.
        if (! isset($up, $low) || $upper > $reach * $stretch || $lower > $reach * $stretch) {
            return;
        }
        // The highest of the lowest: the lowest corners at both ends bound it from above.
        $i = $low;
        $j = $up;
        for ($round = 0; $round < 12; $round++) {
            if ($aside[$i] <= $aside[$j]) {
                return;
            }
            $tau = ($along[$j] - $along[$i]) / ($aside[$i] - $aside[$j]);
            $value = $along[$i] + $tau * $aside[$i];
            $best = $value - 1e-9 * $this->size;
            $under = -1;
            for ($m = 0; $m < $n; $m++) {
                $v = $along[$m] + $tau * $aside[$m];
                if ($v < $best) {
                    $best = $v;
                    $under = $m;
                }
            }
            if ($under < 0) {
                break;
            }
            if ($aside[$under] > 0.0) {
                $i = $under;
            } else {
                $j = $under;
            }
        }
        if ($tau <= -$wide || $tau >= $wide) {
            return;
        }
        $l = sqrt(1.0 + $tau * $tau);
        $gap = ($along[$i] + $tau * $aside[$i]) / $l;
        if ($gap > $reach || $gap < -self::DEEPEST * $this->size) {
            return;
        }
        $nx = ($ex + $tau * $dx) / $l;
        $ny = ($ey + $tau * $dy) / $l;
        $nz = ($ez + $tau * $dz) / $l;
        foreach ($this->crossings($along, $aside, $tau, $l, $gap, [$ux, $uy, $uz], [$px, $py, $pz], $length, [$nx, $ny, $nz]) as [$at, $height, $closing]) {
            if ($height > $reach) {
                continue;
            }
            $sx = $px + $at * $ux;
            $sy = $py + $at * $uy;
            $sz = $pz + $at * $uz;
            $hx = $sx + $height * $nx;
            $hy = $sy + $height * $ny;
            $hz = $sz + $height * $nz;
            if ($height < 0.0 && $this->isOutside($hx, $hy, $hz, $px + 0.5 * $length * $ux, $py + 0.5 * $length * $uy, $pz + 0.5 * $length * $uz, $height, $side)) {
                continue;
            }
            $this->add($nx, $ny, $nz, $sx, $sy, $sz, $hx, $hy, $hz, $height, $height - $closing * $this->span);
        }
    }

    /**
     * Where edges of the hull pass over an edge of the surface: one, or two where a whole face lies along it.
     *
     * @param  non-empty-list<float>  $along  of each corner, along the middle normal of the edge
     * @param  non-empty-list<float>  $aside  and aside of it
     * @param  float  $tau  how far the normal leans over
     * @param  float  $l  length of it
     * @param  float  $gap  metres, of the lowest
     * @param  array{float, float, float}  $u  along the edge
     * @param  array{float, float, float}  $p  where it begins
     * @param  array{float, float, float}  $normal
     * @return list<array{float, float, float}> metres along the edge, height over it, and how fast that goes down
     */
    private function crossings(
        array $along, array $aside, float $tau, float $l, float $gap, array $u, array $p, float $length, array $normal,
    ): array {
        $left = $right = [];
        foreach ($along as $m => $a) {
            $height = ($a + $tau * $aside[$m]) / $l;
            if ($height <= $gap + self::LEVEL * $this->size) {
                $over = ($aside[$m] - $tau * $a) / $l;
                $z = ($this->x[$m] - $p[0]) * $u[0] + ($this->y[$m] - $p[1]) * $u[1] + ($this->z[$m] - $p[2]) * $u[2];
                if ($over <= 0.0) {
                    $left[] = [$over, $height, $z];
                } else {
                    $right[] = [$over, $height, $z];
                }
            }
        }
        $first = [INF, 0.0];
        $last = [-INF, 0.0];
        foreach ($left as [$tl, $hl, $zl]) {
            foreach ($right as [$tr, $hr, $zr]) {
                $share = $tl / ($tl - $tr);
                $z = $zl + $share * ($zr - $zl);
                $h = $hl + $share * ($hr - $hl);
                if ($z < $first[0] || $z === $first[0] && $h < $first[1]) {
                    $first = [$z, $h];
                }
                if ($z > $last[0] || $z === $last[0] && $h < $last[1]) {
                    $last = [$z, $h];
                }
            }
        }
        if ($first[0] > $last[0]) {
            return [];
        }
        $out = [];
        foreach (1e-6 * $this->size < $last[0] - $first[0] ? [[$first, $last], [$last, $first]] : [[$first, $last]] as [[$z, $h], [$far, $high]]) {
            // Where it is when they meet.
            $hx = $p[0] + $z * $u[0] + $h * $normal[0];
            $hy = $p[1] + $z * $u[1] + $h * $normal[1];
            $hz = $p[2] + $z * $u[2] + $h * $normal[2];
            [$vx, $vy, $vz] = $this->velocity($hx, $hy, $hz);
            $closing = -($normal[0] * $vx + $normal[1] * $vy + $normal[2] * $vz);
            $t = $h > 0.0 && $closing > 0.0 ? ($h < $closing * $this->span ? $h / $closing : $this->span) : 0.0;
            $moved = $t * ($vx * $u[0] + $vy * $u[1] + $vz * $u[2]);
            $start = -$moved;
            $end = $length - $moved;
            // What has sunk in at the point between two edges of a hollow has passed beyond the ends of both.
            $beyond = max(1e-6 * $this->size, -$h);
            if ($z < $start - $beyond && $far <= $start - $beyond || $z > $end + $beyond && $far >= $end + $beyond) {
                continue;
            }
            $at = $z < $start ? $start : ($z > $end ? $end : $z);
            $h += $at === $z || $far === $z ? 0.0 : max(0.0, min(1.0, ($at - $z) / ($far - $z))) * ($high - $h);
            $out[] = [$at, $h, $closing];
        }

        return $out;
    }

    /** Whether a place of the hull that seems to lie within the surface, seen from an edge, lies in front of a face that the edge lies behind. */
    private function isOutside(float $x, float $y, float $z, float $ex, float $ey, float $ez, float $gap, int $side): bool
    {
        $s = $this->surface;
        foreach ($this->near as $g) {
            $nx = $side * $s->normals[3 * $g];
            $ny = $side * $s->normals[3 * $g + 1];
            $nz = $side * $s->normals[3 * $g + 2];
            $level = $side * $s->levels[$g];
            $h = $nx * $x + $ny * $y + $nz * $z - $level;
            if (
                $h > $gap + 1e-9 * $this->size
                && $nx * $ex + $ny * $ey + $nz * $ez - $level < -1e-6 * $this->size
                && $this->over($g, $x, $y, $z, $side, 0.0)
            ) {
                return true;
            }
        }

        return false;
    }

    /** A ball meets what is nearest to its middle, of each part of the surface that stands out towards it. */
    private function ball(float $reach, int $side): void
    {
        $s = $this->surface;
        $near = [];
        foreach ($this->near as $f) {
            [$qx, $qy, $qz] = $this->surface->nearestOn($f, $this->mx, $this->my, $this->mz);
            $dx = $this->mx - $qx;
            $dy = $this->my - $qy;
            $dz = $this->mz - $qz;
            $d = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            if ($d - $this->roundness < $reach) {
                // Of faces equally near, first the one it stands over most.
                $front = $side * ($dx * $s->normals[3 * $f] + $dy * $s->normals[3 * $f + 1] + $dz * $s->normals[3 * $f + 2]);
                $near[] = [$d - 1e-6 * abs($front), $f, $d, $front, $qx, $qy, $qz];
            }
        }
        sort($near);
        $taken = [];
        foreach ($near as [, $f, $d, $front, $qx, $qy, $qz]) {
            $fx = $side * $s->normals[3 * $f];
            $fy = $side * $s->normals[3 * $f + 1];
            $fz = $side * $s->normals[3 * $f + 2];
            $through = isset($this->crossed[$f]);
            if ($front < 0.0 && ! $through && ($s->closed || $front < -self::DEEPEST * $this->size)) {
                // Its middle lies behind: it is met from its front elsewhere, or has sunk into it.
                if ($taken !== [] || $d > $this->roundness) {
                    continue;
                }
            }
            foreach ($taken as [$tx, $ty, $tz]) {
                // What lies behind what was taken, or beside it on the same bulge, is nearer by that.
                if (($qx - $tx) * ($this->mx - $tx) + ($qy - $ty) * ($this->my - $ty) + ($qz - $tz) * ($this->mz - $tz) <= 1e-9 * $this->size * $this->size) {
                    continue 2;
                }
            }
            if ($d > $this->roundness + self::TOUCHING * $this->size) {
                $this->meets($f);

                continue;
            }
            $inner = $front < 0.0;
            if ($d < 1e-9 * $this->size || abs($front) > 0.99999 * $d) {
                [$nx, $ny, $nz] = [$fx, $fy, $fz];
            } else {
                $k = ($inner ? -1.0 : 1.0) / $d;
                $nx = ($this->mx - $qx) * $k;
                $ny = ($this->my - $qy) * $k;
                $nz = ($this->mz - $qz) * $k;
            }
            $taken[] = [$qx, $qy, $qz];
            $gap = ($inner ? -$d : $d) - $this->roundness;
            [$vx, $vy, $vz] = $this->velocity($this->mx - $this->roundness * $nx, $this->my - $this->roundness * $ny, $this->mz - $this->roundness * $nz);
            $closing = -($nx * $vx + $ny * $vy + $nz * $vz);
            $this->add(
                $nx, $ny, $nz, $qx, $qy, $qz, $this->mx - $this->roundness * $nx, $this->my - $this->roundness * $ny,
                $this->mz - $this->roundness * $nz, $gap, $gap - $closing * $this->span,
            );
        }
    }

    /**
     * A ball that is still apart from a face meets it as it lies when they meet, if they do: a plane laid where they are nearest now would
     * stop a ball that passes by. Safe steps along the way, as long as nothing is near (Hart 1996, "Sphere tracing").
     */
    private function meets(int $f): void
    {
        $t = 0.0;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $x = $this->mx + $t * $this->vx;
            $y = $this->my + $t * $this->vy;
            $z = $this->mz + $t * $this->vz;
            [$qx, $qy, $qz] = $this->surface->nearestOn($f, $x, $y, $z);
            $nx = $x - $qx;
            $ny = $y - $qy;
            $nz = $z - $qz;
            $d = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $nx /= $d;
            $ny /= $d;
            $nz /= $d;
            $closing = -($nx * $this->vx + $ny * $this->vy + $nz * $this->vz);
            $gap = $d - $this->roundness;
            if ($gap < 1e-6 * $this->size) {
                $gap = $closing * $t;
                $this->add(
                    $nx, $ny, $nz, $this->mx - ($this->roundness + $gap) * $nx, $this->my - ($this->roundness + $gap) * $ny,
                    $this->mz - ($this->roundness + $gap) * $nz, $this->mx - $this->roundness * $nx, $this->my - $this->roundness * $ny,
                    $this->mz - $this->roundness * $nz, $gap, $gap - $closing * $this->span,
                );

                return;
            }
            if ($closing <= 0.0 || ($t += $gap / $closing) > $this->span) {
                return;
            }
        }
    }

    /** @return array{float, float, float} m/s of a place of the hull against the surface */
    private function velocity(float $x, float $y, float $z): array
    {
        $rx = $x - $this->mx;
        $ry = $y - $this->my;
        $rz = $z - $this->mz;

        return [
            $this->vx + $this->wy * $rz - $this->wz * $ry,
            $this->vy + $this->wz * $rx - $this->wx * $rz,
            $this->vz + $this->wx * $ry - $this->wy * $rx,
        ];
    }

    private function add(
        float $nx, float $ny, float $nz, float $sx, float $sy, float $sz, float $hx, float $hy, float $hz, float $gap, float $ahead,
    ): void {
        array_push($this->found, $nx, $ny, $nz, $sx, $sy, $sz, $hx, $hy, $hz, $gap, $ahead);
    }

    /**
     * Those of like normals together, the ones that will press most first; of too many, half by how they press and half by how their
     * normals spread.
     *
     * @return list<list<float>>
     */
    private function groups(): array
    {
        $order = [];
        for ($i = 0, $n = count($this->found); $i < $n; $i += self::POINT) {
            $order[$i] = min($this->found[$i + self::GAP], $this->found[$i + self::AHEAD]);
        }
        asort($order);
        $groups = [];
        foreach ($order as $i => $_) {
            $point = array_slice($this->found, $i, self::POINT);
            foreach ($groups as $g => $group) {
                if ($point[0] * $group[0] + $point[1] * $group[1] + $point[2] * $group[2] > self::ALIKE) {
                    array_push($groups[$g], ...$point);

                    continue 2;
                }
            }
            $groups[] = $point;
        }

        $out = [];
        foreach (self::spread($groups) as $group) {
            $out[] = $this->fewest($group);
        }

        return $out;
    }

    /**
     * @param  list<list<float>>  $groups
     * @return list<list<float>>
     */
    private static function spread(array $groups): array
    {
        if (count($groups) <= self::MOST) {
            return $groups;
        }
        $kept = array_splice($groups, 0, intdiv(self::MOST, 2));
        while (count($kept) < self::MOST) {
            $best = 2.0;
            $next = 0;
            foreach ($groups as $g => $group) {
                $alike = -1.0;
                foreach ($kept as $other) {
                    $alike = max($alike, $group[0] * $other[0] + $group[1] * $other[1] + $group[2] * $other[2]);
                }
                if ($alike < $best) {
                    $best = $alike;
                    $next = $g;
                }
            }
            $kept[] = array_splice($groups, $next, 1)[0];
        }

        return $kept;
    }

    /**
     * @param  list<float>  $group
     * @return list<float>
     */
    private function fewest(array $group): array
    {
        // Of two at one place the one that presses more came first.
        $points = $kept = [];
        $near = 1e-10 * $this->size * $this->size;
        for ($i = 0, $n = count($group); $i < $n; $i += self::POINT) {
            for ($k = 0, $m = count($points); $k < $m; $k += 7) {
                $dx = $points[$k] - $group[$i + self::ON_HULL];
                $dy = $points[$k + 1] - $group[$i + self::ON_HULL + 1];
                $dz = $points[$k + 2] - $group[$i + self::ON_HULL + 2];
                if ($dx * $dx + $dy * $dy + $dz * $dz < $near) {
                    continue 2;
                }
            }
            array_push($points, $group[$i + self::ON_HULL], $group[$i + self::ON_HULL + 1], $group[$i + self::ON_HULL + 2], (float) $i, 0.0, 0.0, $group[$i + self::GAP]);
        }
        $points = ContactPatch::carrying($points, self::POINTS, $this->size);
        for ($k = 0, $m = count($points); $k < $m; $k += 7) {
            array_push($kept, ...array_slice($group, (int) $points[$k + 3], self::POINT));
        }
        // All share the first one's normal.
        for ($k = self::POINT, $m = count($kept); $k < $m; $k += self::POINT) {
            [$kept[$k], $kept[$k + 1], $kept[$k + 2]] = [$group[0], $group[1], $group[2]];
        }
        [$kept[0], $kept[1], $kept[2]] = [$group[0], $group[1], $group[2]];

        return $kept;
    }
}
