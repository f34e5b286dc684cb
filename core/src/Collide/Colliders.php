<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/**
 * The true surfaces of all that stands and moves, and the ground, asked by many points at once: the nearest surface, whether a
 * point is inside, how fast the surface moves there, how it holds and bounces; and what points that move meet first.
 */
final class Colliders
{
    /** Pieces at most so many cells wide are found by a grid over the scene; larger ones are asked by all points. */
    private const MOST_CELLS = 6.0;

    /** Metres, as a share of a way: so near to a surface a point has met it. */
    private const MET = 1e-6;

    /** Looks along a way at most. */
    private const MOST_LOOKS = 60;

    /** So many pieces are looked at one by one; of more, at all at once. */
    private const BOX_BY_BOX = 16;

    /** @var list<array{int, int}> prop and number within it, by piece */
    private array $of = [];

    /** @var array<int, array<int, int>> the other way round: number by prop and piece */
    private array $numbers = [];

    /** @var list<Obstacle> */
    private array $obstacles = [];

    /** @var list<array{Vec3, Quaternion, float}> middle, turn and size, by piece */
    private array $poses = [];

    /** @var list<array{Vec3, Vec3, float}> m/s of the middle, rad/s, and growth a second, by piece */
    private array $motions = [];

    /** @var array<int, array{float, float}> friction and bounce by prop; −1 is the ground */
    private array $surfaces = [];

    /** @param  Ground|null  $ground  null where there is none */
    public function __construct(private readonly ?Ground $ground)
    {
    }

    /** Adds a piece; its surface is about its middle. */
    public function add(int $prop, int $piece, Mesh $surface): void
    {
        $this->numbers[$prop][$piece] = count($this->of);
        $this->of[] = [$prop, $piece];
        $this->obstacles[] = new Obstacle($surface);
        $this->poses[] = [Vec3::zero(), Quaternion::identity(), 1.0];
        $this->motions[] = [Vec3::zero(), Vec3::zero(), 0.0];
    }

    /** @return list<array{int, int}> prop and number within it of all pieces, in the order they were added */
    public function pieces(): array
    {
        return $this->of;
    }

    /**
     * Where they are now, and how they move.
     *
     * @param  list<array{Vec3, Quaternion, float}>  $poses  middle, turn and size, by piece in the order they were added
     * @param  list<array{Vec3, Vec3, float}>  $motions  m/s of the middle, rad/s, and growth a second
     * @param  array<int, array{float, float}>  $surfaces  friction and bounce by prop; −1 is the ground
     */
    public function moveTo(array $poses, array $motions, array $surfaces): void
    {
        $this->poses = $poses;
        $this->motions = $motions;
        $this->surfaces = $surfaces;
    }

    /**
     * Surfaces that are open have two sides: points are on the one they come from.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $within  metres; what is farther outside is not looked for
     * @param  array{list<float>, list<float>, list<float>}|null  $way  m that each has gone since it was on the side it belongs to; null for none
     */
    public function nearest(array $x, array $y, array $z, float $within, ?array $way = null): NearestSurfaces
    {
        $n = count($x);
        $distance = array_fill(0, $n, INF);
        $nx = $ny = $nz = array_fill(0, $n, 0.0);
        $prop = array_fill(0, $n, NearestSurfaces::NOTHING);
        $piece = array_fill(0, $n, -1);
        foreach ($this->candidates($x, $y, $z, $within) as $p => $ids) {
            [$at, $turn, $size] = $this->poses[$p];
            [$lx, $ly, $lz] = self::local($x, $y, $z, $ids, $at, $turn, $size);
            [$found, $distances, $ux, $uy, $uz] = $this->obstacles[$p]->near($lx, $ly, $lz, $within / $size);
            if ($found === []) {
                continue;
            }
            $m = Mesh::matrix($turn);
            $open = $this->obstacles[$p]->isOpen();
            foreach ($found as $k => $own) {
                $i = $ids === null ? $own : $ids[$own];
                $d = $distances[$k] * $size;
                if ($d >= $distance[$i] && ! $open) {
                    continue;
                }
                $u = $m[0] * $ux[$k] + $m[1] * $uy[$k] + $m[2] * $uz[$k];
                $v = $m[3] * $ux[$k] + $m[4] * $uy[$k] + $m[5] * $uz[$k];
                $w = $m[6] * $ux[$k] + $m[7] * $uy[$k] + $m[8] * $uz[$k];
                if ($open && $d < ($way === null ? 0.0 : $way[0][$i] * $u + $way[1][$i] * $v + $way[2][$i] * $w)) {
                    [$d, $u, $v, $w] = [-$d, -$u, -$v, -$w];
                }
                if ($d < $distance[$i]) {
                    [$distance[$i], $nx[$i], $ny[$i], $nz[$i]] = [$d, $u, $v, $w];
                    [$prop[$i], $piece[$i]] = $this->of[$p];
                }
            }
        }
        foreach ($this->ground === null ? [] : self::nearerGround($this->ground, $x, $y, $z, $within, $distance) as $i => $found) {
            [$distance[$i], $nx[$i], $ny[$i], $nz[$i]] = $found;
            [$prop[$i], $piece[$i]] = [NearestSurfaces::GROUND, -1];
        }

        return new NearestSurfaces($distance, $nx, $ny, $nz, $prop, $piece);
    }

