<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shot\ShotSpec;

/** Documents of before move as they did: position evenly from key to key, the turn as a whole the shortest way. */
final class UpgradeTest extends TestCase
{
    public function test_every_shot_of_version_2_keeps_its_poses(): void
    {
        $moving = 0;
        $files = glob(__DIR__.'/version-2/*.json') ?: [];
        foreach ($files as $file) {
            $document = (string) file_get_contents($file);
            $shot = ShotSpec::fromJson($document);
            $moving += $this->compare(json_decode($document, true), $shot);
        }
        self::assertCount(6, $files);
        self::assertSame(2, $moving);
    }

    public function test_turns_about_several_axes_and_the_long_way_round_are_kept_too(): void
    {
        $random = new SeededRandom(3);
        for ($round = 0; $round < 40; $round++) {
            $keys = [];
            for ($k = 0, $frame = 0; $k < 5; $k++) {
                $frame += 1 + (int) (9 * $random->share());
                $turn = [0, 0, 0];
                foreach ($round % 2 === 0 ? [0, 1, 2] : [$round % 3] as $axis) {
                    $turn[$axis] = 900 * $random->share() - 450;
                }
                $keys[] = ['frame' => $frame, 'position' => [$random->share(), $random->share(), $random->share()], 'turn' => $turn];
            }
            $document = json_decode((string) file_get_contents(__DIR__.'/version-2/terracotta-jar.json'), true);
            $document['props'][0]['motion'] = ['kind' => 'keyed', 'keys' => $keys];
            self::assertSame(1, $this->compare($document, ShotSpec::fromJson((string) json_encode($document))));
        }
    }

    public function test_a_turn_that_is_no_number_is_not_lost(): void
    {
        $document = json_decode((string) file_get_contents(__DIR__.'/version-2/terracotta-jar.json'), true);
        $key = static fn (int $frame, mixed $turn): array => ['frame' => $frame, 'position' => [0, 0, 0], 'turn' => [0, $turn, 0]];
        foreach ([[400, 'far'], ['far', 400]] as [$one, $other]) {
            $document['props'][0]['motion'] = ['kind' => 'keyed', 'keys' => [$key(0, $one), $key(5, $other)]];
            try {
                ShotSpec::fromJson((string) json_encode($document));
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertStringContainsString('turn', $e->path);
            }
        }
    }

    public function test_what_is_not_keyed_means_what_it_did(): void
    {
        $document = json_decode((string) file_get_contents(__DIR__.'/version-2/glass-pane.json'), true);
        $document['frames']['rate'] = 29.97;
        $shot = ShotSpec::fromJson((string) json_encode($document));
        self::assertSame(
            [[30000, 1001], true, 0.6, 0.05],
            [$shot->rate->toArray(), $shot->ground?->isFlat(), $shot->groundFriction->at(0), $shot->groundBounce->at(0)],
        );
        self::assertSame(
            [6.0, null, 0.45],
            [$shot->props[1]->motion->release->when?->at($shot->moments), $shot->props[0]->motion->release->when, $shot->props[0]->motion->release->reach],
        );
        $settings = $shot->props[1]->motion->settings;
        self::assertInstanceOf(RigidSettings::class, $settings);
        self::assertSame([-5.2, -1.4, 16.0], $settings->push(6)->toArray());
    }

    /**
     * @param  array<string, mixed>  $document  of version 2
     * @return int props with keys
     */
    private function compare(array $document, ShotSpec $shot): int
    {
        $moving = 0;
        foreach ($document['props'] as $prop) {
            $now = $shot->prop($prop['id']);
            $keys = $prop['motion']['kind'] === 'fixed' ? [] : $prop['motion']['keys'] ?? [];
            $moving += $keys === [] ? 0 : 1;
            $keys = $keys === [] ? [['frame' => 0] + $prop['place']] : $keys;
            self::assertNotNull($now);
            for ($frame = -2.0; $frame <= 60.0; $frame += 0.125) {
                [$position, $turn] = self::then($keys, $frame);
                $at = $now->place->at($frame);
                self::assertEqualsWithDelta(0.0, $at->position->minus($position)->length(), 1e-9, $prop['id']." at $frame");
                self::assertEqualsWithDelta(0.0, $at->turn->rotationTo($turn)->length(), 1e-7, $prop['id']." at $frame");
                foreach ([[1, 0, 0], [0, 1, 0]] as $axis) {
                    self::assertEqualsWithDelta(0.0, $at->turn->turn(new Vec3(...$axis))->minus($turn->turn(new Vec3(...$axis)))->length(), 1e-9);
                }
            }
        }

        return $moving;
    }

    /**
     * @param  non-empty-list<array<string, mixed>>  $keys
     * @return array{Vec3, Quaternion}
     */
    private static function then(array $keys, float $frame): array
    {
        $turn = static fn (array $key): Quaternion => Quaternion::fromEuler(Vec3::of($key['turn'])->times(M_PI / 180));
        $last = $keys[count($keys) - 1];
        if ($frame <= $keys[0]['frame'] || $frame >= $last['frame']) {
            $key = $frame <= $keys[0]['frame'] ? $keys[0] : $last;

            return [Vec3::of($key['position']), $turn($key)];
        }
        $k = 1;
        while ($frame > $keys[$k]['frame']) {
            $k++;
        }
        $share = ($frame - $keys[$k - 1]['frame']) / ($keys[$k]['frame'] - $keys[$k - 1]['frame']);
        $a = Vec3::of($keys[$k - 1]['position']);

        return [$a->plus(Vec3::of($keys[$k]['position'])->minus($a)->times($share)), $turn($keys[$k - 1])->towards($turn($keys[$k]), $share)];
    }
}
