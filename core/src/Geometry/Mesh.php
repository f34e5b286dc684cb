<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * A triangle mesh as parallel packed arrays. Metres, y up, faces counter-clockwise seen from outside.
 */
final readonly class Mesh
{
    /**
     * @param  list<float>  $x  one entry a vertex
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<int>  $faces  three vertex numbers a face, flat
     * @param  list<float>|null  $normals  nine numbers a face: the shading normal at each of its corners
     * @param  list<int>|null  $interior  one entry a face: 1 where a break made it, 0 on the outer surface
     * @param  list<float>|null  $uvs  six numbers a face: where in a picture each of its corners lies, v up
     */
    public function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $faces,
        public ?array $normals = null,
        public ?array $interior = null,
        public ?array $uvs = null,
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

        return new self($x, $y, $z, $this->faces, $normals, $this->interior, $this->uvs);
    }

    public function movedBy(Vec3 $d): self
    {
        $shift = static fn (array $a, float $k): array => array_map(static fn (float $v): float => $v + $k, $a);

        return new self($shift($this->x, $d->x), $shift($this->y, $d->y), $shift($this->z, $d->z), $this->faces, $this->normals, $this->interior, $this->uvs);
    }

    public function scaledBy(float $k): self
    {
        $scale = static fn (array $a): array => array_map(static fn (float $v): float => $v * $k, $a);

        return new self($scale($this->x), $scale($this->y), $scale($this->z), $this->faces, $this->normals, $this->interior, $this->uvs);
    }

    /** @param  list<float>|null  $normals  nine numbers a face */
    public function withNormals(?array $normals): self
    {
        return new self($this->x, $this->y, $this->z, $this->faces, $normals, $this->interior, $this->uvs);
    }

    /** @param  list<float>  $uvs  six numbers a face */
    public function withUvs(array $uvs): self
    {
        return new self($this->x, $this->y, $this->z, $this->faces, $this->normals, $this->interior, $uvs);
    }

    /** Several meshes as one, vertices kept apart. */
    public static function merged(self ...$meshes): self
    {
        $x = $y = $z = $faces = $interior = $normals = $uvs = [];
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
            foreach ($m->interior ?? array_fill(0, $m->faceCount(), 0) as $v) {
                $interior[] = $v;
            }
            foreach ($m->normals ?? FaceNormals::flat($m) as $v) {
                $normals[] = $v;
            }
            if ($mapped) {
                array_push($uvs, ...$m->uvs ?? BoxProjection::of($m));
            }
        }

        return new self($x, $y, $z, $faces, $normals, $interior, $mapped ? $uvs : null);
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
