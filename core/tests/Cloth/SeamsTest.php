<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cloth;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Bake\Trials;

/** Pieces of cloth that seams hold together until they tear. */
final class SeamsTest extends TestCase
{
    private const G = 9.80665;

    /** What hangs below a seam across a sheet is ρ·g·A: the seam tears as soon as its strength, keyed down, falls below that, on any mesh. */
    public function test_a_seam_tears_where_what_it_bears_is_its_strength(): void
    {
        $load = 0.3 * self::G * 0.5;
        foreach ([8, 20] as $segments) {
            // From 3 N/m down to none over 60 frames, once it hangs still.
            $frames = self::halves($segments, ['tears' => 3.0, 'seamAmount' => Trials::keys([30 => 1, 90 => 0])], 70);
            $torn = array_values(array_filter($frames, static fn (Frame $f): bool => $f->figures['cracks'] !== []));
            self::assertCount(1, $torn, "$segments: it tears, once");
            self::assertSame([[0, 1]], $torn[0]->figures['cracks']['sheet'] ?? null, 'the two pieces, by number');
            self::assertEqualsWithDelta($load, 3.0 * (90 - $torn[0]->number) / 60.0, 0.05 * $load + 3.0 / 60.0, "$segments to the side");
            $fallen = ($frames[70]->number - $torn[0]->number) / 24;
            $before = min(array_column(self::points($frames[30]), 1));
            self::assertEqualsWithDelta($before - 0.5 * self::G * $fallen ** 2, min(array_column(self::points($frames[70]), 1)), 0.5 * self::G * ($fallen ** 2 - ($fallen - 1 / 24) ** 2), 'and the lower falls');
            self::assertGreaterThan(5.49, min(array_column(array_filter(self::points($frames[70]), static fn (array $p): bool => $p[1] > 5.2), 1)), 'the upper hangs on');
        }
    }

    /** Sewn together, it stretches as it did before it was cut: by ρgL/2k of itself on the mean. */
    public function test_sewn_it_is_as_it_was(): void
    {
        $long = 0.5 * 0.3 * self::G / 2000.0;
        $frames = self::baked(self::flakes(['seams' => 'stitched', 'damping' => 0.02]), 60);
        $ys = array_column(self::points($frames[60]), 1);
        self::assertEqualsWithDelta($long, max($ys) - min($ys) - 1.0, 0.1 * $long);
        self::assertSame([], array_merge(...array_map(static fn (Frame $f): array => $f->figures['cracks'], $frames)));
    }

    public function test_where_a_map_says_nothing_holds_it_comes_apart(): void
    {
        $sheet = self::flakes(['seams' => 'stitched', 'seamMap' => 'right']);
        $sheet['weights'][] = ['id' => 'right', 'name' => 'Right', 'sources' => [Trials::source('front', ['point' => [0.1, 0, 0], 'direction' => [-1, 0, 0], 'full' => 0, 'none' => 0.0001], ['on' => 'own'])]];
        $frames = self::baked($sheet, 10);
        $cracks = $frames[1]->figures['cracks']['sheet'] ?? [];
        self::assertNotSame([], $cracks, 'at once, on the left');
        $fell = $stayed = [];
        foreach (self::points($frames[0]) as $k => [$x, $y]) {
            $by = $y - self::points($frames[10])[$k][1];
            // Beyond the pieces at the edge of the map, and below those that are held.
            if ($y < 5.7 && $x < -0.25) {
                $fell[] = $by;
            } elseif ($x > 0.35) {
                $stayed[] = $by;
            }
        }
        self::assertGreaterThan(0.8 * 0.5 * self::G * (10 / 24) ** 2, min($fell));
        self::assertLessThan(0.05, max($stayed));
    }

