<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\Body;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\MoverCatalogue;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** Two movers that push each other: a rigid body, and a mass on a spring to it that stands in the tests alone. */
final class ExchangeTest extends TestCase
{
    private const STIFFNESS = 60000.0;

    private const APART = 2.0;

    /** Newton's third law: what one gets the other loses. */
    public function test_momentum_stays_whatever_is_handed_over(): void
    {
        $baker = self::ready(32)->baker();
        $baker->firstFrame();
        $moved = 0.0;
        for ($k = 0; $k < 48; $k++) {
            $baker->nextFrame();
            [$one, $other] = self::bodies($baker);
            $sum = $one->velocity->times($one->mass)->plus($other->velocity->times($other->mass));
            $moved = max($moved, $one->mass * $one->velocity->length());
            self::assertLessThan(1e-9 * max(1.0, $moved), $sum->length(), "frame $k");
        }
        self::assertGreaterThan(100.0, $moved, 'they do move');
    }

    /** Two masses on a spring swing at √(k (1/m + 1/M)), and keep ½ k x² (any textbook of mechanics). */
    public function test_they_swing_as_the_spring_says_and_the_finer_they_exchange_the_nearer_the_energy_stays(): void
    {
        $off = [];
        foreach ([64, 16, 4] as $exchanges) {
            $baker = self::ready($exchanges)->baker();
            $baker->firstFrame();
            $off[$exchanges] = 0.0;
            for ($k = 1; $k <= 48; $k++) {
                $baker->nextFrame();
                [$one, $other] = self::bodies($baker);
                $x = $one->at->minus($other->at);
                if ($exchanges === 64) {
                    $omega = sqrt(self::STIFFNESS * (1.0 / $one->mass + 1.0 / $other->mass));
                    self::assertEqualsWithDelta(self::APART * cos($omega * $k / 24.0), $x->x, 0.02 * self::APART, "frame $k");
                }
                $energy = 0.5 * self::STIFFNESS * $x->dot($x);
                foreach ([$one, $other] as $body) {
                    $energy += 0.5 * $body->mass * $body->velocity->dot($body->velocity);
                }
                $off[$exchanges] = max($off[$exchanges], abs($energy / (0.5 * self::STIFFNESS * self::APART ** 2) - 1.0));
            }
        }
        self::assertLessThan(0.02, $off[64]);
        self::assertGreaterThan(2.0 * $off[64], $off[16]);
        self::assertGreaterThan(2.0 * $off[16], $off[4]);
    }

    public function test_what_is_exchanged_is_taken_up_again(): void
    {
        $ready = self::ready(8);
        $bytes = static fn (iterable $frames): array => array_map(
            static fn (Frame $f): string => FrameRecord::encode($f->number, $f->streams),
            iterator_to_array($frames),
        );
        self::assertSame($bytes($ready->frames()), $bytes($ready->frames(static fn (): bool => true)));
    }

    public function test_what_is_held_feels_no_push_and_has_no_end_of_mass(): void
    {
        $shot = self::shot(8, ['on' => 'frame', 'frame' => 40]);
        $baker = self::of($shot)->baker();
        $baker->firstFrame();
        $before = $baker->body(0, 0);
        self::assertNull($before, 'what follows its prop is no body of a mover');
        for ($k = 0; $k < 10; $k++) {
            $frame = $baker->nextFrame();
        }
        self::assertEqualsWithDelta([0.0, 5.3, 0.0], array_values(unpack('g3', $frame->stream(0, StreamKind::Poses)) ?: []), 1e-6, 'it has not moved');
    }

    /** @return array{Body, Body} the rigid body, and the mass */
    private static function bodies(Baker $baker): array
    {
        $one = $baker->body(0, 0);
        $other = $baker->body(1, 0);
        self::assertNotNull($one);
        self::assertNotNull($other);

        return [$one, $other];
    }

    private static function ready(int $exchanges): Bakeable
    {
        return self::of(self::shot($exchanges, ['on' => 'frame', 'frame' => 0]));
    }

    private static function of(ShotSpec $shot): Bakeable
    {
        $maker = Maps::maker();

        return Bakeable::of(
            $shot,
            ['block' => $maker->shards($shot->props[0], new SilentProgress), 'bob' => $maker->shards($shot->props[1], new SilentProgress)],
            null,
        );
    }

    /** @param  array<string, mixed>  $release  of the rigid body */
    private static function shot(int $exchanges, array $release): ShotSpec
    {
        return ShotSpec::fromJson(Documents::json(static function (array $d) use ($exchanges, $release): array {
            $d['version'] = ShotSpec::VERSION;
            $d['frames']['last'] = 48;
            $d['world'] = ['gravity' => [0, 0, 0], 'ground' => ['kind' => 'none']] + $d['world'];
            $box = static fn (float $side): array => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => $side, 'height' => $side, 'depth' => $side]];
            $d['props'][0] = [
                'source' => $box(0.6),
                'motion' => ['kind' => 'free', 'release' => $release],
                'place' => ['position' => [0, 5, 0], 'turn' => [0, 0, 0], 'size' => 1],
            ] + $d['props'][0];
            $d['props'][1] = [
                'id' => 'bob',
                'name' => 'Bob',
                'source' => $box(0.4),
                'motion' => [
                    'kind' => 'spring',
                    'values' => ['stiffness' => self::STIFFNESS, 'exchanges' => $exchanges],
                    'release' => ['on' => 'frame', 'frame' => 0],
                ],
                'place' => ['position' => [-self::APART, 5.1, 0], 'turn' => [0, 0, 0], 'size' => 1],
            ] + $d['props'][0];

            return $d;
        }), (new MoverCatalogue)->with('spring', SpringMover::class));
    }
}
