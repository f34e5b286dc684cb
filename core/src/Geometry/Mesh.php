<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * A triangle mesh as parallel packed arrays. Metres, y up, faces counter-clockwise seen from outside.
 */
final readonly class Mesh
{
    /** Sides a face can be on. The first rim band round a hole is RIM, the next RIM + 1, and so on. */
    public const OUTER = 0;

    public const INNER = 1;

    public const RIM = 2;

    /**
     * @param  list<float>  $x  one entry a vertex
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  three vertex numbers a face, flat
     * @param  list<float>|null  $normals  nine numbers a face: the shading normal at each of its corners
     * @param  list<int>|null  $sides  one entry a face: INNER where a break made it, OUTER or a rim band on the outer surface
     * @param  list<float>|null  $uvs  six numbers a face: where in a picture each of its corners lies, v up
     * @param  list<float>|null  $rim  three numbers a face, 0…1: how near to the edge of a hole each of its corners lies
     */
    public function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $faces,
        public ?array $normals = null,
        public ?array $sides = null,
        public ?array $uvs = null,
        public ?array $rim = null,
    ) {
    }

    public function vertexCount(): int
    {
        return count($this->x);
    }

    public function faceCount(): int
    {
        return intdiv(count($this->faces), 3);
    }

    public function isEmpty(): bool
    {
        return $this->faces === [];
    }

    public function placed(Placement $at): self
    {
        [$m00, $m01, $m02, $m10, $m11, $m12, $m20, $m21, $m22] = self::matrix($at->turn);
        $k = $at->size;
        $px = $at->position->x;
        $py = $at->position->y;
        $pz = $at->position->z;
        $x = $y = $z = [];
        $sx = $this->x;
        $sy = $this->y;
        $sz = $this->z;
        for ($i = 0, $n = count($sx); $i < $n; $i++) {
            $a = $sx[$i] * $k;
            $b = $sy[$i] * $k;
            $c = $sz[$i] * $k;
            $x[] = $m00 * $a + $m01 * $b + $m02 * $c + $px;
            $y[] = $m10 * $a + $m11 * $b + $m12 * $c + $py;
            $z[] = $m20 * $a + $m21 * $b + $m22 * $c + $pz;
        }
        $normals = null;
        if ($this->normals !== null) {
            $normals = [];
            $s = $this->normals;
            for ($i = 0, $n = count($s); $i < $n; $i += 3) {
                $normals[] = $m00 * $s[$i] + $m01 * $s[$i + 1] + $m02 * $s[$i + 2];
                $normals[] = $m10 * $s[$i] + $m11 * $s[$i + 1] + $m12 * $s[$i + 2];
                $normals[] = $m20 * $s[$i] + $m21 * $s[$i + 1] + $m22 * $s[$i + 2];
            }
        }

        return new self($x, $y, $z, $this->faces, $normals, $this->sides, $this->uvs, $this->rim);
    }

    public function movedBy(Vec3 $d): self
    {
        $shift = static fn (array $a, float $k): array => array_map(static fn (float $v): float => $v + $k, $a);

        return new self(
            $shift($this->x, $d->x),
            $shift($this->y, $d->y),
            $shift($this->z, $d->z),
            $this->faces,
            $this->normals,
            $this->sides,
            $this->uvs,
            $this->rim,
        );
    }

    public function scaledBy(float $k): self
    {
        $scale = static fn (array $a): array => array_map(static fn (float $v): float => $v * $k, $a);

        return new self($scale($this->x), $scale($this->y), $scale($this->z), $this->faces, $this->normals, $this->sides, $this->uvs, $this->rim);
    }

    /** @param  list<float>|null  $normals  nine numbers a face */
    public function withNormals(?array $normals): self
    {
        return new self($this->x, $this->y, $this->z, $this->faces, $normals, $this->sides, $this->uvs, $this->rim);
    }

    /** @param  list<int>  $which  face numbers; the points they use are numbered in the order they come */
    public function only(array $which): self
    {
        $faces = $normals = $sides = $uvs = $rim = [];
        foreach ($which as $f) {
            array_push($faces, $this->faces[3 * $f], $this->faces[3 * $f + 1], $this->faces[3 * $f + 2]);
            $sides[] = $this->sides[$f] ?? self::OUTER;
            foreach ([[$this->normals, &$normals, 9], [$this->uvs, &$uvs, 6], [$this->rim, &$rim, 3]] as [$from, &$to, $width]) {
                if ($from !== null) {
                    array_push($to, ...array_slice($from, $width * $f, $width));
                }
            }
        }
        [$faces, $x, $y, $z] = UsedPoints::of($faces, $this->x, $this->y, $this->z);

        return new self(
            $x,
            $y,
            $z,
            $faces,
            $this->normals === null ? null : $normals,
            $sides,
            $this->uvs === null ? null : $uvs,
            $this->rim === null ? null : $rim,
        );
    }

    /** @param  list<float>  $uvs  six numbers a face */
    public function withUvs(array $uvs): self
    {
        return new self($this->x, $this->y, $this->z, $this->faces, $this->normals, $this->sides, $uvs, $this->rim);
    }

    /** @param  list<float>  $rim  three numbers a face */
    public function withRim(array $rim): self
    {
        return new self($this->x, $this->y, $this->z, $this->faces, $this->normals, $this->sides, $this->uvs, $rim);
    }

    /** How much of the inner surface shows on a side: none outside, all within, and on rim bands less and less outwards. */
    public static function laidOpen(int $side): float
    {
        return match (true) {
            $side === self::OUTER => 0.0,
            $side === self::INNER => 1.0,
            default => 0.75 * 0.6 ** ($side - self::RIM),
        };
    }

    /** Several meshes as one, vertices kept apart. */
    public static function merged(self ...$meshes): self
    {
        $x = $y = $z = $faces = $sides = $normals = $uvs = $rim = [];
        $rimmed = array_filter($meshes, static fn (self $m): bool => $m->rim !== null) !== [];
        $mapped = array_filter($meshes, static fn (self $m): bool => $m->uvs !== null) !== [];
        foreach ($meshes as $m) {
            $base = count($x);
            foreach ($m->x as $i => $v) {
                $x[] = $v;
                $y[] = $m->y[$i];
                $z[] = $m->z[$i];
            }
            foreach ($m->faces as $f) {
                $faces[] = $f + $base;
            }
            foreach ($m->sides ?? array_fill(0, $m->faceCount(), 0) as $v) {
                $sides[] = $v;
            }
            foreach ($m->normals ?? FaceNormals::flat($m) as $v) {
                $normals[] = $v;
            }
            if ($mapped) {
                array_push($uvs, ...$m->uvs ?? BoxProjection::of($m));
            }
            if ($rimmed) {
                array_push($rim, ...$m->rim ?? array_fill(0, count($m->faces), 0.0));
            }
        }

        return new self($x, $y, $z, $faces, $normals, $sides, $mapped ? $uvs : null, $rimmed ? $rim : null);
    }

    /** @return array{float, float, float, float, float, float, float, float, float} row-major rotation matrix */
    public static function matrix(Quaternion $q): array
    {
        $x = $q->x;
        $y = $q->y;
        $z = $q->z;
        $w = $q->w;

        return [
            1 - 2 * ($y * $y + $z * $z), 2 * ($x * $y - $z * $w), 2 * ($x * $z + $y * $w),
            2 * ($x * $y + $z * $w), 1 - 2 * ($x * $x + $z * $z), 2 * ($y * $z - $x * $w),
            2 * ($x * $z - $y * $w), 2 * ($y * $z + $x * $w), 1 - 2 * ($x * $x + $y * $y),
        ];
    }
}
