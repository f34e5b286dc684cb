<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Break\Cells\SurfaceCells;
use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\FaceNeighbours;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\LevelSplit;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;
use YardBreak\Core\Geometry\UsedPoints;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Points;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Weight;
use YardBreak\Core\Weight\WeightKind;

/** The surface comes off in flakes of one or several faces; what is left is the core. */
final class Flakes implements FirstLook, OfSurfaces, Pattern
{
    public const MOST = 60000;

    public const MOST_CELLS = 15000;

    /** Cut through the faces, so many come at once; more begin with a look at so many. */
    private const BRIEF = 300;

    /** Sums of face normals at a point thinner than this, against their lengths, point nowhere. */
    private const NO_NORMAL = 1e-6;

    /** Times that flakes are made half as thick where they would turn over. */
    private const THINNINGS = 10;

    /** A flake turns over where its inner side has less than this share of its outer area left. */
    private const LEFT_WITHIN = 0.05;

    /** Faces of a flake of one face, points outer and inner by turns, by which ends of its sides come first: 1, 2 and 4. */
    private const SINGLE = [
        [0, 2, 4, 1, 5, 3, 0, 1, 2, 1, 3, 2, 2, 3, 4, 3, 5, 4, 4, 5, 0, 5, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 3, 0, 3, 2, 2, 3, 4, 3, 5, 4, 4, 5, 0, 5, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 2, 1, 3, 2, 2, 3, 5, 2, 5, 4, 4, 5, 0, 5, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 3, 0, 3, 2, 2, 3, 5, 2, 5, 4, 4, 5, 0, 5, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 2, 1, 3, 2, 2, 3, 4, 3, 5, 4, 4, 5, 1, 4, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 3, 0, 3, 2, 2, 3, 4, 3, 5, 4, 4, 5, 1, 4, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 2, 1, 3, 2, 2, 3, 5, 2, 5, 4, 4, 5, 1, 4, 1, 0],
        [0, 2, 4, 1, 5, 3, 0, 1, 3, 0, 3, 2, 2, 3, 5, 2, 5, 4, 4, 5, 1, 4, 1, 0],
    ];

    private const SINGLE_SIDES = [Mesh::OUTER, Mesh::INNER, Mesh::INNER, Mesh::INNER, Mesh::INNER, Mesh::INNER, Mesh::INNER, Mesh::INNER];

    private function __construct(
        private readonly int $faces,
        private readonly ?SurfaceCells $cells,
        private readonly float $thickness,
        private readonly float $lift,
        private readonly float $ragged,
        private readonly ?Weight $weight,
        private readonly bool $split,
        private readonly string $keep,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Flakes';
    }

    public static function meaning(): string
    {
        return 'The surface in flakes, off a core';
    }

