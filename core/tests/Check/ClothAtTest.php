<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\ClothAt;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Bake\Trials;

/** What cloth bears at a frame, of frames made by hand. */
final class ClothAtTest extends TestCase
{
    /** A ball a hundredth larger than made is drawn by a hundredth everywhere; the air in it has p·V as before (Boyle; ISO 2533 outside). */
    public function test_a_ball_grown_by_a_hundredth(): void
    {
        $cloth = self::at(['filled' => 'air', 'pressure' => 5000, 'limit' => 0.04], 1.01);
        $stretch = $cloth->stretch();
        self::assertEqualsWithDelta(0.01, $stretch['worst'], 1e-5);
        self::assertEqualsWithDelta(0.01, $stretch['mean'], 1e-5);
        self::assertEqualsWithDelta(0.25, min($stretch['shares']), 1e-3, 'of what it gives');
        $left = (101325.0 + 5000.0) / 1.01 ** 3 - 101325.0;
        $pressure = $cloth->pressure() ?? self::fail('it is puffed up');
        self::assertEqualsWithDelta($left, $pressure['most'], 0.2);
        self::assertEqualsWithDelta($left, $pressure['least'], 0.2);
        self::assertSame([1.0], array_values(array_unique($pressure['shares'])));
    }

    public function test_a_pressure_is_seen_where_its_map_has_it_and_inwards_too(): void
    {
        foreach ([8.0, -8.0] as $pressure) {
            $found = self::at(['pressure' => $pressure, 'pressureMap' => 'top'], 1.0)->pressure() ?? self::fail('it is puffed up');
            self::assertEqualsWithDelta([max(0.0, $pressure), min(0.0, $pressure)], [$found['most'], $found['least']], 0.01);
            self::assertGreaterThan(0.49, $found['at'][1], 'at its top');
            self::assertEqualsWithDelta([0.0, 1.0], [min($found['shares']), max($found['shares'])], 1e-3);
        }
        self::assertNull(self::at([], 1.0)->pressure(), 'nothing presses');
    }

    /** A ball cut in eight whose pieces are parted by a hand keeps nothing in; where they touch it does. */
    public function test_what_its_seam_lets_out_presses_no_more(): void
    {
        foreach ([[0.0, 20.0], [0.1, 0.0]] as [$apart, $left]) {
            $found = self::at(['filled' => 'volume', 'pressure' => 20, 'seams' => 'basted'], 1.0, ['pattern' => 'flakes', 'values' => ['by' => 'number', 'count' => 8, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0]], $apart)->pressure();
            self::assertEqualsWithDelta($left, $found['most'] ?? null, 0.5, "$apart m");
        }
    }

    public function test_a_frame_of_another_prop_is_refused(): void
    {
        $this->expectException(Problem::class);
        $maps = self::maps([], null);
        ClothAt::of($maps, 'ball', 0, [StreamKind::Points->value => pack('g*', 0, 0, 0)]);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>|null  $break
     * @param  float  $apart  m by which each piece is off its place, outwards
     */
    private static function at(array $values, float $size, ?array $break = null, float $apart = 0.0): ClothAt
    {
        $maps = self::maps($values, $break);
        $points = [];
        foreach ($maps->shards('ball') as $shard) {
            $m = $shard->mesh;
            $middle = [array_sum($m->x) / count($m->x), array_sum($m->y) / count($m->x), array_sum($m->z) / count($m->x)];
            foreach ($m->x as $v => $x) {
                array_push($points, $size * $x + $apart * 2.0 * $middle[0], $size * $m->y[$v] + $apart * 2.0 * $middle[1], $size * $m->z[$v] + $apart * 2.0 * $middle[2]);
            }
        }

        return ClothAt::of($maps, 'ball', 0, [StreamKind::Points->value => pack('g*', ...$points)]);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>|null  $break
     */
    private static function maps(array $values, ?array $break): MapRun
    {
        $shot = ShotSpec::fromJson((string) json_encode(Trials::document([Trials::box('ball', [0, 0, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.5, 'detail' => 10]], 'break' => $break,
            'weights' => [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [0, 0.5, 0], 'direction' => [0, -1, 0], 'full' => 0, 'none' => 0.5], ['on' => 'own'])]]],
            'motion' => ['kind' => 'cloth', 'values' => $values + ['fabric' => 'own']],
        ])]), JSON_PRESERVE_ZERO_FRACTION));

        return new MapRun($shot, Trials::made($shot)[1]);
    }
}
