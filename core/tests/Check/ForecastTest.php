<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Forecast;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\AirPlane;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\SceneObstacles;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Bake\Trials;

/** How a piece would fly, against throws by form and against what a bake makes of it. */
final class ForecastTest extends TestCase
{
    /** Thrown with 3 m/s sideways and 4 m/s up from 2 m: by the parabola. */
    public function test_a_throw_is_a_parabola(): void
    {
        $told = self::told(['velocity' => [3, 4, 0]], []);
        // Its middle falls from 2 m to its radius.
        $t = (4.0 + sqrt(16.0 + 2 * 9.80665 * (2.0 - 0.0))) / 9.80665;
        $end = $told->path[count($told->path) - 1];
        self::assertEqualsWithDelta(3.0 * $t, $end[0], 0.02);
        self::assertEqualsWithDelta(0.1, $end[1], 1e-3);
        self::assertStringContainsString('up to 81.6 cm higher', $told->words);
        self::assertEqualsWithDelta([0.125 * 3, 2.1 + 4 / 24 * 3 - 0.5 * 9.80665 * 0.125 ** 2], [$told->path[3][0], $told->path[3][1]], 1e-9);
    }

    /** A light ball in wind, eddies and drag flies where a bake has it fly, within a hundredth of the way. */
    public function test_it_flies_as_in_a_bake(): void
    {
        $forces = [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => (object) ['speed' => 9]], ['id' => 'drag', 'name' => 'Drag', 'kind' => 'drag', 'values' => (object) []]];
        $document = self::document(['velocity' => [0, 5, 2], 'drag' => 0.5], $forces, 20);
        $frames = iterator_to_array(Trials::ready($document)->frames(), false);
        $told = self::told(['velocity' => [0, 5, 2], 'drag' => 0.5], $forces);
        $baked = array_values(unpack('g3', $frames[12]->stream(0, StreamKind::Poses)) ?: []);
        $way = sqrt(($baked[0]) ** 2 + ($baked[1] - 2.1) ** 2 + $baked[2] ** 2);
        self::assertGreaterThan(0.4, $way);
        self::assertEqualsWithDelta($baked, $told->path[12], 0.02 * $way);
    }

    /** Lines that follow a swirl go round it: every point is as far from its axis as the first, and in a wind they are straight. */
    public function test_lines_follow_the_air(): void
    {
        $swirl = self::shot(self::document([], [['id' => 'swirl', 'name' => 'Swirl', 'kind' => 'swirl', 'values' => (object) ['inflow' => 0, 'updraft' => 0]]], 4));
        $lines = AirPlane::lines($swirl, 0.0, 0.5, [-2.0, 2.0, -2.0, 2.0]);
        self::assertGreaterThan(20, count($lines));
        foreach ($lines as $line) {
            $far = array_map(static fn (array $p): float => sqrt($p[0] ** 2 + $p[2] ** 2), array_chunk($line, 4));
            self::assertEqualsWithDelta(min($far), max($far), 0.01 * max($far) + 2e-3);
        }
        $wind = self::shot(self::document([], [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => (object) ['direction' => [0, 0, 1], 'speed' => 6]]], 4));
        foreach (AirPlane::lines($wind, 0.0, 0.5, [-2.0, 2.0, -2.0, 2.0]) as $line) {
            $points = array_chunk($line, 4);
            self::assertCount(81, $points);
            self::assertSame([$points[0][0], 0.5], [$points[80][0], $points[80][1]]);
            self::assertGreaterThan($points[0][2], $points[80][2]);
            self::assertSame(6.0, $points[40][3]);
        }
        self::assertSame([], AirPlane::lines(self::shot(self::document([], [], 4)), 0.0, 0.5, [-1.0, 1.0, -1.0, 1.0]));
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  list<array<string, mixed>>  $forces
     */
    private static function told(array $values, array $forces): Forecast
    {
        $shot = self::shot(self::document($values, $forces, 20));
        $shards = self::maker()->shards($shot->props[0], new SilentProgress);

        return Forecast::of($shot, $shot->props[0], 0, Solid::free($shards)[0], $shards[0], 0.0, static fn (): array => [], SceneObstacles::still($shot, new MadeParts(self::maker(), self::assets(), ['ball' => $shards])));
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  list<array<string, mixed>>  $forces
     * @return array<string, mixed>
     */
    private static function document(array $values, array $forces, int $last): array
    {
        $ball = Trials::box('ball', [0, 2, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.1, 'detail' => 8]],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 60, 'friction' => 0.6, 'bounce' => 0.0],
            'motion' => ['kind' => 'free', 'values' => (object) $values, 'release' => ['on' => 'frame', 'frame' => 0]],
        ]);

        return Trials::document([$ball], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]], 'forces' => $forces]);
    }

    /** @param  array<string, mixed>  $document */
    private static function shot(array $document): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION));
    }

    private static function maker(): PropMaker
    {
        return new PropMaker(self::assets());
    }

    private static function assets(): AssetSource
    {
        return new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
    }
}