    public function test_a_filled_ball_keeps_its_air_until_a_seam_tears(): void
    {
        $ball = Trials::box('sheet', [0, 1, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.25, 'detail' => 8]],
            'break' => ['pattern' => 'flakes', 'values' => ['by' => 'faces', 'faces' => 80, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0.2]],
            'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => ['fabric' => 'muslin', 'filled' => 'air', 'pressure' => 100, 'seams' => 'glued', 'seamAmount' => Trials::keys([11 => 1, 12 => 0])]],
        ]);
        $frames = self::baked($ball, 16, [0, 0, 0]);
        $sphere = 4.0 / 3.0 * M_PI * 0.25 ** 3;
        // Flat faces lie within the ball; its skin gives a little.
        self::assertEqualsWithDelta($sphere, $frames[10]->figures['volume'], 0.04 * $sphere);
        self::assertSame(0.0, $frames[12]->figures['volume'], 'nothing is kept any more');
        self::assertLessThan(2.0 * $frames[12]->figures['energy'] + 1e-6, $frames[16]->figures['energy'], 'what was in it pushes no more');
    }

    public function test_taken_up_again_while_it_tears_it_is_the_same_to_the_byte(): void
    {
        $sheet = self::flakes(['seams' => 'own', 'tears' => 6, 'seamUneven' => 0.5, 'seamAmount' => Trials::keys([2 => 1, 12 => 0.1])]);
        $ready = Trials::ready(self::document($sheet, 12));
        $whole = $ready->baker();
        $whole->firstFrame();
        $state = '';
        $torn = [];
        for ($f = 1; $f <= 12; $f++) {
            $frame = $whole->nextFrame();
            $torn = [...$torn, ...$frame->figures['cracks'] !== [] ? [$f] : []];
            $state = $f === 9 ? $whole->pack() : $state;
        }
        self::assertLessThan(9, min($torn));
        self::assertGreaterThan(9, max($torn));
        $again = $ready->baker($state);
        for ($f = 10; $f <= 12; $f++) {
            $taken = $again->nextFrame();
        }
        self::assertSame($frame->streams, $taken->streams);
    }

    /** An open sheet comes apart in flakes of no thickness, of whole faces or cut through them, which together are all of it; nothing else can be cut from it. */
    public function test_an_open_sheet_is_parted_without_loss(): void
    {
        foreach ([['by' => 'faces', 'faces' => 20], ['by' => 'number', 'count' => 15], ['by' => 'number', 'count' => 15, 'ragged' => 0]] as $values) {
            $sheet = self::flakes([]);
            $sheet['break']['values'] = $values + $sheet['break']['values'];
            $shards = Trials::made(Trials::ready(self::document($sheet, 2))->shot)[0]['sheet'];
            self::assertGreaterThan(10, count($shards));
            self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (Shard $s): float => array_sum(FaceNormals::areas($s->mesh)), $shards)), 1e-9);
        }
        $sheet['break']['values']['thickness'] = 0.01;
        $this->expectExceptionObject(new Problem('mesh', 'Sheet cannot be broken. The surface is open: 48 edges have a face on one side only.', '', ''));
        Trials::made(Trials::ready(self::document($sheet, 2))->shot);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed> a square metre hung by its upper edge, in flakes
     */
    private static function flakes(array $values): array
    {
        return Trials::box('sheet', [0, 5, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 1, 'height' => 1, 'thickness' => 0, 'segments' => 12]],
            'break' => ['pattern' => 'flakes', 'values' => ['by' => 'faces', 'faces' => 20, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0.3]],
            'weights' => [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [0, 0.999, 0], 'direction' => [0, -1, 0], 'full' => 0, 'none' => 0.001], ['on' => 'own'])]]],
            'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => 0], 'values' => $values + ['hold' => 'top', 'fabric' => 'own', 'weight' => 0.3, 'stretch' => 2000, 'bend' => 1e-5, 'itself' => 'no']],
        ]);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<Frame> of the same sheet, cut straight across its middle and sewn
     */
    private static function halves(int $segments, array $values, int $last): array
    {
        $sheet = self::flakes($values + ['seams' => 'own', 'seamUneven' => 0, 'damping' => 0.02]);
        $sheet['source']['values']['segments'] = $segments;
        $shot = ShotSpec::fromJson((string) json_encode(self::document($sheet, $last), JSON_PRESERVE_ZERO_FRACTION));
        $none = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
        $maker = new PropMaker($none);
        $mesh = $maker->mesh($shot->props[0]);
        $halves = [[], []];
        foreach (array_chunk($mesh->faces, 3) as $f => $corners) {
            $halves[array_sum(array_map(static fn (int $p): float => $mesh->y[$p], $corners)) / 3.0 < 0.5 ? 0 : 1][] = $f;
        }
        $shards = ['sheet' => array_map(
            static fn (array $faces, int $k): Shard => new Shard("half-$k", $mesh->only($faces), new MassProperties(0.0, new Vec3(0.0, 0.25 + 0.5 * $k, 0.0), [0.0, 0.0, 0.0, 0.0, 0.0, 0.0])), $halves, [0, 1],
        )];

        return iterator_to_array(Bakeable::of($shot, $shards, new MadeParts($maker, $none, $shards))->frames(), false);
    }

    /**
     * @param  array<string, mixed>  $sheet
     * @param  list<float>  $gravity
     * @return array<string, mixed>
     */
    private static function document(array $sheet, int $last, array $gravity = [0, -self::G, 0]): array
    {
        $d = Trials::document([$sheet], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]]]);
        $d['world']['gravity'] = $gravity;

        return $d;
    }

    /**
     * @param  array<string, mixed>  $sheet
     * @param  list<float>  $gravity
     * @return list<Frame>
     */
    private static function baked(array $sheet, int $last, array $gravity = [0, -self::G, 0]): array
    {
        return iterator_to_array(Trials::ready(self::document($sheet, $last, $gravity))->frames(), false);
    }

    /** @return list<array{float, float, float}> */
    private static function points(Frame $frame): array
    {
        return array_chunk(array_values(unpack('g*', $frame->stream(0, StreamKind::Points)) ?: []), 3);
    }
}