    public static function options(): array
    {
        return [
            new Option('by', 'By', 'Flakes of whole faces, or so many of them, cut through the faces.', Choice::class, 'faces', choices: ['faces', 'number']),
            new Option('faces', 'Faces each', 'About how many faces of the surface make a flake.', Whole::class, 12, 1, 100000, with: 'by=faces'),
            new Option('count', 'Pieces', '200 for a look, 1,000 for a try, 10,000 for a final.', Whole::class, 1000, 1, self::MOST_CELLS, with: 'by=number'),
            new Option('even', 'Even spacing', 'From strewn at random (0) to evenly spread (1).', Number::class, 0.3, 0, 1, with: 'by=number'),
            new Option(
                'thickness',
                'Thickness',
                'Of the flakes, inwards from the surface; none for open sheets, as cloth is.',
                Number::class,
                0.002,
                0,
                10,
                'm',
                share: 0.003,
            ),
            new Option('lift', 'Lift', 'How far flakes stand off the surface before they go.', Number::class, 0, 0, 1, 'm'),
            new Option('ragged', 'Ragged', 'From round patches (0) to torn ones (1).', Number::class, 0.5, 0, 1),
            new Option(
                'tear',
                'Tear',
                'How long the teeth of torn edges are, about; 0 for a third of a flake.',
                Number::class,
                0,
                0,
                100,
                'm',
                with: 'by=number',
            ),
            new Option('cluster', 'Crowd round', 'Smaller flakes near these points.', Points::class, null, -1000, 1000, 'm', with: 'by=number'),
            new Option('reach', 'Reach', 'How far round the points they crowd.', Number::class, 0.1, 0.0001, 1000, 'm', with: 'cluster', share: 0.15),
            new Option('dense', 'Crowd by weight', 'Smaller flakes where this weight is high.', WeightKind::class, null, with: 'by=number'),
            new Option('crowd', 'Share that crowds', 'Of all flakes.', Number::class, 0.5, 0, 1, with: 'cluster|dense'),
            new Option('weight', 'Only where', 'The surface flakes where this weight is a half or more; the rest stays on the core.', WeightKind::class, null),
            new Option(
                'edge',
                'At the edge',
                'Faces that the edge of the weight crosses stay whole, or are split along it.',
                Choice::class,
                'split',
                choices: ['whole', 'split'],
                with: 'weight',
            ),
            new Option('keep', 'Keep', 'Flakes and the core, or one of them.', Choice::class, 'both', choices: ['both', 'flakes', 'core']),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', Whole::class, 1, 0, 999999),
        ];
    }

    /** Sheets alone, with no core under them, come of any surface. */
    public static function needsSolid(array $values): bool
    {
        return ($values['thickness'] ?? 1.0) > 0.0 || ($values['keep'] ?? 'both') !== 'flakes';
    }

    public static function of(array $values): self
    {
        $cells = $values['by'] === 'faces' ? null : new SurfaceCells(
            $values['count'], $values['even'], $values['ragged'], $values['tear'] > 0.0
                ? $values['tear']
                : null, array_map(Vec3::of(...), $values['cluster'] ?? []),
            $values['crowd'], $values['reach'], $values['dense'] === null ? null : Weight::of($values['dense']), $values['seed'],
        );

        return new self(
            $values['faces'],
            $cells,
            $values['thickness'],
            $values['lift'],
            $values['ragged'],
            $values['weight'] === null ? null : Weight::of($values['weight']),
            $values['edge'] === 'split',
            $values['keep'],
            $values['seed'],
        );
    }

    public static function firstLook(array $values): ?array
    {
        if (($values['by'] ?? 'faces') === 'faces' || ($values['count'] ?? 0) <= self::BRIEF) {
            return null;
        }

        return ['count' => self::BRIEF, 'even' => 0.0, 'ragged' => 0.0] + $values;
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        try {
            return $this->flaked($solid, $progress);
        } catch (\UnexpectedValueException) {
            throw Problem::inMesh('This surface cannot come off in flakes: it touches itself along edges.', 'Rebuild it on the Props stage.');
        }
    }

