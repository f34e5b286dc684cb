<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Geometry\Mesh;

/**
 * The convex hull of a point cloud, as a collision shape: outer points, an inner core whose faces lie
 * `margin` inside, and flat faces.
 *
 * Built by adding the point farthest outside any face (Barber, Dobkin & Huhdanpaa 1996, "The quickhull
 * algorithm for convex hulls") until none is farther out than the tolerance.
 */
final readonly class Hull
{
    /** Points nearer to the hull than this share of its size are left inside. */
    private const TOLERANCE = 0.004;

    /** Neighbouring faces whose normals differ by less than this angle's cosine count as one. */
    private const FLAT = 0.9986;

    /** Cosine from which a face looks the way of a cut it lies in. */
    private const ALONG = 0.95;

    /** Sides of the box that stands in for points without a hull, as a share of the longest. */
    private const LEAST_SIDE = 0.01;

    /** Share of the size by which the core lies inside. */
    private const CORE = 0.004;

    /** A corner's number is kept in one byte of a state. */
    private const MOST_POINTS = 48;

    /**
     * @param  list<float>  $x  corners
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $coreX  the same corners moved inwards
     * @param  list<float>  $coreY
     * @param  list<float>  $coreZ
     * @param  list<list<int>>  $faces  corner loops, counter-clockwise from outside
     * @param  list<array{float, float, float}>  $normals  unit, one a face
     * @param  list<list<int>>  $neighbours  corners joined by an edge, one list a corner
     * @param  float  $size  metres, the longest side of the bounding box
     * @param  float  $roundness  metres the corners themselves are rounded by; zero but for a ball
     * @param  list<bool>  $inner  by face, whether it is a cut within what it is a part of, so that nothing can touch it; none where none is
     */
    private function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $coreX,
        public array $coreY,
        public array $coreZ,
        public array $faces,
        public array $normals,
        public array $neighbours,
        public float $margin,
        public float $size,
        public float $roundness = 0.0,
        public array $inner = [],
    ) {
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public static function around(array $x, array $y, array $z): self
    {
        $size = max(max($x) - min($x), max($y) - min($y), max($z) - min($z));
        $triangles = self::triangles($x, $y, $z, max($size * self::TOLERANCE, 1e-12));
        $index = $hx = $hy = $hz = [];
        $faces = [];
        foreach ($triangles as $t) {
            $loop = [];
            foreach ($t as $v) {
                if (! isset($index[$v])) {
                    $index[$v] = count($hx);
                    $hx[] = $x[$v];
                    $hy[] = $y[$v];
                    $hz[] = $z[$v];
                }
                $loop[] = $index[$v];
            }
            $faces[] = $loop;
        }
        $neighbours = array_fill(0, count($hx), []);
        foreach ($faces as [$a, $b, $c]) {
            $neighbours[$a][] = $b;
            $neighbours[$b][] = $c;
            $neighbours[$c][] = $a;
        }
        [$loops, $normals] = self::flatFaces($faces, $hx, $hy, $hz);
        $thin = self::thinnest($normals, $hx, $hy, $hz);
        $margin = min($size * self::CORE, $thin * 0.15);
        [$cx, $cy, $cz] = self::core($loops, $normals, $hx, $hy, $hz, $margin);
        $neighbours = self::joined($neighbours, $cx, $cy, $cz, $size * 1e-7);

        return new self($hx, $hy, $hz, $cx, $cy, $cz, $loops, $normals, $neighbours, $margin, $size);
    }

    /**
     * The hull of points, or of the box round them where they lie so near a plane or a line that they have none: what
     * is to move must meet things.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public static function near(array $x, array $y, array $z): self
    {
        try {
            return self::around($x, $y, $z);
        } catch (\UnexpectedValueException) {
            $corners = [[], [], []];
            $longest = max(max($x) - min($x), max($y) - min($y), max($z) - min($z));
            foreach ([$x, $y, $z] as $axis => $values) {
                $middle = 0.5 * (min($values) + max($values));
                $half = 0.5 * max(max($values) - min($values), self::LEAST_SIDE * $longest, 1e-6);
                for ($k = 0; $k < 8; $k++) {
                    $corners[$axis][] = $k >> $axis & 1 ? $middle + $half : $middle - $half;
                }
            }

            return self::around(...$corners);
        }
    }

    /**
     * Packed, for thousands are read before a bake starts.
     *
     * @return array{string, string, string} numbers; loops of corners, each with its length; which faces are inner ones
     */
    public function __serialize(): array
    {
        $loops = [];
        foreach ([...$this->faces, ...$this->neighbours] as $loop) {
            array_push($loops, count($loop), ...$loop);
        }

        return [
            pack(
                'e*', $this->margin, $this->size, $this->roundness, ...$this->x, ...$this->y, ...$this->z, ...$this->coreX, ...$this->coreY,
                ...$this->coreZ, ...array_merge(...$this->normals),
            ),
            pack('v*', count($this->x), count($this->faces), ...$loops),
            pack('C*', ...array_map(intval(...), $this->inner)),
        ];
    }

    /** @param  array{string, string, string}  $data */
    public function __unserialize(array $data): void
    {
        /** @var list<float> $numbers */
        $numbers = array_values(unpack('e*', $data[0]) ?: []);
        /** @var list<int> $loops */
        $loops = array_values(unpack('v*', $data[1]) ?: []);
        [$n, $faces] = $loops;
        [$this->margin, $this->size, $this->roundness] = $numbers;
        [$this->x, $this->y, $this->z, $this->coreX, $this->coreY, $this->coreZ] = array_map(
            static fn (int $k): array => array_slice($numbers, 3 + $k * $n, $n),
            range(0, 5),
        );
        /** @var list<array{float, float, float}> $normals */
        $normals = array_chunk(array_slice($numbers, 3 + 6 * $n), 3);
        $this->normals = $normals;
        $read = [];
        for ($k = 2, $end = count($loops); $k < $end; $k += $loops[$k] + 1) {
            $read[] = array_slice($loops, $k + 1, $loops[$k]);
        }
        $this->faces = array_slice($read, 0, $faces);
        $this->neighbours = array_slice($read, $faces);
        $this->inner = array_map(boolval(...), array_values(unpack('C*', $data[2]) ?: []));
    }

    /**
     * The same as a part of something, cut by planes.
     *
     * @param  list<array{float, float, float, float}>  $cuts  unit normals outwards, and levels
     * @param  float  $near  metres that a face may lie off one
     */
    public function cutBy(array $cuts, float $near): self
    {
        $inner = [];
        foreach ($this->faces as $f => $loop) {
            $inner[] = array_filter($cuts, fn (array $cut): bool => $this->liesIn($f, $loop, $cut, $near)) !== [];
        }

        return new self(
            $this->x, $this->y, $this->z, $this->coreX, $this->coreY, $this->coreZ, $this->faces, $this->normals, $this->neighbours, $this->margin, $this->size,
            $this->roundness, in_array(true, $inner, true) ? $inner : [],
        );
    }

    /**
     * @param  list<int>  $loop
     * @param  array{float, float, float, float}  $plane
     */
    private function liesIn(int $face, array $loop, array $plane, float $near): bool
    {
        [$nx, $ny, $nz, $level] = $plane;
        [$fx, $fy, $fz] = $this->normals[$face];
        if ($nx * $fx + $ny * $fy + $nz * $fz < self::ALONG) {
            return false;
        }
        foreach ($loop as $v) {
            if (abs($nx * $this->x[$v] + $ny * $this->y[$v] + $nz * $this->z[$v] - $level) > $near) {
                return false;
            }
        }

        return true;
    }

    /** The same without rounding: exact to its corners. */
    public function sharp(): self
    {
        return $this->roundness > 0.0
            ? $this
            : new self($this->x, $this->y, $this->z, $this->x, $this->y, $this->z, $this->faces, $this->normals, $this->neighbours, 0.0, $this->size);
    }

    /**
     * The corners of a box alone, which say where something is and not what it is like.
     *
     * @param  array{float, float, float, float, float, float}  $box  x low, x high, y low, y high, z low, z high
     */
    public static function boxAround(array $box): self
    {
        $x = $y = $z = $next = [];
        for ($k = 0; $k < 8; $k++) {
            $x[] = $box[$k & 1];
            $y[] = $box[2 + ($k >> 1 & 1)];
            $z[] = $box[4 + ($k >> 2)];
            $next[] = [$k ^ 1, $k ^ 2, $k ^ 4];
        }

        return new self($x, $y, $z, $x, $y, $z, [], [], $next, 0.0, max($box[1] - $box[0], $box[3] - $box[2], $box[5] - $box[4]));
    }

    /** A true ball: one point with a margin, so that it rolls without corners. */
    public static function ball(float $radius): self
    {
        return new self([0.0], [0.0], [0.0], [0.0], [0.0], [0.0], [], [], [[]], $radius, 2.0 * $radius, $radius);
    }

    /**
     * The radius of a cloud whose points all lie equally far from the origin, or null.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    public static function ballRadius(array $x, array $y, array $z): ?float
    {
        $n = count($x);
        if ($n < 40) {
            return null;
        }
        $low = INF;
        $high = 0.0;
        for ($i = 0; $i < $n; $i++) {
            $d = sqrt($x[$i] * $x[$i] + $y[$i] * $y[$i] + $z[$i] * $z[$i]);
            $low = $d < $low ? $d : $low;
            $high = $d > $high ? $d : $high;
        }

        return $high > 0.0 && $low > 0.995 * $high ? $high : null;
    }

    /** Its faces as triangles. */
    public function mesh(): Mesh
    {
        $faces = [];
        foreach ($this->faces as $loop) {
            for ($k = 2, $n = count($loop); $k < $n; $k++) {
                array_push($faces, $loop[0], $loop[$k - 1], $loop[$k]);
            }
        }

        return new Mesh($this->x, $this->y, $this->z, $faces);
    }

    /** Metres from side to side where it is thinnest. */
    public function thickness(): float
    {
        return $this->faces === [] ? $this->size : self::thinnest($this->normals, $this->x, $this->y, $this->z);
    }

    /** m³ */
    public function volume(): float
    {
        $sum = 0.0;
        foreach ($this->faces as $loop) {
            for ($k = 2, $n = count($loop); $k < $n; $k++) {
                [$a, $b, $c] = [$loop[0], $loop[$k - 1], $loop[$k]];
                $sum += $this->x[$a] * ($this->y[$b] * $this->z[$c] - $this->z[$b] * $this->y[$c])
                    + $this->y[$a] * ($this->z[$b] * $this->x[$c] - $this->x[$b] * $this->z[$c])
                    + $this->z[$a] * ($this->x[$b] * $this->y[$c] - $this->y[$b] * $this->x[$c]);
            }
        }

        return $sum / 6.0;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $tolerance  metres that points may lie outside
     * @param  int  $most  corners it may have; those farthest out are taken first
     * @return list<array{int, int, int}>
     */
    public static function triangles(array $x, array $y, array $z, float $tolerance, int $most = self::MOST_POINTS): array
    {
        $n = count($x);
        $first = self::firstTetrahedron($x, $y, $z, $tolerance);
        [$a, $b, $c, $d] = $first;
        $tri = [[$a, $b, $c], [$a, $c, $d], [$a, $d, $b], [$b, $d, $c]];
        $nx = $ny = $nz = $nd = $outside = $far = [];
        // How far the farthest point of a face lies outside: the number of corners is limited, so the farthest go first.
        $reach = [];
        foreach ($tri as $k => [$p, $q, $r]) {
            [$nx[$k], $ny[$k], $nz[$k], $nd[$k]] = self::plane($x, $y, $z, $p, $q, $r);
            $outside[$k] = [];
            $far[$k] = -1;
        }
        $points = array_diff(range(0, $n - 1), $first);
        $assign = static function (array $points, array $among) use (&$nx, &$ny, &$nz, &$nd, &$outside, &$far, &$reach, $x, $y, $z, $tolerance): void {
            $best = [];
            foreach ($points as $v) {
                $px = $x[$v];
                $py = $y[$v];
                $pz = $z[$v];
                foreach ($among as $k) {
                    $s = $nx[$k] * $px + $ny[$k] * $py + $nz[$k] * $pz - $nd[$k];
                    if ($s > $tolerance) {
                        $outside[$k][] = $v;
                        if (! isset($best[$k]) || $s > $best[$k]) {
                            $best[$k] = $s;
                            $far[$k] = $v;
                        }
                        break;
                    }
                }
            }
            foreach ($best as $k => $s) {
                $reach[$k] = $s;
            }
        };
        $assign($points, [0, 1, 2, 3]);
        for ($corners = 4; $reach !== [] && $corners < $most;) {
            $k = (int) array_search(max($reach), $reach, true);
            $p = $far[$k];
            $px = $x[$p];
            $py = $y[$p];
            $pz = $z[$p];
            $edges = [];
            $loose = [];
            foreach ($tri as $f => [$a, $b, $c]) {
                if (1e-3 * $tolerance < $nx[$f] * $px + $ny[$f] * $py + $nz[$f] * $pz - $nd[$f]) {
                    $edges[$a * $n + $b] = [$a, $b];
                    $edges[$b * $n + $c] = [$b, $c];
                    $edges[$c * $n + $a] = [$c, $a];
                    foreach ($outside[$f] as $v) {
                        if ($v !== $p) {
                            $loose[] = $v;
                        }
                    }
                    unset($tri[$f], $outside[$f], $far[$f], $reach[$f]);
                }
            }
            $made = [];
            foreach ($edges as [$a, $b]) {
                if (! isset($edges[$b * $n + $a])) {
                    $f = count($nx);
                    $tri[$f] = [$a, $b, $p];
                    [$nx[$f], $ny[$f], $nz[$f], $nd[$f]] = self::plane($x, $y, $z, $a, $b, $p);
                    $outside[$f] = [];
                    $far[$f] = -1;
                    $made[] = $f;
                }
            }
            $assign($loose, $made);
            $corners++;
        }

        return array_values($tri);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{int, int, int, int} positively oriented seen from outside
     */
    private static function firstTetrahedron(array $x, array $y, array $z, float $tolerance): array
    {
        $n = count($x);
        $a = $b = 0;
        $best = -1.0;
        foreach ([$x, $y, $z] as $axis) {
            $low = array_search(min($axis), $axis, true);
            $high = array_search(max($axis), $axis, true);
            if ($best < $axis[$high] - $axis[$low]) {
                $best = $axis[$high] - $axis[$low];
                $a = (int) $low;
                $b = (int) $high;
            }
        }
        $c = $d = -1;
        $best = 0.0;
        $ux = $x[$b] - $x[$a];
        $uy = $y[$b] - $y[$a];
        $uz = $z[$b] - $z[$a];
        for ($v = 0; $v < $n; $v++) {
            $wx = $x[$v] - $x[$a];
            $wy = $y[$v] - $y[$a];
            $wz = $z[$v] - $z[$a];
            $s = ($uy * $wz - $uz * $wy) ** 2 + ($uz * $wx - $ux * $wz) ** 2 + ($ux * $wy - $uy * $wx) ** 2;
            if ($s > $best) {
                $best = $s;
                $c = $v;
            }
        }
        if ($c === -1) {
            throw new \UnexpectedValueException('points on a line');
        }
        [$nx, $ny, $nz, $nd] = self::plane($x, $y, $z, $a, $b, $c);
        $best = 0.0;
        $side = 0.0;
        for ($v = 0; $v < $n; $v++) {
            $s = $nx * $x[$v] + $ny * $y[$v] + $nz * $z[$v] - $nd;
            if (abs($s) > $best) {
                $best = abs($s);
                $side = $s;
                $d = $v;
            }
        }
        if ($d === -1) {
            throw new \UnexpectedValueException('points in a plane');
        }

        return $side < 0 ? [$a, $b, $c, $d] : [$a, $c, $b, $d];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{float, float, float, float} unit normal and distance
     */
    public static function plane(array $x, array $y, array $z, int $p, int $q, int $r): array
    {
        $ux = $x[$q] - $x[$p];
        $uy = $y[$q] - $y[$p];
        $uz = $z[$q] - $z[$p];
        $vx = $x[$r] - $x[$p];
        $vy = $y[$r] - $y[$p];
        $vz = $z[$r] - $z[$p];
        $nx = $uy * $vz - $uz * $vy;
        $ny = $uz * $vx - $ux * $vz;
        $nz = $ux * $vy - $uy * $vx;
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $k = $l > 0.0 ? 1.0 / $l : 0.0;
        $nx *= $k;
        $ny *= $k;
        $nz *= $k;

        return [$nx, $ny, $nz, $nx * $x[$p] + $ny * $y[$p] + $nz * $z[$p]];
    }

    /**
     * Triangles that share a plane, joined into polygons.
     *
     * @param  list<array{int, int, int}>  $triangles
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<list<int>>, list<array{float, float, float}>}
     */
    private static function flatFaces(array $triangles, array $x, array $y, array $z): array
    {
        $owner = $planes = [];
        $areas = [];
        foreach ($triangles as $f => [$a, $b, $c]) {
            $owner[$a << 20 | $b] = $owner[$b << 20 | $c] = $owner[$c << 20 | $a] = $f;
            $planes[] = self::plane($x, $y, $z, $a, $b, $c);
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $areas[$f] = ($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2;
        }
        arsort($areas);
        $done = $loops = $normals = [];
        foreach ($areas as $first => $_) {
            if (isset($done[$first])) {
                continue;
            }
            $done[$first] = true;
            [$nx, $ny, $nz] = $planes[$first];
            $group = [$first];
            $next = [];
            for ($h = 0; $h < count($group); $h++) {
                [$a, $b, $c] = $triangles[$group[$h]];
                foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                    $g = $owner[$q << 20 | $p] ?? -1;
                    if ($g >= 0 && ! isset($done[$g]) && $planes[$g][0] * $nx + $planes[$g][1] * $ny + $planes[$g][2] * $nz > self::FLAT) {
                        $done[$g] = true;
                        $group[] = $g;
                    }
                }
            }
            $in = array_flip($group);
            foreach ($group as $g) {
                [$a, $b, $c] = $triangles[$g];
                foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                    if (! isset($in[$owner[$q << 20 | $p] ?? -1])) {
                        $next[$p] = $q;
                    }
                }
            }
            $loop = [];
            $at = $start = (int) array_key_first($next);
            do {
                $loop[] = $at;
                $at = $next[$at] ?? $start;
            } while ($at !== $start && count($loop) < 64);
            $loops[] = $loop;
            $normals[] = [$nx, $ny, $nz];
        }

        return [$loops, $normals];
    }

    /**
     * @param  list<array{float, float, float}>  $normals
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function thinnest(array $normals, array $x, array $y, array $z): float
    {
        $best = INF;
        foreach ($normals as [$nx, $ny, $nz]) {
            $low = INF;
            $high = -INF;
            foreach ($x as $i => $v) {
                $s = $nx * $v + $ny * $y[$i] + $nz * $z[$i];
                $low = $s < $low ? $s : $low;
                $high = $s > $high ? $s : $high;
            }
            $best = min($best, $high - $low);
        }

        return $best;
    }

    /**
     * Moving corners inwards can fold short edges over, and a climb along them would stop too early: the edges of
     * the core's own hull are added.
     *
     * @param  list<list<int>>  $neighbours
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<list<int>>
     */
    private static function joined(array $neighbours, array $x, array $y, array $z, float $tolerance): array
    {
        try {
            $triangles = self::triangles($x, $y, $z, $tolerance);
        } catch (\UnexpectedValueException) {
            return $neighbours;
        }
        foreach ($triangles as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if (! in_array($q, $neighbours[$p], true)) {
                    $neighbours[$p][] = $q;
                }
            }
        }

        return $neighbours;
    }

    /**
     * Each corner moved so that the planes through it lie `margin` further in (least squares where more than three meet).
     *
     * @param  list<list<int>>  $loops
     * @param  list<array{float, float, float}>  $normals
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function core(array $loops, array $normals, array $x, array $y, array $z, float $margin): array
    {
        $at = array_fill(0, count($x), []);
        foreach ($loops as $f => $loop) {
            foreach ($loop as $v) {
                $at[$v][] = $f;
            }
        }
        $cx = $cy = $cz = [];
        foreach ($at as $v => $faces) {
            $xx = $yy = $zz = 0.002;
            $xy = $yz = $zx = $sx = $sy = $sz = 0.0;
            foreach ($faces as $f) {
                [$nx, $ny, $nz] = $normals[$f];
                $xx += $nx * $nx;
                $yy += $ny * $ny;
                $zz += $nz * $nz;
                $xy += $nx * $ny;
                $yz += $ny * $nz;
                $zx += $nz * $nx;
                $sx += $nx;
                $sy += $ny;
                $sz += $nz;
            }
            $a = $yy * $zz - $yz * $yz;
            $b = $yz * $zx - $xy * $zz;
            $c = $xy * $yz - $yy * $zx;
            $det = $xx * $a + $xy * $b + $zx * $c;
            $dx = ($a * $sx + $b * $sy + $c * $sz) / $det;
            $dy = ($b * $sx + ($xx * $zz - $zx * $zx) * $sy + ($xy * $zx - $xx * $yz) * $sz) / $det;
            $dz = ($c * $sx + ($xy * $zx - $xx * $yz) * $sy + ($xx * $yy - $xy * $xy) * $sz) / $det;
            $l = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            $k = $margin * ($l > 4.0 ? 4.0 / $l : 1.0);
            $cx[] = $x[$v] - $dx * $k;
            $cy[] = $y[$v] - $dy * $k;
            $cz[] = $z[$v] - $dz * $k;
        }

        return [$cx, $cy, $cz];
    }
}