    /**
     * How fast the surfaces found move at those places.
     *
     * @param  list<float>  $x  the points asked about
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>} m/s
     */
    public function velocities(array $x, array $y, array $z, NearestSurfaces $found): array
    {
        $vx = $vy = $vz = [];
        foreach ($found->prop as $i => $prop) {
            if ($prop < 0) {
                $vx[] = $vy[] = $vz[] = 0.0;

                continue;
            }
            $p = $this->numbers[$prop][$found->piece[$i]];
            [$velocity, $spin, $growth] = $this->motions[$p];
            $middle = $this->poses[$p][0];
            $d = $found->distance[$i];
            $rx = $x[$i] - $d * $found->nx[$i] - $middle->x;
            $ry = $y[$i] - $d * $found->ny[$i] - $middle->y;
            $rz = $z[$i] - $d * $found->nz[$i] - $middle->z;
            $vx[] = $velocity->x + $spin->y * $rz - $spin->z * $ry + $growth * $rx;
            $vy[] = $velocity->y + $spin->z * $rx - $spin->x * $rz + $growth * $ry;
            $vz[] = $velocity->z + $spin->x * $ry - $spin->y * $rx + $growth * $rz;
        }

        return [$vx, $vy, $vz];
    }

    /**
     * Corners and convex edges that lie in a box, or reach into it.
     *
     * @param  array{float, float, float, float, float, float}  $box  low and high corner
     * @param  float  $long  m, from which on edges are told: of shorter ones the corners do
     */
    public function creases(array $box, float $long): NearCreases
    {
        $out = new NearCreases;
        foreach ($this->boxesOf($this->poses, 0.0) as $p => $own) {
            if ($own[0] <= $box[3] && $own[1] <= $box[4] && $own[2] <= $box[5] && $own[3] >= $box[0] && $own[4] >= $box[1] && $own[5] >= $box[2]) {
                $this->addCreases($p, $box, $long, $out);
            }
        }

        return $out;
    }