    /**
     * @return list<Shard>
     *
     * @throws \UnexpectedValueException where parts of a flake cannot be told apart
     */
    private function flaked(Mesh $solid, Progress $progress): array
    {
        [$solid, $flaking] = $this->flaking($solid);
        $patches = null;
        if ($this->cells !== null) {
            [$solid, $patches, $origins, $beyond] = $this->cells->of($solid);
            if ($this->weight !== null) {
                [$patches, $flaking] = self::within($patches, $origins, $flaking);
            } else {
                $flaking = array_keys($origins);
            }
        } else {
            $beyond = $this->faces === 1 ? [] : FaceNeighbours::beyond($solid->faces);
        }
        $count = max(1, (int) round(count($flaking) / $this->faces));
        if ($patches === null && $count > self::MOST) {
            throw Problem::outOfRange('faces', 'The number of flakes', $count, 'at most '.self::MOST.'; take more faces each');
        }
        $normals = self::pointNormals($solid);
        $depth = self::depths($solid, $normals, $this->thickness);
        [$ix, $iy, $iz] = self::moved($solid, $normals, array_map(static fn (float $d): float => -$d, $depth));
        $core = $this->thickness <= 0.0 ? $solid : (count($flaking) === $solid->faceCount()
            ? new Mesh($ix, $iy, $iz, $solid->faces, $solid->normals, array_fill(0, $solid->faceCount(), Mesh::INNER), $solid->uvs)
            : self::core($solid, $flaking, $ix, $iy, $iz));
        $out = [];
        if ($this->thickness > 0.0 || $this->keep !== 'flakes') {
            $mass = MassProperties::of($core);
            if ($mass->volume <= 0.0) {
                throw $this->tooThick();
            }
            $out = $this->keep === 'flakes' ? [] : [new Shard('core', $core, $mass)];
        }
        if ($this->keep === 'core') {
            return $out;
        }
        $patches ??= $this->faces === 1 ? array_map(static fn (int $f): array => [$f], $flaking) : $this->patches($solid, $flaking, $beyond, $count);
        if ($this->lift > 0.0) {
            [$lx, $ly, $lz] = self::moved($solid, $normals, array_fill(0, $solid->vertexCount(), $this->lift));
            [$ix, $iy, $iz] = self::moved($solid, $normals, array_map(fn (float $d): float => $this->lift - $d, $depth));
            $solid = new Mesh($lx, $ly, $lz, $solid->faces, $solid->normals, $solid->sides, $solid->uvs, $solid->rim);
        }
        $of = $this->faces === 1 && $this->cells === null ? [] : array_fill(0, $solid->faceCount(), -1);
        $pinched = $of === [] ? [] : FaceNeighbours::pinched($solid->faces, $beyond, $solid->vertexCount());
        foreach ($of === [] ? [] : $patches as $k => $patch) {
            foreach ($patch as $f) {
                $of[$f] = $k;
            }
        }
        foreach ($patches as $k => $patch) {
            if ($k % 256 === 0) {
                $progress->report(0.2 + 0.8 * $k / count($patches));
            }
            $name = sprintf('flake-%05d', $k + 1);
            if ($this->thickness <= 0.0) {
                $out[] = self::sheet($solid, $patch, $name);

                continue;
            }
            $out[] = count($patch) === 1
                ? $this->single($solid, $patch[0], $ix, $iy, $iz, $name)
                : $this->flake($solid, $k, $patch, $of, $beyond, $pinched, $ix, $iy, $iz, $name);
        }

        return $out;
    }

    /**
     * @return array{Mesh, list<int>} the solid, divided along the weight's edge where that is wanted, and the faces that come off
     *
     * @throws Problem where the weight reaches no face
     */
    private function flaking(Mesh $solid): array
    {
        if ($this->weight === null) {
            return [$solid, range(0, $solid->faceCount() - 1)];
        }
        if ($this->split) {
            [$solid, $within] = LevelSplit::of($solid, $this->weight->at(...), Weight::EDGE);
        } else {
            $weights = $this->weight->over($solid);
            $within = [];
            for ($i = 0, $n = count($solid->faces); $i < $n; $i += 3) {
                $within[] = 3.0 * Weight::EDGE <= $weights[$solid->faces[$i]] + $weights[$solid->faces[$i + 1]] + $weights[$solid->faces[$i + 2]];
            }
        }
        $flaking = array_keys(array_filter($within));
        if ($flaking === []) {
            throw Problem::inValue(
                'weight',
                'The weight is nowhere a half on this surface, so nothing would flake.',
                'Move it onto the prop, widen it, or invert it.',
            );
        }

        return [$solid, $flaking];
    }

