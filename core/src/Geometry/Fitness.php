<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** What there is to know about a mesh before it is broken: whether it is a closed, oriented solid, and how it is made. */
final readonly class Fitness
{
    /** @param  array<string, Vec3>  $places  where the first of each kind of fault lies */
    public function __construct(
        public int $faces,
        public int $vertices,
        public bool $closed,
        public bool $oriented,
        public bool $insideOut,
        public int $parts,
        public int $boundaryEdges,
        public int $nonmanifoldEdges,
        public int $doubledFaces,
        public int $zeroAreaFaces,
        public int $loosePoints,
        public float $area,
        public float $volume,
        public Aabb $bounds,
        public Vec3 $centroid,
        public float $shortestEdge,
        public float $medianEdge,
        public float $longestEdge,
        private array $places = [],
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $faces = $mesh->faces;
        $n = count($faces);
        $edges = $directed = $seen = $places = [];
        $middle = static fn (int ...$of): Vec3 => (new Vec3(
            array_sum(array_map(static fn (int $p): float => $x[$p], $of)),
            array_sum(array_map(static fn (int $p): float => $y[$p], $of)),
            array_sum(array_map(static fn (int $p): float => $z[$p], $of)),
        ))->times(1.0 / count($of));
        $doubled = $zero = 0;
        $area = 0.0;
        $lengths = [];
        $parent = range(0, max(0, count($x) - 1));
        $used = [];
        $find = static function (int $v) use (&$parent): int {
            while ($parent[$v] !== $v) {
                $parent[$v] = $parent[$parent[$v]];
                $v = $parent[$v];
            }

            return $v;
        };
        for ($i = 0; $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $sorted = [$a, $b, $c];
            sort($sorted);
            $key = $sorted[0].','.$sorted[1].','.$sorted[2];
            if (isset($seen[$key])) {
                $doubled++;
                $places['doubled'] ??= $middle($a, $b, $c);
            }
            $seen[$key] = true;
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $s = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
            $area += $s / 2;
            $longest = max($ux * $ux + $uy * $uy + $uz * $uz, $vx * $vx + $vy * $vy + $vz * $vz);
            if ($a === $b || $b === $c || $a === $c || $s <= 1e-12 * $longest) {
                $zero++;
                $places['zero'] ??= $middle($a, $b, $c);
            }
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $edge = $p < $q ? ($p << 31) | $q : ($q << 31) | $p;
                if (! isset($edges[$edge])) {
                    $edges[$edge] = 0;
                    $lengths[] = sqrt(($x[$p] - $x[$q]) ** 2 + ($y[$p] - $y[$q]) ** 2 + ($z[$p] - $z[$q]) ** 2);
                }
                $edges[$edge]++;
                $directed[($p << 31) | $q] = ($directed[($p << 31) | $q] ?? 0) + 1;
                $used[$p] = true;
                $rp = $find($p);
                $rq = $find($q);
                if ($rp !== $rq) {
                    $parent[$rp] = $rq;
                }
            }
        }
        $boundary = $nonmanifold = 0;
        foreach ($edges as $edge => $count) {
            if ($count === 1) {
                $boundary++;
                $places['boundary'] ??= $middle($edge >> 31, $edge & 0x7FFFFFFF);
            } elseif ($count > 2) {
                $nonmanifold++;
                $places['nonmanifold'] ??= $middle($edge >> 31, $edge & 0x7FFFFFFF);
            }
        }
        $oriented = $n > 0;
        foreach ($directed as $edge => $count) {
            if ($count > 1) {
                $oriented = false;
                $places['turned'] = $middle($edge >> 31, $edge & 0x7FFFFFFF);
                break;
            }
        }
        $roots = [];
        foreach ($used as $v => $_) {
            $roots[$find($v)] = true;
        }
        sort($lengths);
        $mass = MassProperties::of($mesh);
        $m = count($lengths);

        return new self(
            intdiv($n, 3), count($x), $n > 0 && $boundary === 0 && $nonmanifold === 0, $oriented, $mass->volume < 0,
            count($roots), $boundary, $nonmanifold, $doubled, $zero, count($x) - count($used),
            $area, $mass->volume, Aabb::around($mesh), $mass->centroid,
            $lengths[0] ?? 0.0, $lengths[intdiv($m, 2)] ?? 0.0, $lengths[$m - 1] ?? 0.0, $places,
        );
    }

    /** Faces beyond which it is not looked whether a surface passes through itself: that takes seconds there. */
    public const MOST_CROSSED = 120_000;

    /** The same with whether the surface passes through itself, which takes longer than all the rest. */
    public function withCrossing(Mesh $mesh): self
    {
        $place = $this->closed && $this->faces <= self::MOST_CROSSED ? SelfCrossing::of($mesh) : null;

        return $place === null ? $this : new self(...['places' => ['crossing' => $place] + $this->places] + get_object_vars($this));
    }

    /** Whether it was seen to pass through itself. */
    public function passesThroughItself(): bool
    {
        return isset($this->places['crossing']);
    }

    public function canBreak(): bool
    {
        return $this->closed && $this->oriented && ! $this->insideOut && $this->volume > 0.0;
    }

    /** Whether it can be parted as a surface, be it open or closed. */
    public function canPart(): bool
    {
        return $this->oriented && $this->nonmanifoldEdges === 0 && $this->doubledFaces === 0 && $this->faces > 0;
    }

    /**
     * What is wrong, with the repair that helps, and where the first such place lies.
     *
     * @return list<array{fault: string, repair: string|null, place: array{float, float, float}|null}>
     */
    public function faults(): array
    {
        $at = fn (string $kind): ?array => isset($this->places[$kind]) ? $this->places[$kind]->toArray() : null;
        $out = [];
        if ($this->boundaryEdges > 0) {
            $out[] = [
                'fault' => sprintf('The surface is open: %d edges have a face on one side only.', $this->boundaryEdges),
                'repair' => 'fill',
                'place' => $at('boundary'),
            ];
        }
        if ($this->nonmanifoldEdges > 0) {
            $out[] = [
                'fault' => sprintf('%d edges have more than two faces.', $this->nonmanifoldEdges),
                'repair' => $this->doubledFaces > 0 ? 'doubles' : null,
                'place' => $at('nonmanifold'),
            ];
        }
        if ($this->doubledFaces > 0) {
            $out[] = ['fault' => sprintf('%d faces are doubled.', $this->doubledFaces), 'repair' => 'doubles', 'place' => $at('doubled')];
        }
        if ($this->zeroAreaFaces > 0) {
            $out[] = ['fault' => sprintf('%d faces have no area.', $this->zeroAreaFaces), 'repair' => 'degenerates', 'place' => $at('zero')];
        }
        if (! $this->oriented) {
            $out[] = ['fault' => 'Faces point in and out in turn.', 'repair' => 'orient', 'place' => $at('turned')];
        } elseif ($this->insideOut) {
            $out[] = ['fault' => 'The surface is turned inside out.', 'repair' => 'orient', 'place' => null];
        }
        if ($this->passesThroughItself()) {
            $out[] = ['fault' => 'The surface passes through itself, so cuts through that place fail.', 'repair' => 'rebuild', 'place' => $at('crossing')];
        }
        if ($this->closed && abs($this->volume) < 1e-15) {
            $out[] = ['fault' => 'The mesh encloses no volume.', 'repair' => null, 'place' => null];
        }

        return $out;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'faces' => $this->faces, 'vertices' => $this->vertices, 'closed' => $this->closed, 'oriented' => $this->oriented && ! $this->insideOut,
            'parts' => $this->parts, 'boundary_edges' => $this->boundaryEdges, 'nonmanifold_edges' => $this->nonmanifoldEdges,
            'doubled_faces' => $this->doubledFaces, 'zero_area_faces' => $this->zeroAreaFaces, 'loose_points' => $this->loosePoints,
            'area' => $this->area, 'volume' => $this->volume,
            'bounds' => [$this->bounds->low->toArray(), $this->bounds->high->toArray()], 'centroid' => $this->centroid->toArray(),
            'edges' => ['shortest' => $this->shortestEdge, 'median' => $this->medianEdge, 'longest' => $this->longestEdge],
            'can_break' => $this->canBreak(), 'crosses' => $this->passesThroughItself(), 'faults' => $this->faults(),
        ];
    }
}
