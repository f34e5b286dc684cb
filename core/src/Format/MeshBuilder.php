<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Geometry\PlanarTriangulation;
use YardBreak\Core\Problem;

/** Collects the points and faces of a file, checks them, and cuts polygons into triangles. */
final class MeshBuilder
{
    public const MOST_VERTICES = 4_000_000;

    public const MOST_FACES = 4_000_000;

    /** Of one face, and of all that have more than three together, for the work of cutting them grows faster than they. */
    public const MOST_CORNERS = 10_000;

    private const MOST_CUTTING = 40_000_000;

    /** In whatever unit; squares and products of what lies within stay numbers. */
    private const FARTHEST = 1e12;

    private int $cutting = 0;

    /** @var list<float> */
    private array $x = [];

    /** @var list<float> */
    private array $y = [];

    /** @var list<float> */
    private array $z = [];

    /** @var list<int> */
    private array $faces = [];

    /** @var list<float> nine numbers a face */
    private array $normals = [];

    private bool $allNormals = true;

    /** @var list<float> six numbers a face */
    private array $uvs = [];

    private bool $allUvs = true;

    /** @var array<string, int> */
    private array $known = [];

    /** @var array{group: list<array{string, int}>, material: list<array{string, int}>} name, and the first corner of the faces that follow */
    private array $named = ['group' => [], 'material' => []];

    /** @param  bool  $weld points at exactly the same place become one */
    public function __construct(private readonly string $name, private readonly bool $weld = false)
    {
    }

    public function vertex(float $x, float $y, float $z): int
    {
        if (! is_finite($x) || ! is_finite($y) || ! is_finite($z)) {
            throw Problem::inFile(
                $this->name.' has a point whose coordinates are not numbers (point '.(count($this->x) + 1).').',
                'Export the mesh again; a modifier may have produced NaN or infinite values.',
            );
        }
        if (abs($x) > self::FARTHEST || abs($y) > self::FARTHEST || abs($z) > self::FARTHEST) {
            throw Problem::inFile(
                $this->name.' has a point farther out than anything can stand (point '.(count($this->x) + 1).').',
                'Take that point out, or scale the mesh down, then export it again.',
            );
        }
        if ($this->weld) {
            // Adding zero turns −0 into 0, so that both weld.
            $key = pack('d3', $x + 0.0, $y + 0.0, $z + 0.0);
            if (isset($this->known[$key])) {
                return $this->known[$key];
            }
            $this->known[$key] = count($this->x);
        }
        if (count($this->x) >= self::MOST_VERTICES) {
            throw Problem::inFile($this->name.' has more than '.number_format(self::MOST_VERTICES).' points.', 'Reduce the mesh before bringing it in.');
        }
        $this->x[] = $x;
        $this->y[] = $y;
        $this->z[] = $z;

        return count($this->x) - 1;
    }

    public function vertexCount(): int
    {
        return count($this->x);
    }

    /** @throws Problem where a face has more corners than it may */
    public function allows(int $corners): void
    {
        if ($corners > self::MOST_CORNERS) {
            throw Problem::inFile(
                sprintf('%s has a face with %s corners; %s is the most.', $this->name, number_format($corners), number_format(self::MOST_CORNERS)),
                'Cut its faces into triangles, then export it again.',
            );
        }
    }