    /**
     * What is left where only some faces come off: those are sunk by the thickness, with a step round them.
     *
     * @param  list<int>  $flaking  face numbers
     * @param  list<float>  $ix
     * @param  list<float>  $iy
     * @param  list<float>  $iz
     */
    private static function core(Mesh $solid, array $flaking, array $ix, array $iy, array $iz): Mesh
    {
        $n = $solid->faceCount();
        $vertices = $solid->vertexCount();
        $sunk = array_fill(0, $n, 0);
        $edges = [];
        foreach ($flaking as $f) {
            $sunk[$f] = 1;
            for ($i = 3 * $f; $i < 3 * $f + 3; $i++) {
                $edges[$solid->faces[$i] << 31 | $solid->faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = true;
            }
        }
        // Sunk points are numbered after those of the surface.
        $faces = [];
        foreach ($solid->faces as $c => $p) {
            $faces[] = $p + $sunk[intdiv($c, 3)] * $vertices;
        }
        foreach ($edges as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            if (! isset($edges[$q << 31 | $p])) {
                $i = $p + $vertices;
                $j = $q + $vertices;
                // The flake's own side, seen from behind.
                $p < $q ? array_push($faces, $p, $j, $i, $p, $q, $j) : array_push($faces, $p, $q, $i, $i, $q, $j);
            }
        }
        [$faces, $x, $y, $z] = UsedPoints::of($faces, [...$solid->x, ...$ix], [...$solid->y, ...$iy], [...$solid->z, ...$iz]);
        $normals = self::withFlat($solid->normals ?? [], 3 * $n, $faces, $x, $y, $z);
        $all = range(0, $n - 1);
        $sides = self::sides($solid, $all, count($faces));
        foreach ($flaking as $f) {
            $sides[$f] = Mesh::INNER;
        }

        return TouchingEdges::parted(new Mesh(
            $x,
            $y,
            $z,
            $faces,
            $normals,
            $sides,
            self::uvs($solid, $all, $faces, $x, $y, $z),
            self::rim($solid, $all, count($faces)),
        ));
    }

    /**
     * The parts of patches whose faces come off.
     *
     * @param  list<list<int>>  $patches
     * @param  list<int>  $origins  of each face, the face it was cut from
     * @param  list<int>  $flaking  faces that come off, before they were cut
     * @return array{list<list<int>>, list<int>} those parts, and all their faces
     */
    private static function within(array $patches, array $origins, array $flaking): array
    {
        $comes = array_fill_keys($flaking, true);
        $out = [];
        foreach ($patches as $patch) {
            $left = array_values(array_filter($patch, static fn (int $f): bool => isset($comes[$origins[$f]])));
            if ($left !== []) {
                $out[] = $left;
            }
        }

        return [$out, array_values(array_filter(array_keys($origins), static fn (int $f): bool => isset($comes[$origins[$f]])))];
    }

    /**
     * A flake without thickness: an open sheet, which no rigid body can be made of.
     *
     * @param  list<int>  $patch
     */
    private static function sheet(Mesh $solid, array $patch, string $name): Shard
    {
        $mesh = $solid->only($patch);
        $sum = Vec3::zero();
        foreach ($mesh->faces as $p) {
            $sum = $sum->plus(new Vec3($mesh->x[$p], $mesh->y[$p], $mesh->z[$p]));
        }

        return new Shard($name, $mesh, new MassProperties(0.0, $sum->times(1.0 / count($mesh->faces)), [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]));
    }

    /**
     * The mean normal of the faces at each point; zero where they cancel.
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function pointNormals(Mesh $solid): array
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($solid);
        $n = $solid->vertexCount();
        $sx = $sy = $sz = array_fill(0, $n, 0.0);
        $faces = $solid->faces;
        for ($f = 0, $i = 0, $m = count($faces); $i < $m; $f++, $i += 3) {
            $x = $nx[$f];
            $y = $ny[$f];
            $z = $nz[$f];
            $l = sqrt($x * $x + $y * $y + $z * $z);
            if ($l > 0.0) {
                $x /= $l;
                $y /= $l;
                $z /= $l;
                for ($c = $i; $c < $i + 3; $c++) {
                    $p = $faces[$c];
                    $sx[$p] += $x;
                    $sy[$p] += $y;
                    $sz[$p] += $z;
                }
            }
        }
        for ($p = 0; $p < $n; $p++) {
            $l = sqrt($sx[$p] * $sx[$p] + $sy[$p] * $sy[$p] + $sz[$p] * $sz[$p]);
            $k = $l < self::NO_NORMAL ? 0.0 : 1.0 / $l;
            $sx[$p] *= $k;
            $sy[$p] *= $k;
            $sz[$p] *= $k;
        }

        return [$sx, $sy, $sz];
    }

    /**
     * How thick flakes are at each point: thinner where the surface bends so tightly that they would turn over within.
     *
     * @param  array{list<float>, list<float>, list<float>}  $normals  at each point
     * @return list<float>
     */
    private static function depths(Mesh $solid, array $normals, float $thickness): array
    {
        $depth = array_fill(0, $solid->vertexCount(), $thickness);
        if ($thickness <= 0.0) {
            return $depth;
        }
        $faces = $solid->faces;
        [$nx, $ny, $nz] = FaceNormals::perFace($solid);
        for ($round = 0; $round < self::THINNINGS; $round++) {
            [$x, $y, $z] = self::moved($solid, $normals, array_map(static fn (float $d): float => -$d, $depth));
            [$mx, $my, $mz] = FaceNormals::perFace(new Mesh($x, $y, $z, $faces));
            $thin = [];
            foreach ($nx as $f => $n) {
                if ($n * $mx[$f] + $ny[$f] * $my[$f] + $nz[$f] * $mz[$f] < self::LEFT_WITHIN * ($n * $n + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f])) {
                    $thin[$faces[3 * $f]] = $thin[$faces[3 * $f + 1]] = $thin[$faces[3 * $f + 2]] = true;
                }
            }
            foreach ($thin as $p => $_) {
                $depth[$p] *= 0.5;
            }
            if ($thin === []) {
                break;
            }
        }

        return $depth;
    }

