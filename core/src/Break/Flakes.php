<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\LevelSplit;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;
use YardBreak\Core\Geometry\UsedPoints;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Weight;

/** The surface comes off in flakes of one or several faces; what is left is the core. */
final class Flakes implements Pattern
{
    public const MOST = 60000;

    /** Sums of face normals at a point thinner than this, against their lengths, point nowhere. */
    private const NO_NORMAL = 1e-6;

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
        private readonly float $thickness,
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
            new Option('faces', 'Faces each', 'About how many faces of the surface make a flake.', 'whole', 12, 1, 100000),
            new Option('thickness', 'Thickness', 'Of the flakes, inwards from the surface.', 'number', 0.002, 0.00001, 10, 'm'),
            new Option('ragged', 'Ragged', 'From round patches (0) to torn ones (1).', 'number', 0.5, 0, 1),
            new Option('weight', 'Only where', 'The surface flakes where this weight is a half or more; the rest stays on the core.', 'weight', null),
            new Option('edge', 'At the edge', 'Faces that the edge of the weight crosses stay whole, or are split along it.', 'choice', 'split', choices: ['whole', 'split'], with: 'weight'),
            new Option('keep', 'Keep', 'Flakes and the core, or one of them.', 'choice', 'both', choices: ['both', 'flakes', 'core']),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', 'whole', 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['faces'], $values['thickness'], $values['ragged'], $values['weight'] === null ? null : Weight::of($values['weight']), $values['edge'] === 'split', $values['keep'], $values['seed']);
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        [$solid, $flaking] = $this->flaking($solid);
        $count = max(1, (int) round(count($flaking) / $this->faces));
        if ($count > self::MOST) {
            throw Problem::outOfRange('faces', 'The number of flakes', $count, 'at most '.self::MOST.'; take more faces each');
        }
        [$ix, $iy, $iz] = $this->inner($solid);
        $core = count($flaking) === $solid->faceCount()
            ? new Mesh($ix, $iy, $iz, $solid->faces, $solid->normals, array_fill(0, $solid->faceCount(), Mesh::INNER), $solid->uvs)
            : self::core($solid, $flaking, $ix, $iy, $iz);
        $mass = MassProperties::of($core);
        if ($mass->volume <= 0.0) {
            throw $this->tooThick();
        }
        $out = $this->keep === 'flakes' ? [] : [new Shard('core', $core, $mass)];
        if ($this->keep === 'core') {
            return $out;
        }
        $patches = $this->faces === 1 ? array_map(static fn (int $f): array => [$f], $flaking) : $this->patches($solid, $flaking, $count);
        foreach ($patches as $k => $patch) {
            if ($k % 256 === 0) {
                $progress->report(0.2 + 0.8 * $k / count($patches));
            }
            $name = sprintf('flake-%05d', $k + 1);
            $out[] = count($patch) === 1 ? $this->single($solid, $patch[0], $ix, $iy, $iz, $name) : $this->flake($solid, $patch, $ix, $iy, $iz, $name);
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
            throw Problem::inValue('weight', 'The weight is nowhere a half on this surface, so nothing would flake.', 'Move it onto the prop, widen it, or invert it.');
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
        [$faces, $x, $y, $z] = TouchingEdges::parted($faces, $x, $y, $z);
        $normals = self::withFlat($solid->normals ?? [], 3 * $n, $faces, $x, $y, $z);
        $all = range(0, $n - 1);
        $sides = self::sides($solid, $all, count($faces));
        foreach ($flaking as $f) {
            $sides[$f] = Mesh::INNER;
        }

        return new Mesh($x, $y, $z, $faces, $normals, $sides, self::uvs($solid, $all, $faces, $x, $y, $z), self::rim($solid, $all, count($faces)));
    }