    /**
     * @param  list<int>  $corners  point numbers
     * @param  list<list<float>>|null  $normals  one a corner
     * @param  list<list<float>>|null  $uvs  one a corner
     */
    public function polygon(array $corners, ?array $normals = null, ?array $uvs = null): void
    {
        $n = count($corners);
        $last = count($this->x);
        foreach ($corners as $c) {
            if ($c < 0 || $c >= $last) {
                throw Problem::inFile(
                    sprintf('%s has a face that names point %d, but there %s.', $this->name, $c + 1, $last === 1 ? 'is only one' : 'are only '.$last.' points'),
                    'The file is cut off or was written wrongly; export it again.',
                );
            }
        }
        if ($n < 3) {
            return;
        }
        $this->allows($n);
        $this->cutting += $n > 4 ? $n * $n : 0;
        if ($this->cutting > self::MOST_CUTTING) {
            throw Problem::inFile($this->name.' has too many faces of very many corners.', 'Cut its faces into triangles, then export it again.');
        }
        foreach ($this->triangles($corners) as [$a, $b, $c]) {
            if (count($this->faces) >= 3 * self::MOST_FACES) {
                throw Problem::inFile($this->name.' has more than '.number_format(self::MOST_FACES).' triangles.', 'Reduce the mesh before bringing it in.');
            }
            $this->faces[] = $corners[$a];
            $this->faces[] = $corners[$b];
            $this->faces[] = $corners[$c];
            if ($normals === null) {
                $this->allNormals = false;
            } elseif ($this->allNormals) {
                foreach ([$a, $b, $c] as $k) {
                    array_push($this->normals, ...$normals[$k]);
                }
            }
            if ($uvs === null) {
                $this->allUvs = false;
            } elseif ($this->allUvs) {
                array_push($this->uvs, ...$uvs[$a], ...$uvs[$b], ...$uvs[$c]);
            }
        }
    }

    /** The faces that follow are of this group, or this material; of none if the name is empty. */
    public function named(NamedFaces $by, string $name): void
    {
        $this->named[$by->value][] = [$name, count($this->faces)];
    }

    /** @param  list<float>|null  $colour  linear red, green and blue, 0…1 */
    public function file(?array $colour = null): MeshFile
    {
        $spans = [];
        foreach ($this->named as $by => $named) {
            $spans[$by] = [];
            foreach ($named as $k => [$name, $from]) {
                $to = $named[$k + 1][1] ?? count($this->faces);
                if ($to > $from && $name !== '') {
                    $spans[$by][] = [$name, $from, $to];
                }
            }
        }

        return new MeshFile($this->mesh(), $spans, $colour);
    }

    private function mesh(): Mesh
    {
        if ($this->faces === []) {
            throw Problem::inFile($this->name.' holds no faces.', 'Choose a file with a surface, not only points or lines.');
        }

        return new Mesh(
            $this->x,
            $this->y,
            $this->z,
            $this->faces,
            $this->allNormals && count($this->normals) === 3 * count($this->faces) ? $this->normals : null,
            null,
            $this->allUvs && count($this->uvs) === 2 * count($this->faces) ? $this->uvs : null,
        );
    }

    /**
     * @param  list<int>  $corners
     * @return list<array{int, int, int}> positions within the polygon
     */
    private function triangles(array $corners): array
    {
        $n = count($corners);
        if ($n === 3) {
            return [[0, 1, 2]];
        }
        // Newell's normal of the polygon, and the two axes it leaves.
        $nx = $ny = $nz = 0.0;
        for ($i = 0; $i < $n; $i++) {
            $a = $corners[$i];
            $b = $corners[($i + 1) % $n];
            $nx += ($this->y[$a] - $this->y[$b]) * ($this->z[$a] + $this->z[$b]);
            $ny += ($this->z[$a] - $this->z[$b]) * ($this->x[$a] + $this->x[$b]);
            $nz += ($this->x[$a] - $this->x[$b]) * ($this->y[$a] + $this->y[$b]);
        }
        $u = $v = [];
        foreach ($corners as $i => $c) {
            if (abs($nz) >= abs($nx) && abs($nz) >= abs($ny)) {
                $u[$i] = $nz > 0 ? $this->x[$c] : -$this->x[$c];
                $v[$i] = $this->y[$c];
            } elseif (abs($ny) >= abs($nx)) {
                $u[$i] = $ny > 0 ? $this->z[$c] : -$this->z[$c];
                $v[$i] = $this->x[$c];
            } else {
                $u[$i] = $nx > 0 ? $this->y[$c] : -$this->y[$c];
                $v[$i] = $this->z[$c];
            }
        }

        return array_chunk(PlanarTriangulation::of([range(0, $n - 1)], $u, $v), 3);
    }
}