    /**
     * @param  array{list<float>, list<float>, list<float>}  $normals  at each point
     * @param  list<float>  $by  metres, a point each
     * @return array{list<float>, list<float>, list<float>} the surface's points moved outwards along them
     */
    private static function moved(Mesh $solid, array $normals, array $by): array
    {
        [$nx, $ny, $nz] = $normals;
        $x = $solid->x;
        $y = $solid->y;
        $z = $solid->z;
        foreach ($nx as $p => $n) {
            $x[$p] += $by[$p] * $n;
            $y[$p] += $by[$p] * $ny[$p];
            $z[$p] += $by[$p] * $nz[$p];
        }

        return [$x, $y, $z];
    }

    /**
     * Patches grown from faces strewn over the surface, each next face the cheapest of those at its border, prices
     * being distances made uneven by chance (Dijkstra 1959).
     *
     * @param  list<int>  $flaking  the faces that come off
     * @param  list<int>  $beyond  the face beyond each edge
     * @return list<list<int>> face numbers
     */
    private function patches(Mesh $solid, array $flaking, array $beyond, int $count): array
    {
        $random = new SeededRandom($this->seed);
        // What stays is nobody's to take.
        $owner = array_fill(0, $solid->faceCount(), PHP_INT_MAX);
        foreach ($flaking as $f) {
            $owner[$f] = -1;
        }
        $heap = new \SplPriorityQueue;
        $heap->setExtractFlags(\SplPriorityQueue::EXTR_BOTH);
        $order = $flaking;
        for ($k = 0; $k < $count; $k++) {
            $j = $k + (int) ($random->share() * (count($flaking) - $k));
            [$order[$k], $order[$j]] = [$order[$j], $order[$k]];
            $heap->insert([$order[$k], $k], -0.0);
        }
        $patches = array_fill(0, $count, []);
        $next = $count;
        do {
            while (! $heap->isEmpty()) {
                ['data' => [$f, $k], 'priority' => $price] = $heap->extract();
                if ($owner[$f] >= 0) {
                    continue;
                }
                $owner[$f] = $k;
                $patches[$k][] = $f;
                for ($i = 3 * $f; $i < 3 * $f + 3; $i++) {
                    $g = $beyond[$i];
                    if ($g >= 0 && $owner[$g] < 0) {
                        $heap->insert([$g, $k], $price - 1.0 + 0.95 * $this->ragged * $random->between(-1.0, 1.0));
                    }
                }
            }
            // What hangs together with no first face, such as a small island, makes a patch of its own.
            while ($next < count($order) && $owner[$order[$next]] >= 0) {
                $next++;
            }
            if ($next < count($order)) {
                $heap->insert([$order[$next], count($patches)], -0.0);
                $patches[] = [];
            }
        } while (! $heap->isEmpty());

        return array_values(array_filter($patches));
    }