    /**
     * The surface moved inwards by the thickness, along the mean normal of the faces at each point, farther where they
     * meet sharply so that the thickness is kept.
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function inner(Mesh $solid): array
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($solid);
        $n = $solid->vertexCount();
        $sx = $sy = $sz = array_fill(0, $n, 0.0);
        foreach ($solid->faces as $c => $p) {
            $f = intdiv($c, 3);
            $l = sqrt($nx[$f] * $nx[$f] + $ny[$f] * $ny[$f] + $nz[$f] * $nz[$f]);
            if ($l > 0.0) {
                $sx[$p] += $nx[$f] / $l;
                $sy[$p] += $ny[$f] / $l;
                $sz[$p] += $nz[$f] / $l;
            }
        }
        $x = $solid->x;
        $y = $solid->y;
        $z = $solid->z;
        for ($p = 0; $p < $n; $p++) {
            $l = sqrt($sx[$p] * $sx[$p] + $sy[$p] * $sy[$p] + $sz[$p] * $sz[$p]);
            if ($l < self::NO_NORMAL) {
                continue;
            }
            $k = $this->thickness / $l;
            $x[$p] -= $k * $sx[$p];
            $y[$p] -= $k * $sy[$p];
            $z[$p] -= $k * $sz[$p];
        }

        return [$x, $y, $z];
    }

    /**
     * Patches grown from faces strewn over the surface, each next face the cheapest of those at its border, prices
     * being distances made uneven by chance (Dijkstra 1959).
     *
     * @param  list<int>  $flaking  the faces that come off
     * @return list<list<int>> face numbers
     */
    private function patches(Mesh $solid, array $flaking, int $count): array
    {
        $random = new SeededRandom($this->seed);
        $faces = $solid->faces;
        $n = $solid->faceCount();
        $at = [];
        foreach ($flaking as $f) {
            $at[$faces[3 * $f] << 31 | $faces[3 * $f + 1]] = $at[$faces[3 * $f + 1] << 31 | $faces[3 * $f + 2]] = $at[$faces[3 * $f + 2] << 31 | $faces[3 * $f]] = $f;
        }
        $owner = array_fill(0, $n, -1);
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
                    $g = $at[$faces[$i % 3 === 2 ? $i - 2 : $i + 1] << 31 | $faces[$i]] ?? -1;
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
     * @param  list<float>  $ix
     * @param  list<float>  $iy
     * @param  list<float>  $iz
     */
    private function flake(Mesh $solid, array $patch, array $ix, array $iy, array $iz, string $name): Shard
    {
        $source = $solid->faces;
        $outer = $solid->normals ?? [];
        $local = $global = $x = $y = $z = $top = $normals = $edges = [];
        foreach ($patch as $f) {
            for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
                $p = $source[$c];
                if (! isset($local[$p])) {
                    $local[$p] = count($x);
                    $global[count($x)] = $p;
                    $x[] = $solid->x[$p];
                    $y[] = $solid->y[$p];
                    $z[] = $solid->z[$p];
                    $x[] = $ix[$p];
                    $y[] = $iy[$p];
                    $z[] = $iz[$p];
                }
                $top[] = $local[$p];
                $normals[] = $outer[3 * $c];
                $normals[] = $outer[3 * $c + 1];
                $normals[] = $outer[3 * $c + 2];
            }
        }
        $n = count($top);
        for ($i = 0; $i < $n; $i++) {
            $edges[$top[$i] << 31 | $top[$i % 3 === 2 ? $i - 2 : $i + 1]] = true;
        }
        $faces = $top;
        for ($i = 0; $i < $n; $i += 3) {
            $faces[] = $top[$i] + 1;
            $faces[] = $top[$i + 2] + 1;
            $faces[] = $top[$i + 1] + 1;
        }
        foreach ($edges as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            if (! isset($edges[$q << 31 | $p])) {
                // The same diagonal from both sides, or flakes would overlap where a side is not flat.
                $global[$p] < $global[$q] ? array_push($faces, $p, $p + 1, $q + 1, $p, $q + 1, $q) : array_push($faces, $p, $p + 1, $q, $p + 1, $q + 1, $q);
            }
        }
        [$faces, $x, $y, $z] = $n > 9 ? TouchingEdges::parted($faces, $x, $y, $z) : [$faces, $x, $y, $z];
        $mass = MassProperties::ofFaces($x, $y, $z, $faces);
        if ($mass->volume <= 0.0) {
            throw $this->tooThick();
        }
        $normals = self::withFlat($normals, $n, $faces, $x, $y, $z);

        return new Shard($name, new Mesh($x, $y, $z, $faces, $normals, self::sides($solid, $patch, count($faces)), self::uvs($solid, $patch, $faces, $x, $y, $z), self::rim($solid, $patch, count($faces))), $mass);
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

        return new Shard($name, new Mesh($x, $y, $z, $faces, self::withFlat($normals, 3, $faces, $x, $y, $z), $solid->sides === null ? self::SINGLE_SIDES : self::sides($solid, [$f], count($faces)), self::uvs($solid, [$f], $faces, $x, $y, $z), self::rim($solid, [$f], count($faces))), $mass);
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
