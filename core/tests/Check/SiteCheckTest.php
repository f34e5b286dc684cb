<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Solids;
use YardBreak\Core\Weight\Coverage;

final class SiteCheckTest extends TestCase
{
    /** Paths count as the document does, hidden props too. */
    public function test_a_place_is_named_whatever_is_hidden_before_it(): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['props'] = [['id' => 'away', 'name' => 'Away', 'hidden' => true] + $d['props'][0], $d['props'][0]];
            $d['props'][1]['break'] = ['pattern' => 'flakes', 'values' => ['thickness' => 0]];

            return $d;
        }));
        self::assertContains('props[1].break.values.thickness', array_column((new SiteCheck(self::maker()))->of($shot), 'path'));
    }

    /** @param  array<string, mixed>  $sheet */
    #[DataProvider('fabrics')]
    public function test_what_fabric_cannot_do_is_said(array $sheet, float $pressure, ?string $path, string $words): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d) use ($sheet, $pressure): array {
            $d['props'] = [['source' => ['kind' => 'shape', ...$sheet], 'break' => null, 'motion' => ['kind' => 'cloth', 'values' => ['pressure' => $pressure]]] + $d['props'][0]];

            return $d;
        }));
        $said = (new SiteCheck(self::maker()))->of($shot);
        self::assertSame([], array_filter($said, static fn (array $s): bool => $s['level'] === 'wrong'), 'none of it keeps it from being baked');
        self::assertSame($path === null ? [] : [$path], array_column($said, 'path'));
        self::assertStringContainsString($words, implode(' ', array_column($said, 'message')));
    }

    /** @return iterable<string, array{array<string, mixed>, float, string|null, string}> */
    public static function fabrics(): iterable
    {
        $sheet = static fn (int $segments): array => ['shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => $segments]];
        yield 'fine enough' => [$sheet(10), 0.0, null, ''];
        yield 'too coarse' => [$sheet(3), 0.0, 'props[0].source', 'it is cloth of 18 faces'];
        yield 'open under pressure' => [$sheet(12), 5.0, 'props[0].motion.values.pressure', 'its surface is open'];
        yield 'closed under pressure' => [['shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => 6]], 5.0, null, ''];
    }

    public function test_cloth_that_begins_inside_something_and_seams_of_closed_pieces_are_told(): void
    {
        // A ball of half a metre about (0, 0.5, 0): the sheet goes through its middle, 305 of its 441 points less than ten cells of it from there.
        $ball = Trials::box('ball', [0, 0, 0], ['source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => 12]]]);
        $sheet = static fn (float $height, array $with = []): array => Trials::box('sheet', [0, $height, 0.5], $with + [
            'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => 20]],
            'place' => ['position' => [0, $height, 0.5], 'turn' => [-90, 0, 0], 'size' => 1], 'motion' => ['kind' => 'cloth'],
        ]);
        $said = static function (array ...$props): array {
            $ready = Trials::ready(Trials::document($props));
            $shards = Trials::made($ready->shot)[0];

            return array_column((new SiteCheck(self::maker()))->of($ready->shot, pieces: static fn (PropSpec $p): array => $shards[$p->id]), 'message');
        };
        self::assertSame(
            ['Sheet: it keeps 5 mm off what it meets, but has only 2 mm to Ball: it is pushed out by 3 mm.'],
            $said($sheet(1.002, ['motion' => ['kind' => 'cloth', 'values' => ['fabric' => 'own', 'thickness' => 5]]]), $ball),
        );
        self::assertSame([], $said($sheet(1.006, ['motion' => ['kind' => 'cloth', 'values' => ['fabric' => 'own', 'thickness' => 5]]]), $ball), 'far enough');
        $flakes = ['pattern' => 'flakes', 'values' => ['by' => 'number', 'count' => 12, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0]];
        self::assertSame([], $said($sheet(1.002, ['break' => $flakes, 'motion' => ['kind' => 'cloth', 'values' => ['fabric' => 'own', 'thickness' => 5]]]), $ball), 'loose pieces begin on what they come off');
        self::assertSame(
            ['Sheet: finished it is 2 cm thick, half of it to either side, but it keeps only 5 mm off what it meets: that shows through.'],
            $said($sheet(1.2, ['motion' => ['kind' => 'cloth', 'values' => ['fabric' => 'own', 'thickness' => 5]], 'finish' => ['thickness' => 0.02]]), $ball),
        );
        self::assertMatchesRegularExpression('/^Sheet: 6[6-9] % of it begins inside Ball, 50 cm deep at most: it is pushed out slowly\.$/', $said($sheet(0.5), $ball)[0] ?? '');
        self::assertSame([], $said($sheet(1.01), $ball));
        $cubes = ['break' => ['pattern' => 'cells', 'values' => ['count' => 4]], 'motion' => ['kind' => 'cloth', 'values' => ['seams' => 'glued']]];
        self::assertStringContainsString('no rims for seams', implode(' ', $said(Trials::box('block', [0, 0, 0], $cubes))));
        $flakes = ['break' => ['pattern' => 'flakes', 'values' => ['thickness' => 0, 'keep' => 'flakes']], 'motion' => ['kind' => 'cloth', 'values' => ['seams' => 'glued']]];
        self::assertStringNotContainsString('seams', implode(' ', $said(Trials::box('block', [0, 0, 0], $flakes))));
    }

    public function test_what_is_doubtful_about_keys_and_cues_is_said_and_nothing_is_lost(): void
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d): array {
            $d['cues'] = [
                ['id' => 'a', 'name' => 'Never', 'at' => ['on' => 'touch', 'one' => 'post', 'other' => 'ground']],
                ['id' => 'b', 'name' => 'Lands', 'at' => ['on' => 'touch', 'one' => 'block', 'other' => 'ground']],
            ];
            $d['world']['gravity'][1] = ['keys' => [
                ['frame' => 0, 'value' => 0],
                ['frame' => 8, 'value' => 1],
                ['frame' => 8, 'value' => -9.8],
                ['frame' => 500, 'value' => 0],
            ]];
            $keyed = ['keys' => [['frame' => 0, 'value' => 0], ['cue' => 'b', 'offset' => -3, 'value' => 1]]];
            $still = ['place' => ['position' => [5, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'break' => null] + $d['props'][0];
            $d['props'] = [
                $d['props'][0],
                ['id' => 'post', 'name' => 'Post', 'place' => ['position' => [$keyed, 0, 0]] + $still['place'], 'motion' => ['kind' => 'fixed']] + $still,
                ['id' => 'lamp', 'name' => 'Lamp', 'motion' => ['kind' => 'keyed']] + $still,
            ];

            return $d;
        }));
        $said = (new SiteCheck(self::maker()))->of($shot);
        $found = array_column($said, 'message', 'path');
        self::assertSame('World: gravity y has a key outside frames 0 to 96.', $found['world.gravity[1]']);
        self::assertStringContainsString('2 keys on frame 8; the last of them counts', implode(' ', array_column($said, 'message')));
        self::assertSame(-9.8, $shot->gravity->y->at(8));
        self::assertStringContainsString('fixed, so its keys do nothing', $found['props[1].motion.kind']);
        self::assertStringContainsString('nothing of its place has keys', $found['props[2].motion.kind']);
        self::assertStringContainsString('two that never move', $found['cues[0].at']);
        self::assertStringContainsString('3 frames before the cue "Lands"', $found['props[1].place.position[0].keys[1]']);
    }

    public function test_pieces_handed_over_before_they_have_come_are_told(): void
    {
        $shot = static fn (bool $assemble): ShotSpec => ShotSpec::fromJson(Documents::json(static function (array $d) use ($assemble): array {
            $d['props'][0]['weights'] = [['id' => 'm', 'name' => 'Comes', 'sources' => [['source' => 'front', 'values' => new \stdClass]]]];
            $d['props'][0]['motion'] = [
                'kind' => 'drift',
                'release' => ['on' => 'frame', 'frame' => 12],
                'drift' => ['map' => 'm', 'moves' => [], 'assemble' => $assemble, 'handOver' => true],
            ];

            return $d;
        }));
        $asked = [];
        $said = static function (bool $assemble, ?float $full) use ($shot, &$asked): string {
            $coverage = static function (string $map, int $frame) use ($full, &$asked): ?Coverage {
                $asked = [$map, $frame];

                return $full === null ? null : new Coverage(0.0, $full, 0.0, 0.5, 1.0);
            };

            return implode(' ', array_column((new SiteCheck(self::maker()))->of($shot($assemble), null, $coverage), 'message'));
        };
        self::assertStringContainsString('handed over to physics at frame 12, where only 40 % of it has come', $said(true, 0.4));
        self::assertSame(['m', 12], $asked);
        self::assertStringNotContainsString('handed over', $said(true, 1.0));
        self::assertStringNotContainsString('handed over', $said(true, null), 'as long as it is not worked out nothing is said');
        self::assertStringNotContainsString('handed over', $said(false, 0.4), 'what goes may be handed over on its way');
    }

    public function test_a_broken_surface_that_passes_through_itself_is_told(): void
    {
        $box = static fn (float $x): array => array_map(
            static fn (array $p): array => [$p[0] + $x, $p[1] + 0.3 * $x, $p[2] + 0.2 * $x],
            [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [0, 0, 1], [1, 0, 1], [1, 1, 1], [0, 1, 1]],
        );
        $obj = implode('', array_map(static fn (array $p): string => 'v '.implode(' ', $p)."\n", [...$box(0.0), ...$box(0.5)]));
        foreach ([0, 8] as $from) {
            foreach ([[1, 4, 3, 2], [5, 6, 7, 8], [1, 2, 6, 5], [2, 3, 7, 6], [3, 4, 8, 7], [4, 1, 5, 8]] as $face) {
                $obj .= 'f '.implode(' ', array_map(static fn (int $v): int => $v + $from, $face))."\n";
            }
        }
        $folder = sys_get_temp_dir().'/yard-crossing-'.bin2hex(random_bytes(4));
        mkdir($folder);
        file_put_contents($folder.'/'.($hash = hash('sha256', $obj)), $obj);
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d) use ($hash): array {
            $d['props'][0]['break'] = ['pattern' => 'cells', 'values' => ['count' => 5]];
            $d['props'][0]['source'] = ['kind' => 'mesh', 'asset' => $hash, 'file' => 'two.obj', 'up' => 'y', 'unit' => 'm'];

            return $d;
        }));
        $maker = new PropMaker(new class($folder) implements AssetSource
        {
            public function __construct(private readonly string $folder)
            {
            }

            public function path(string $asset): string
            {
                return $this->folder.'/'.$asset;
            }
        });
        try {
            $said = (new SiteCheck($maker))->of($shot);
        } finally {
            exec('rm -r '.escapeshellarg($folder));
        }
        self::assertStringContainsString('passes through itself', implode(' ', array_column($said, 'message')));
        self::assertStringContainsString('rebuild', implode(' ', array_column($said, 'remedy')));
    }

    public function test_a_sound_shot_has_no_findings(): void
    {
        self::assertSame([], self::findings([]));
    }

    /** @return array<string, array{array<string, mixed>, string, string, string}> changes, level, path, words */
    public static function doubts(): array
    {
        return [
            'nothing free' => [['motion' => ['kind' => 'fixed']], 'doubtful', 'props', 'Nothing is free'],
            'released too late' => [
                ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 400]]],
                'doubtful',
                'props[0].motion.release',
                'after the last frame',
            ],
            'waits for a touch that cannot come' => [
                ['motion' => ['kind' => 'free', 'held' => 'still', 'release' => ['on' => 'touch']]],
                'doubtful',
                'props[0].motion.release.on',
                'nothing else moves',
            ],
            'below the ground' => [
                ['place' => ['position' => [0, -0.5, 0], 'turn' => [0, 0, 0], 'size' => 1]],
                'doubtful',
                'props[0].place.position',
                'below the ground',
            ],
            'in the wrong unit' => [['place' => ['position' => [0, 0.1, 0], 'turn' => [0, 0, 0], 'size' => 1000]], 'doubtful', 'props[0].source', 'm across'],
            'a shape that cannot be' => [
                ['source' => ['kind' => 'shape', 'shape' => 'ring', 'values' => ['tube' => 0.9]]],
                'wrong',
                'props[0].source',
                'thicker',
            ],
            'an open mesh' => [
                ['source' => ['kind' => 'mesh', 'asset' => str_repeat('a', 64), 'file' => 'open.obj', 'up' => 'y', 'unit' => 'm']],
                'wrong',
                'props[0].source',
                'surface is open',
            ],
        ];
    }

    /** @param  array<string, mixed>  $changes */
    #[DataProvider('doubts')]
    public function test_what_is_doubtful_is_said_with_its_place_and_remedy(array $changes, string $level, string $path, string $words): void
    {
        $match = array_filter(
            self::findings($changes),
            static fn (array $f): bool => $f['level'] === $level && $f['path'] === $path && str_contains($f['message'], $words),
        );
        self::assertNotSame([], $match, (string) json_encode(self::findings($changes)));
        self::assertNotSame('', array_values($match)[0]['remedy']);
    }

    public function test_without_ground_pieces_fall_for_ever_and_it_is_said(): void
    {
        self::assertStringContainsString('fall for ever', self::findings([], false)[0]['message']);
    }

    public function test_the_figures_of_a_break_add_up(): void
    {
        $shards = (new Cells(40, 6))->break(Solids::shape('box'), new SilentProgress);
        $f = BreakFigures::of($shards);
        self::assertSame([40, 40], [$f['pieces'], $f['watertight']]);
        self::assertEqualsWithDelta(1.0, $f['volume'], 1e-12);
        self::assertTrue($f['smallest'] <= $f['median'] && $f['median'] <= $f['largest']);
        self::assertEqualsWithDelta($f['largest'] / $f['median'], $f['largest_to_median'], 1e-12);
        // Each inner wall is counted from both sides.
        self::assertGreaterThan(2.0, $f['interior_area']);
        self::assertSame([], $f['slivers']);
        $needle = (new Cells(2, 1))->break(Solids::shape('box', ['width' => 40.0, 'height' => 0.05, 'depth' => 0.05]), new SilentProgress);
        self::assertSame([0, 1], BreakFigures::of($needle)['slivers']);
    }

    public function test_films_among_the_pieces_are_told_before_they_are_baked(): void
    {
        $sheet = static function (float $thickness): Shard {
            $box = Solids::shape('box');
            $mesh = new Mesh($box->x, array_map(static fn (float $y): float => $y * $thickness, $box->y), $box->z, $box->faces);

            return new Shard('s', $mesh, MassProperties::of($mesh));
        };
        self::assertEqualsWithDelta(1e-6, $sheet(1e-6)->thickness(), 1e-9);
        self::assertSame(1, BreakFigures::unusable([$sheet(0.5), $sheet(0.5), $sheet(1e-6)]));
        self::assertSame(0, BreakFigures::unusable([$sheet(0.01), $sheet(0.01)]), 'a pane of shards as thick as itself is none');
        $found = self::findings([], unusable: 2);
        self::assertSame(['A: 2 of its pieces are films, too thin to be moved well.'], array_column($found, 'message'));
        self::assertStringContainsString('seed', $found[0]['remedy']);
    }

    /**
     * @param  array<string, mixed>  $changes
     * @return list<array{level: string, path: string, prop: string, message: string, remedy: string}>
     */
    private static function findings(array $changes, bool $ground = true, int $unusable = 0): array
    {
        $prop = array_replace([
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]],
            'place' => ['position' => [0, 0.4, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05],
            'break' => ['pattern' => 'cells', 'values' => ['count' => 5]],
            'motion' => ['kind' => 'free', 'held' => 'whole', 'release' => ['on' => 'touch', 'reach' => null]],
        ], $changes);
        $shot = ShotSpec::fromJson((string) json_encode([
            'version' => 2, 'name' => 'T', 'frames' => ['first' => 0, 'last' => 48, 'rate' => 24],
            'world' => ['gravity' => [0, -9.80665, 0], 'ground' => ['on' => $ground, 'friction' => 0.6, 'bounce' => 0.05]], 'props' => [$prop],
        ]));

        return (new SiteCheck(self::maker()))->of($shot, static fn (): int => $unusable);
    }

    private static function maker(): PropMaker
    {
        return new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                file_put_contents($path = sys_get_temp_dir().'/open-site.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");

                return $path;
            }
        });
    }
}