    /**
     * @param  list<int>  $patch
     * @param  list<int>  $of  the patch each face is in
     * @param  list<int>  $beyond  the face beyond each edge
     * @param  array<int, true>  $pinched  points where the surface touches itself
     * @param  list<float>  $ix
     * @param  list<float>  $iy
     * @param  list<float>  $iz
     */
    private function flake(Mesh $solid, int $k, array $patch, array $of, array $beyond, array $pinched, array $ix, array $iy, array $iz, string $name): Shard
    {
        $source = $solid->faces;
        $outer = $solid->normals ?? [];
        $sx = $solid->x;
        $sy = $solid->y;
        $sz = $solid->z;
        $local = $global = $x = $y = $z = $top = $normals = $border = $begun = [];
        $touching = false;
        $n = 0;
        foreach ($patch as $f) {
            $first = 3 * $f;
            for ($c = $first; $c < $first + 3; $c++) {
                $p = $source[$c];
                $to = $local[$p] ?? -1;
                if ($to < 0) {
                    $to = $local[$p] = count($x);
                    $global[$to] = $p;
                    $x[] = $sx[$p];
                    $x[] = $ix[$p];
                    $y[] = $sy[$p];
                    $y[] = $iy[$p];
                    $z[] = $sz[$p];
                    $z[] = $iz[$p];
                    if ($pinched !== [] && isset($pinched[$p])) {
                        $touching = true;
                    }
                }
                $top[] = $to;
                $normals[] = $outer[3 * $c];
                $normals[] = $outer[3 * $c + 1];
                $normals[] = $outer[3 * $c + 2];
            }
            for ($c = 0; $c < 3; $c++) {
                $g = $beyond[$first + $c];
                if ($g < 0 || $of[$g] !== $k) {
                    $p = $top[$n + $c];
                    // Where the border passes a point twice the flake touches itself.
                    $touching = $touching || isset($begun[$p]);
                    $begun[$p] = true;
                    $border[] = $p;
                    $border[] = $top[$c === 2 ? $n : $n + $c + 1];
                }
            }
            $n += 3;
        }
        $faces = $top;
        for ($i = 0; $i < $n; $i += 3) {
            $faces[] = $top[$i] + 1;
            $faces[] = $top[$i + 2] + 1;
            $faces[] = $top[$i + 1] + 1;
        }
        for ($i = 0, $m = count($border); $i < $m; $i += 2) {
            $p = $border[$i];
            $q = $border[$i + 1];
            // The same diagonal from both sides, or flakes would overlap where a side is not flat.
            $rises = $global[$p] < $global[$q];
            $faces[] = $p;
            $faces[] = $p + 1;
            $faces[] = $rises ? $q + 1 : $q;
            $faces[] = $rises ? $p : $p + 1;
            $faces[] = $q + 1;
            $faces[] = $q;
        }
        $mass = MassProperties::ofFaces($x, $y, $z, $faces);
        if ($mass->volume <= 0.0) {
            throw $this->tooThick();
        }
        $normals = self::withFlat($normals, $n, $faces, $x, $y, $z);
        $mesh = new Mesh(
            $x,
            $y,
            $z,
            $faces,
            $normals,
            self::sides($solid, $patch, count($faces)),
            self::uvs($solid, $patch, $faces, $x, $y, $z),
            self::rim($solid, $patch, count($faces)),
        );

        return new Shard($name, $touching ? TouchingEdges::parted($mesh) : $mesh, $mass);
    }

