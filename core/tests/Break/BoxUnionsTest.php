<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cut\Ghosts;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;

/**
 * Unions of boxes: their corners, edges and faces lie where cuts like to run, and faces lie in one plane or nearly.
 * However they are broken, pieces are closed, none is a film, and none lies outside.
 */
final class BoxUnionsTest extends TestCase
{
    private const NEARLY = 1e-9;

    /** @return array<string, array{int}> */
    public static function seeds(): array
    {
        return array_combine(array_map(static fn (int $s): string => 'union '.$s, range(1, 25)), array_map(static fn (int $s): array => [$s], range(1, 25)));
    }

    #[DataProvider('seeds')]
    public function test_pieces_are_closed_none_is_a_film_and_none_lies_outside(int $seed): void
    {
        $random = new SeededRandom(7800 + $seed);
        [$solid, $cubes, $scale] = self::union($random, $seed % 2 === 0 ? 0.0 : self::NEARLY);
        self::assertTrue(Fitness::of($solid)->canBreak());
        $volume = MassProperties::of($solid)->volume;
        $longest = max(array_map(static fn (array $v): float => max($v) - min($v), [$solid->x, $solid->y, $solid->z]));
        foreach ([
            'cells' => ['count' => 25],
            'halving' => ['passes' => 4, 'roughness' => $seed % 3 * 0.3],
            'strike' => ['rays' => 20],
            'courses' => ['unit' => [0.5, 0.25, 0.5]],
            'tiles' => ['grid' => [4, 4, 2], 'jitter' => 0.0],
            'flakes' => ['faces' => 2, 'thickness' => 0.01],
            'score' => ['lines' => [
                'unit' => 'm',
                'lines' => [['points' => [[-3, 0], [3, 0.0]], 'closed' => false], ['points' => [[0.0, -3], [0.1, 3]], 'closed' => false]],
            ]],
            'punch' => ['radius' => 0.2],
            'parts' => [],
        ] as $pattern => $values) {
            $seeded = in_array('seed', array_column(BreakCatalogue::PATTERNS[$pattern]::options(), 'name'), true) ? ['seed' => 7800 + $seed] : [];
            try {
                $shards = BreakCatalogue::make($pattern, $values + $seeded)->break($solid, new SilentProgress);
            } catch (Problem $e) {
                // A hole or a line may lie off a solid of this shape; nothing else may be the matter.
                self::assertSame(Problem::OFF, $e->kind, $pattern.': '.$e->getMessage());

                continue;
            }
            $figures = BreakFigures::of($shards);
            self::assertSame($figures['pieces'], $figures['watertight'], $pattern);
            self::assertEqualsWithDelta(1.0, $figures['volume'] / $volume, 1e-9, $pattern);
            foreach ($shards as $shard) {
                self::assertFalse(Ghosts::isGhost($shard, $longest), $pattern.' '.$shard->name);
                foreach ($shard->mesh->x as $i => $x) {
                    self::assertTrue(self::within($cubes, $scale, $x, $shard->mesh->y[$i], $shard->mesh->z[$i], 1e-7 * $longest), $pattern.' '.$shard->name);
                }
            }
        }
    }

    /** @return array{Mesh, array<string, array{int, int, int}>, list<float>} two to nine unit cubes joined at faces, the cubes, and how they were scaled */
    private static function union(SeededRandom $random, float $nearly): array
    {
        do {
            $cubes = ['0,0,0' => [0, 0, 0]];
            $count = 2 + (int) (8 * $random->share());
            while (count($cubes) < $count) {
                $next = array_values($cubes)[(int) (count($cubes) * $random->share())];
                $next[(int) (3 * $random->share())] += $random->share() < 0.5 ? 1 : -1;
                $cubes[implode(',', $next)] = $next;
            }
            $scale = [0.3 + $random->share(), 0.3 + $random->share(), 0.3 + $random->share()];
            $solid = self::skin($cubes, $scale, $random, $nearly);
            // Cubes that meet in an edge or a corner only make no solid.
        } while (! Fitness::of($solid)->canBreak());

        return [$solid, $cubes, $scale];
    }

    /**
     * @param  array<string, array{int, int, int}>  $cubes
     * @param  list<float>  $scale
     */
    private static function skin(array $cubes, array $scale, SeededRandom $random, float $nearly): Mesh
    {
        $x = $y = $z = $known = $faces = [];
        foreach ($cubes as $cube) {
            foreach ([0, 1, 2] as $axis) {
                foreach ([0, 1] as $side) {
                    $beyond = $cube;
                    $beyond[$axis] += $side === 1 ? 1 : -1;
                    if (isset($cubes[implode(',', $beyond)])) {
                        continue;
                    }
                    $quad = [];
                    foreach ([[0, 0], [1, 0], [1, 1], [0, 1]] as [$i, $j]) {
                        $p = $cube;
                        $p[$axis] += $side;
                        $p[($axis + 1) % 3] += $i;
                        $p[($axis + 2) % 3] += $j;
                        $key = implode(',', $p);
                        if (! isset($known[$key])) {
                            $known[$key] = count($x);
                            $x[] = $p[0] * $scale[0] + $nearly * $random->between(-1.0, 1.0);
                            $y[] = $p[1] * $scale[1] + $nearly * $random->between(-1.0, 1.0);
                            $z[] = $p[2] * $scale[2] + $nearly * $random->between(-1.0, 1.0);
                        }
                        $quad[] = $known[$key];
                    }
                    [$a, $b, $c, $d] = $side === 1 ? $quad : array_reverse($quad);
                    array_push($faces, $a, $b, $c, $a, $c, $d);
                }
            }
        }
        $mesh = new Mesh($x, $y, $z, $faces);

        return $mesh->withNormals(FaceNormals::flat($mesh));
    }

    /**
     * @param  array<string, array{int, int, int}>  $cubes
     * @param  list<float>  $scale
     */
    private static function within(array $cubes, array $scale, float $x, float $y, float $z, float $by): bool
    {
        foreach ($cubes as [$i, $j, $k]) {
            if (
                $x >= $i * $scale[0] - $by
                && $x <= ($i + 1) * $scale[0] + $by
                && $y >= $j * $scale[1] - $by
                && $y <= ($j + 1) * $scale[1] + $by
                && $z >= $k * $scale[2] - $by
                && $z <= ($k + 1) * $scale[2] + $by
            ) {
                return true;
            }
        }

        return false;
    }
}
