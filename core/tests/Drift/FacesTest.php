<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Drift;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Cues;

/** Faces that fly one by one, and what stretches them. */
final class FacesTest extends TestCase
{
    private const OFFSET = ['move' => 'offset', 'values' => ['by' => [1, 2, -3], 'random' => 0.8, 'strewn' => 0.4, 'seed' => 3]];

    private const TURN = ['move' => 'turn', 'values' => ['axis' => [0, 1, 0], 'angle' => 70, 'random' => 0.5, 'tumble' => 90, 'seed' => 2]];

    public function test_faces_that_do_not_stretch_keep_their_form(): void
    {
        [$corners, $weights] = self::faces();
        $out = $this->fly(['stretch' => 0, 'moves' => [self::OFFSET, self::TURN]], $corners, $weights);
        foreach (self::sides($corners) as $k => $length) {
            self::assertEqualsWithDelta($length, self::sides(self::unzipped($out))[$k], 1e-12);
        }
        self::assertNotEqualsWithDelta($corners[0], self::unzipped($out)[0], 0.05);
    }

    public function test_stretched_in_full_each_corner_goes_by_its_own_weight(): void
    {
        [$corners, $weights] = self::faces();
        $out = self::unzipped($this->fly(
            ['stretch' => 1, 'moves' => [['move' => 'offset', 'values' => ['by' => [1, 2, -3], 'random' => 0, 'strewn' => 0]]]],
            $corners,
            $weights,
        ));
        foreach ($weights as $k => $w) {
            self::assertEqualsWithDelta(
                [$corners[0][$k] + $w, $corners[1][$k] + 2 * $w, $corners[2][$k] - 3 * $w],
                [$out[0][$k], $out[1][$k], $out[2][$k]],
                1e-12,
            );
        }
    }

    public function test_half_stretched_it_is_half_way_between_both(): void
    {
        [$corners, $weights] = self::faces();
        $with = fn (float $stretch): array => $this->fly(['stretch' => $stretch, 'moves' => [self::OFFSET, self::TURN]], $corners, $weights);
        [$rigid, $own, $half] = [$with(0), $with(1), $with(0.5)];
        foreach ($half as $k => $v) {
            self::assertEqualsWithDelta(0.5 * ($rigid[$k] + $own[$k]), $v, 1e-12);
        }
    }

    public function test_corners_of_a_face_share_their_chance_and_their_turn(): void
    {
        [$corners] = self::faces();
        // One weight for all: however random and staggered, a face then moves as it is.
        $even = array_fill(0, count($corners[0]), 0.6);
        foreach (['random', 'near', 'small', 'large'] as $order) {
            $out = self::unzipped($this->fly(['stretch' => 1, 'order' => $order, 'stagger' => 1, 'moves' => [self::OFFSET]], $corners, $even));
            foreach (self::sides($corners) as $k => $length) {
                self::assertEqualsWithDelta($length, self::sides($out)[$k], 1e-12);
            }
            $ways = [];
            for ($k = 0; $k < count($even); $k += 3) {
                $ways[] = round($out[0][$k] - $corners[0][$k], 6);
            }
            self::assertGreaterThan(10, count(array_unique($ways)), 'but not all faces alike');
        }
    }

    public function test_what_is_assembled_is_exactly_the_prop(): void
    {
        [$corners, $weights] = self::faces();
        $place = new Placement(new Vec3(1, 2, 3), \YardBreak\Core\Geometry\Quaternion::aboutAxis(new Vec3(0, 1, 0), 0.7), 1.0);
        foreach ([0.0, 0.5, 1.0] as $stretch) {
            $drift = Drift::of(
                [
                    'map' => 'm',
                    'by' => 'faces',
                    'stretch' => $stretch,
                    'assemble' => true,
                    'ease' => 'overshoot',
                    'order' => 'random',
                    'stagger' => 2,
                    'moves' => [self::OFFSET, self::TURN, ['move' => 'size', 'values' => ['to' => 0]]],
                ],
                new Cues,
            );
            $out = $drift->corners(0.0, $corners, array_fill(0, count($weights), 1.0), static fn (): array => [0.0, 0.0, 0.0], $place);
            foreach (array_keys($weights) as $k) {
                self::assertSame($place->point(new Vec3($corners[0][$k], $corners[1][$k], $corners[2][$k]))->toArray(), array_slice($out, 3 * $k, 3));
            }
        }
    }

    public function test_faces_are_not_handed_over_to_physics(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('Faces that fly one by one cannot be handed over to physics.');
        Drift::of(['map' => 'm', 'by' => 'faces', 'handOver' => true, 'moves' => []], new Cues);
    }

    /**
     * @param  array<string, mixed>  $d
     * @param  array{list<float>, list<float>, list<float>}  $corners
     * @param  list<float>  $weights
     * @return list<float>
     */
    private function fly(array $d, array $corners, array $weights): array
    {
        return Drift::of($d + ['map' => 'm', 'by' => 'faces', 'ease' => 'linear'], new Cues)->corners(
            0.0,
            $corners,
            $weights,
            static fn (): array => [0.0, 0.0, 0.0],
            Placement::identity(),
        );
    }

    /** @return array{array{list<float>, list<float>, list<float>}, list<float>} forty faces anywhere, with a weight for each corner */
    private static function faces(): array
    {
        $random = new SeededRandom(11);
        $some = static fn (): array => array_map(static fn (): float => $random->between(-1.0, 1.0), range(1, 120));

        return [[$some(), $some(), $some()], array_map(static fn (): float => $random->between(0.1, 0.9), range(1, 120))];
    }

    /**
     * @param  array{list<float>, list<float>, list<float>}  $corners
     * @return list<float> lengths of the sides of all faces
     */
    private static function sides(array $corners): array
    {
        $out = [];
        foreach (array_keys($corners[0]) as $k) {
            $n = $k % 3 === 2 ? $k - 2 : $k + 1;
            $out[] = sqrt(($corners[0][$k] - $corners[0][$n]) ** 2 + ($corners[1][$k] - $corners[1][$n]) ** 2 + ($corners[2][$k] - $corners[2][$n]) ** 2);
        }

        return $out;
    }

    /**
     * @param  list<float>  $points
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function unzipped(array $points): array
    {
        $out = [[], [], []];
        foreach ($points as $k => $v) {
            $out[$k % 3][] = $v;
        }

        return $out;
    }
}