    /**
     * A flake of one face, which can be written down at once.
     *
     * @param  list<float>  $ix
     * @param  list<float>  $iy
     * @param  list<float>  $iz
     */
    private function single(Mesh $solid, int $f, array $ix, array $iy, array $iz, string $name): Shard
    {
        $i = 3 * $f;
        $a = $solid->faces[$i];
        $b = $solid->faces[$i + 1];
        $c = $solid->faces[$i + 2];
        $sx = $solid->x;
        $sy = $solid->y;
        $sz = $solid->z;
        $x = [$sx[$a], $ix[$a], $sx[$b], $ix[$b], $sx[$c], $ix[$c]];
        $y = [$sy[$a], $iy[$a], $sy[$b], $iy[$b], $sy[$c], $iy[$c]];
        $z = [$sz[$a], $iz[$a], $sz[$b], $iz[$b], $sz[$c], $iz[$c]];
        $faces = self::SINGLE[($a < $b ? 1 : 0) | ($b < $c ? 2 : 0) | ($c < $a ? 4 : 0)];
        $mass = MassProperties::ofFaces($x, $y, $z, $faces);
        if ($mass->volume <= 0.0) {
            throw $this->tooThick();
        }
        $normals = array_slice($solid->normals ?? [], 3 * $i, 9);

        return new Shard(
            $name,
            new Mesh(
                $x,
                $y,
                $z,
                $faces,
                self::withFlat($normals, 3, $faces, $x, $y, $z),
                $solid->sides === null ? self::SINGLE_SIDES : self::sides($solid, [$f], count($faces)),
                self::uvs($solid, [$f], $faces, $x, $y, $z),
                self::rim($solid, [$f], count($faces)),
            ),
            $mass,
        );
    }

    /**
     * @param  list<float>  $normals  of the corners before the first
     * @param  list<int>  $faces
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float> with those of the flat faces from there on
     */
    private static function withFlat(array $normals, int $first, array $faces, array $x, array $y, array $z): array
    {
        for ($i = $first, $m = count($faces); $i < $m; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $k = $l > 0.0 ? 1.0 / $l : 0.0;
            $nx *= $k;
            $ny *= $k;
            $nz *= $k;
            for ($j = 0; $j < 3; $j++) {
                $normals[] = $nx;
                $normals[] = $ny;
                $normals[] = $nz;
            }
        }

        return $normals;
    }

    /**
     * @param  list<int>  $patch
     * @param  list<int>  $faces  those of the patch first
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<float>|null
     */
    private static function uvs(Mesh $solid, array $patch, array $faces, array $x, array $y, array $z): ?array
    {
        if ($solid->uvs === null) {
            return null;
        }
        $out = [];
        foreach ($patch as $f) {
            array_push($out, ...array_slice($solid->uvs, 6 * $f, 6));
        }
        for ($i = 3 * count($patch), $n = count($faces); $i < $n; $i += 3) {
            array_push($out, ...BoxProjection::face($x, $y, $z, $faces[$i], $faces[$i + 1], $faces[$i + 2]));
        }

        return $out;
    }

    /**
     * @param  list<int>  $patch  the faces that come first
     * @return list<int> a side for each face; what follows the patch is inner
     */
    private static function sides(Mesh $solid, array $patch, int $corners): array
    {
        $out = [];
        foreach ($patch as $f) {
            $out[] = $solid->sides[$f] ?? Mesh::OUTER;
        }

        return array_pad($out, intdiv($corners, 3), Mesh::INNER);
    }

    /**
     * @param  list<int>  $patch  the faces that come first
     * @return list<float>|null
     */
    private static function rim(Mesh $solid, array $patch, int $corners): ?array
    {
        if ($solid->rim === null) {
            return null;
        }
        $out = [];
        foreach ($patch as $f) {
            array_push($out, ...array_slice($solid->rim, 3 * $f, 3));
        }

        return array_pad($out, $corners, 0.0);
    }

    private function tooThick(): Problem
    {
        return Problem::inValue('thickness', 'Flakes this thick would go through the prop or fold over each other.', 'Make them thinner.');
    }
}