    /** @param  array{float, float, float, float, float, float}  $box */
    private function addCreases(int $p, array $box, float $long, NearCreases $out): void
    {
        $creases = $this->obstacles[$p]->creases();
        [$at, $turn, $size] = $this->poses[$p];
        $m = Mesh::matrix($turn);
        $x = $y = $z = [];
        foreach ($creases->x as $i => $u) {
            $u *= $size;
            $v = $size * $creases->y[$i];
            $w = $size * $creases->z[$i];
            $x[] = $at->x + $m[0] * $u + $m[1] * $v + $m[2] * $w;
            $y[] = $at->y + $m[3] * $u + $m[4] * $v + $m[5] * $w;
            $z[] = $at->z + $m[6] * $u + $m[7] * $v + $m[8] * $w;
        }
        $number = [];
        foreach ($creases->ex as $e => $ex) {
            $a = $creases->edges[2 * $e];
            $b = $creases->edges[2 * $e + 1];
            if (max($x[$a], $x[$b]) < $box[0] || min($x[$a], $x[$b]) > $box[3] || max($y[$a], $y[$b]) < $box[1] || min($y[$a], $y[$b]) > $box[4] || max($z[$a], $z[$b]) < $box[2] || min($z[$a], $z[$b]) > $box[5]) {
                continue;
            }
            foreach ([$a, $b] as $i) {
                if (! isset($number[$i])) {
                    $number[$i] = count($out->x);
                    $this->addCorner($p, $x[$i], $y[$i], $z[$i], $m, [$creases->nx[$i], $creases->ny[$i], $creases->nz[$i]], $out);
                }
            }
            if (($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2 < $long * $long) {
                continue;
            }
            $ey = $creases->ey[$e];
            $ez = $creases->ez[$e];
            $out->ex[] = $m[0] * $ex + $m[1] * $ey + $m[2] * $ez;
            $out->ey[] = $m[3] * $ex + $m[4] * $ey + $m[5] * $ez;
            $out->ez[] = $m[6] * $ex + $m[7] * $ey + $m[8] * $ez;
            $out->edges[] = $number[$a];
            $out->edges[] = $number[$b];
        }
    }

    /**
     * @param  array<int, float>  $m  rows of its turn
     * @param  array{float, float, float}  $normal  in its own coordinates
     */
    private function addCorner(int $p, float $x, float $y, float $z, array $m, array $normal, NearCreases $out): void
    {
        [$velocity, $spin, $growth] = $this->motions[$p];
        $rx = $x - $this->poses[$p][0]->x;
        $ry = $y - $this->poses[$p][0]->y;
        $rz = $z - $this->poses[$p][0]->z;
        [$u, $v, $w] = $normal;
        $out->x[] = $x;
        $out->y[] = $y;
        $out->z[] = $z;
        $out->nx[] = $m[0] * $u + $m[1] * $v + $m[2] * $w;
        $out->ny[] = $m[3] * $u + $m[4] * $v + $m[5] * $w;
        $out->nz[] = $m[6] * $u + $m[7] * $v + $m[8] * $w;
        $out->vx[] = $velocity->x + $spin->y * $rz - $spin->z * $ry + $growth * $rx;
        $out->vy[] = $velocity->y + $spin->z * $rx - $spin->x * $rz + $growth * $ry;
        $out->vz[] = $velocity->z + $spin->x * $ry - $spin->y * $rx + $growth * $rz;
        array_push($out->of, ...$this->of[$p]);
    }

    /** m/s, of the fastest place of anything. */
    public function fastest(): float
    {
        $most = 0.0;
        foreach ($this->motions as $p => [$velocity, $spin, $growth]) {
            $box = $this->obstacles[$p]->box;
            $far = $this->poses[$p][2] * sqrt(max($box[0] ** 2, $box[3] ** 2) + max($box[1] ** 2, $box[4] ** 2) + max($box[2] ** 2, $box[5] ** 2));
            $most = max($most, $velocity->length() + ($spin->length() + abs($growth)) * $far);
        }

        return $most;
    }

    /** @return array{float, float} friction and bounce of a prop; −1 is the ground */
    public function surface(int $prop): array
    {
        return $this->surfaces[$prop] ?? [0.0, 0.0];
    }

    /**
     * What points that move straight from one place to another meet first, each piece moving on meanwhile as it moves now. Safe steps along the way, each
     * as long as nothing is near (Hart 1996, "Sphere tracing").
     *
     * @param  array{list<float>, list<float>, list<float>}  $from  x, y and z of the points
     * @param  array{list<float>, list<float>, list<float>}  $to
     * @param  float  $seconds  that this takes
     */
    public function sweep(array $from, array $to, float $seconds): Hits
    {
        $ends = $this->ends($seconds);
        $n = count($from[0]);
        $share = array_fill(0, $n, INF);
        $nx = $ny = $nz = array_fill(0, $n, 0.0);
        $prop = array_fill(0, $n, NearestSurfaces::NOTHING);
        $piece = array_fill(0, $n, -1);
        foreach ($this->crossed($from, $to, $ends) as $p => $ids) {
            [$startAt, $startTurn, $startSize] = $this->poses[$p];
            [$at, $turn, $size] = $ends[$p];
            $starts = self::local($from[0], $from[1], $from[2], $ids, $startAt, $startTurn, $startSize);
            $stops = self::local($to[0], $to[1], $to[2], $ids, $at, $turn, $size);
            $m = Mesh::matrix($turn);
            foreach (self::march(
                $starts,
                $stops,
                fn (array $x, array $y, array $z, float $within): array => $this->obstacles[$p]->near($x, $y, $z, $within),
            ) as $own => [$t, $u, $v, $w]) {
                $i = $ids === null ? $own : $ids[$own];
                if ($t < $share[$i]) {
                    $share[$i] = $t;
                    [$prop[$i], $piece[$i]] = $this->of[$p];
                    $nx[$i] = $m[0] * $u + $m[1] * $v + $m[2] * $w;
                    $ny[$i] = $m[3] * $u + $m[4] * $v + $m[5] * $w;
                    $nz[$i] = $m[6] * $u + $m[7] * $v + $m[8] * $w;
                }
            }
        }
        if ($this->ground !== null) {
            $ground = $this->ground;
            foreach (self::march(
                $from,
                $to,
                static fn (array $x, array $y, array $z, float $within): array => self::groundNear($ground, $x, $y, $z, $within),
            ) as $i => [$t, $u, $v, $w]) {
                if ($t < $share[$i]) {
                    [$share[$i], $nx[$i], $ny[$i], $nz[$i], $prop[$i], $piece[$i]] = [$t, $u, $v, $w, NearestSurfaces::GROUND, -1];
                }
            }
        }

        return new Hits($share, $nx, $ny, $nz, $prop, $piece);
    }

    /** @return list<array{Vec3, Quaternion, float}> middle, turn and size of the pieces after so many seconds of moving as they do */
    private function ends(float $seconds): array
    {
        $out = [];
        foreach ($this->poses as $p => [$at, $turn, $size]) {
            [$velocity, $spin, $growth] = $this->motions[$p];
            $angle = $spin->length() * $seconds;
            $out[] = [
                $at->plus($velocity->times($seconds)),
                $angle > 0.0 ? Quaternion::aboutAxis($spin, $angle)->after($turn) : $turn,
                $size * (1.0 + $growth * $seconds),
            ];
        }

        return $out;
    }

    /**
     * @param  array{list<float>, list<float>, list<float>}  $from
     * @param  array{list<float>, list<float>, list<float>}  $to
     * @param  \Closure(list<float>, list<float>, list<float>, float): array{list<int>, list<float>, list<float>, list<float>, list<float>}  $near  as of
     *   `Obstacle::near`
     * @return array<int, array{float, float, float, float}> by point that meets it: share of its way, and the normal
     */
    private static function march(array $from, array $to, \Closure $near): array
    {
        $going = $lengths = [];
        foreach ($from[0] as $i => $x) {
            $lengths[$i] = sqrt(($to[0][$i] - $x) ** 2 + ($to[1][$i] - $from[1][$i]) ** 2 + ($to[2][$i] - $from[2][$i]) ** 2);
            $going[$i] = 0.0;
        }
        $out = [];
        for ($look = 0; $look < self::MOST_LOOKS && $going !== []; $look++) {
            $ids = array_keys($going);
            $x = $y = $z = [];
            $left = 0.0;
            foreach ($going as $i => $t) {
                $x[] = $from[0][$i] + $t * ($to[0][$i] - $from[0][$i]);
                $y[] = $from[1][$i] + $t * ($to[1][$i] - $from[1][$i]);
                $z[] = $from[2][$i] + $t * ($to[2][$i] - $from[2][$i]);
                $left = max($left, (1.0 - $t) * $lengths[$i]);
            }
            [$found, $distance, $nx, $ny, $nz] = $near($x, $y, $z, $left + self::MET);
            $next = [];
            foreach ($found as $k => $own) {
                $i = $ids[$own];
                $t = $going[$i];
                if ($distance[$k] <= self::MET * max(1.0, $lengths[$i]) || $look === self::MOST_LOOKS - 1) {
                    $out[$i] = [$t, $nx[$k], $ny[$k], $nz[$k]];
                } elseif ($lengths[$i] > 0.0 && $t + $distance[$k] / $lengths[$i] <= 1.0) {
                    $next[$i] = $t + $distance[$k] / $lengths[$i];
                }
            }
            $going = $next;
        }

        return $out;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $distance  to the nearest piece
     * @return array<int, array{float, float, float, float}> by point to which the ground is nearer: the distance, and the normal
     */
    private static function nearerGround(Ground $ground, array $x, array $y, array $z, float $within, array $distance): array
    {
        [$ids, $own, $ux, $uy, $uz] = self::groundNear($ground, $x, $y, $z, $within);
        $out = [];
        foreach ($ids as $k => $i) {
            if ($own[$k] < $distance[$i]) {
                $out[$i] = [$own[$k], $ux[$k], $uy[$k], $uz[$k]];
            }
        }

        return $out;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<float>, list<float>, list<float>, list<float>} as of `Obstacle::near`
     */
    private static function groundNear(Ground $ground, array $x, array $y, array $z, float $within): array
    {
        $ids = $distance = $nx = $ny = $nz = [];
        $flat = $ground->isFlat();
        foreach ($y as $i => $h) {
            if ($h > $within) {
                continue;
            }
            $place = $flat ? new GroundPlace($h, 0.0, 1.0, 0.0) : GroundPlace::nearest($ground, $x[$i], $h, $z[$i]);
            if ($place->distance <= $within) {
                $ids[] = $i;
                $distance[] = $place->distance;
                $nx[] = $place->nx;
                $ny[] = $place->ny;
                $nz[] = $place->nz;
            }
        }

        return [$ids, $distance, $nx, $ny, $nz];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>|null  $ids  which of them; null for all
     * @return array{list<float>, list<float>, list<float>} as a piece that stands there sees them
     */
    private static function local(array $x, array $y, array $z, ?array $ids, Vec3 $at, Quaternion $turn, float $size): array
    {
        $m = Mesh::matrix($turn);
        $k = 1.0 / $size;

        return $ids === null
            ? self::allLocal(
                $x, $y, $z, $at->x, $at->y, $at->z, $k * $m[0], $k * $m[1], $k * $m[2], $k * $m[3], $k * $m[4], $k * $m[5], $k * $m[6], $k * $m[7],
                $k * $m[8],
            )
            : self::allLocal(
                self::pick($x, $ids), self::pick($y, $ids), self::pick($z, $ids), $at->x, $at->y, $at->z, $k * $m[0], $k * $m[1], $k * $m[2],
                $k * $m[3], $k * $m[4], $k * $m[5], $k * $m[6], $k * $m[7], $k * $m[8],
            );
    }

    /**
     * @param  list<float>  $values
     * @param  list<int>  $ids
     * @return list<float>
     */
    private static function pick(array $values, array $ids): array
    {
        $out = [];
        foreach ($ids as $i) {
            $out[] = $values[$i];
        }

        return $out;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function allLocal(
        array $x, array $y, array $z, float $ax, float $ay, float $az, float $a, float $b, float $c, float $d, float $e, float $f, float $g, float $h,
        float $j,
    ): array {
        $lx = $ly = $lz = [];
        for ($i = 0, $n = count($x); $i < $n; $i++) {
            $u = $x[$i] - $ax;
            $v = $y[$i] - $ay;
            $w = $z[$i] - $az;
            $lx[] = $a * $u + $d * $v + $g * $w;
            $ly[] = $b * $u + $e * $v + $h * $w;
            $lz[] = $c * $u + $f * $v + $j * $w;
        }

        return [$lx, $ly, $lz];
    }

    /**
     * The points each piece may be within reach of.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array<int, list<int>|null> numbers of points by piece; null for all of them
     */
    private function candidates(array $x, array $y, array $z, float $within): array
    {
        [$boxes, $large, $cell] = $this->boxes($this->poses, $within);
        $out = array_fill_keys($large, null);
        if ($boxes === [] || $x === []) {
            return $out;
        }
        // In cells of half a piece a point has few pieces to ask in vain.
        $k = 2.0 / $cell;

        return $out + self::met(
            $x,
            $y,
            $z,
            self::sorted($boxes, $k),
            $k,
            ...array_map(static fn (int $side): array => array_map(static fn (array $box): float => $box[$side], $boxes), [0, 1, 2, 3, 4, 5]),
        );
    }

    /**
     * The points each piece may meet.
     *
     * @param  array{list<float>, list<float>, list<float>}  $from
     * @param  array{list<float>, list<float>, list<float>}  $to
     * @param  list<array{Vec3, Quaternion, float}>  $ends  where the pieces will be
     * @return array<int, list<int>|null> numbers of points by piece; null for all of them
     */
    private function crossed(array $from, array $to, array $ends): array
    {
        [$boxes, $large, $cell] = $this->boxes($this->poses, 0.0);
        [$later] = $this->boxes($ends, 0.0);
        $out = array_fill_keys($large, null);
        foreach ($later as $p => $box) {
            foreach ([0, 1, 2] as $axis) {
                $boxes[$p][$axis] = min($boxes[$p][$axis] ?? INF, $box[$axis]);
                $boxes[$p][$axis + 3] = max($boxes[$p][$axis + 3] ?? -INF, $box[$axis + 3]);
            }
        }
        $boxes = array_diff_key($boxes, $out);
        if ($boxes === [] || $from[0] === []) {
            return $out;
        }
        $k = 1.0 / $cell;
        $cells = self::sorted($boxes, $k);
        foreach ($from[0] as $i => $x) {
            $met = [];
            for ($a = (int) floor($k * min($x, $to[0][$i])), $a1 = (int) floor($k * max($x, $to[0][$i])); $a <= $a1; $a++) {
                for ($b = (int) floor($k * min($from[1][$i], $to[1][$i])), $b1 = (int) floor($k * max($from[1][$i], $to[1][$i])); $b <= $b1; $b++) {
                    for ($c = (int) floor($k * min($from[2][$i], $to[2][$i])), $c1 = (int) floor($k * max($from[2][$i], $to[2][$i])); $c <= $c1; $c++) {
                        foreach ($cells[$a * Cell::X + $b * Cell::Y + $c] ?? [] as $p) {
                            $met[$p] = true;
                        }
                    }
                }
            }
            foreach ($met as $p => $_) {
                $out[$p][] = $i;
            }
        }

        return $out;
    }

    /**
     * Boxes of the pieces in the scene, wider by a reach.
     *
     * @param  list<array{Vec3, Quaternion, float}>  $poses
     * @return array{array<int, array{float, float, float, float, float, float}>, list<int>, float} low and high corners by piece that is no larger than a
     *   few cells, the other pieces, and the side of a cell
     */
    private function boxes(array $poses, float $within): array
    {
        $all = $this->boxesOf($poses, $within);
        $sides = array_map(static fn (array $b): float => max($b[3] - $b[0], $b[4] - $b[1], $b[5] - $b[2]), array_values($all));
        sort($sides);
        $cell = max($sides[intdiv(count($sides), 2)] ?? 1.0, 1e-6);
        $large = [];
        foreach ($all as $p => $b) {
            if (max($b[3] - $b[0], $b[4] - $b[1], $b[5] - $b[2]) > self::MOST_CELLS * $cell || count($all) === 1) {
                $large[] = $p;
                unset($all[$p]);
            }
        }

        return [$all, $large, $cell];
    }

    /**
     * @param  list<array{Vec3, Quaternion, float}>  $poses
     * @return array<int, array{float, float, float, float, float, float}> low and high corners by piece
     */
    private function boxesOf(array $poses, float $within): array
    {
        $all = [];
        foreach ($poses as $p => [$at, $turn, $size]) {
            if ($size <= 0.0) {
                continue;
            }
            [$x0, $y0, $z0, $x1, $y1, $z1] = $this->obstacles[$p]->box;
            $m = Mesh::matrix($turn);
            $hx = 0.5 * $size * ($x1 - $x0);
            $hy = 0.5 * $size * ($y1 - $y0);
            $hz = 0.5 * $size * ($z1 - $z0);
            $mx = 0.5 * $size * ($x0 + $x1);
            $my = 0.5 * $size * ($y0 + $y1);
            $mz = 0.5 * $size * ($z0 + $z1);
            $cx = $at->x + $m[0] * $mx + $m[1] * $my + $m[2] * $mz;
            $cy = $at->y + $m[3] * $mx + $m[4] * $my + $m[5] * $mz;
            $cz = $at->z + $m[6] * $mx + $m[7] * $my + $m[8] * $mz;
            $ex = abs($m[0]) * $hx + abs($m[1]) * $hy + abs($m[2]) * $hz + $within;
            $ey = abs($m[3]) * $hx + abs($m[4]) * $hy + abs($m[5]) * $hz + $within;
            $ez = abs($m[6]) * $hx + abs($m[7]) * $hy + abs($m[8]) * $hz + $within;
            $all[$p] = [$cx - $ex, $cy - $ey, $cz - $ez, $cx + $ex, $cy + $ey, $cz + $ez];
        }

        return $all;
    }

    /**
     * Which of many points lie in the box of any piece, wider by a reach, or of all of them where there are many.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int> their numbers
     */
    public function about(array $x, array $y, array $z, float $within): array
    {
        $boxes = array_values($this->boxesOf($this->poses, $within));
        if (count($boxes) > self::BOX_BY_BOX) {
            $boxes = [[...array_map(static fn (int $k): float => min(array_column($boxes, $k)), [0, 1, 2]), ...array_map(static fn (int $k): float => max(array_column($boxes, $k)), [3, 4, 5])]];
        }
        $in = [];
        foreach ($boxes as [$x0, $y0, $z0, $x1, $y1, $z1]) {
            foreach ($x as $i => $v) {
                if ($v >= $x0 && $v <= $x1 && $y[$i] >= $y0 && $y[$i] <= $y1 && $z[$i] >= $z0 && $z[$i] <= $z1) {
                    $in[$i] = $i;
                }
            }
        }
        if (count($boxes) > 1) {
            ksort($in);
        }

        return array_values($in);
    }

    /**
     * @param  array<int, array{float, float, float, float, float, float}>  $boxes
     * @return array<int, list<int>> pieces by cell
     */
    private static function sorted(array $boxes, float $k): array
    {
        $cells = [];
        foreach ($boxes as $p => $b) {
            $b1 = (int) floor($k * $b[4]);
            $c1 = (int) floor($k * $b[5]);
            for ($a = (int) floor($k * $b[0]), $a1 = (int) floor($k * $b[3]); $a <= $a1; $a++) {
                for ($v = (int) floor($k * $b[1]); $v <= $b1; $v++) {
                    for ($w = (int) floor($k * $b[2]); $w <= $c1; $w++) {
                        $cells[$a * Cell::X + $v * Cell::Y + $w][] = $p;
                    }
                }
            }
        }

        return $cells;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  array<int, list<int>>  $cells
     * @param  array<int, float>  $x0  sides of the boxes, by piece
     * @param  array<int, float>  $y0
     * @param  array<int, float>  $z0
     * @param  array<int, float>  $x1
     * @param  array<int, float>  $y1
     * @param  array<int, float>  $z1
     * @return array<int, list<int>> points by piece
     */
    private static function met(array $x, array $y, array $z, array $cells, float $k, array $x0, array $y0, array $z0, array $x1, array $y1, array $z1): array
    {
        $out = [];
        for ($i = 0, $n = count($x); $i < $n; $i++) {
            $u = $x[$i] * $k;
            $v = $y[$i] * $k;
            $w = $z[$i] * $k;
            $a = (int) $u;
            $b = (int) $v;
            $c = (int) $w;
            $at = ($u < $a ? $a - 1 : $a) * Cell::X + ($v < $b ? $b - 1 : $b) * Cell::Y + ($w < $c ? $c - 1 : $c);
            if (isset($cells[$at])) {
                $px = $x[$i];
                $py = $y[$i];
                $pz = $z[$i];
                foreach ($cells[$at] as $p) {
                    if ($px >= $x0[$p] && $px <= $x1[$p] && $py >= $y0[$p] && $py <= $y1[$p] && $pz >= $z0[$p] && $pz <= $z1[$p]) {
                        $out[$p][] = $i;
                    }
                }
            }
        }

        return $out;
    }
}
