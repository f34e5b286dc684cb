<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\ShotSpec;

/** What keys drive must hit as fast as it looks. Formulas of any textbook on mechanics, worked out here. */
final class KeyedMotionTest extends TestCase
{
    /** @return array<string, array{float, float}> speed of the striker in m/s, and bounce */
    public static function strikers(): array
    {
        return ['slow' => [2.4, 0.0], 'bouncing' => [4.8, 0.5], 'fast and bouncing' => [14.4, 0.8], 'slow and bouncing' => [1.2, 1.0]];
    }

    /** A body so heavy that it does not mind the other gives it (1 + e) times its own speed. */
    #[DataProvider('strikers')]
    public function test_a_keyed_striker_gives_a_free_ball_its_speed(float $speed, float $bounce): void
    {
        $frames = self::bake([
            self::prop(
                'striker',
                ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2],
                [self::keys([0, -1.0], [48, -1.0 + 2.0 * $speed]), 0, 0],
                'keyed',
                $bounce,
            ),
            self::prop('ball', ['radius' => 0.1], [0, 0, 0], 'free', $bounce),
        ], (int) ceil(24 * 0.8 / $speed) + 12);
        $x = array_map(static fn (Frame $f): float => self::at($f, 1)[0], $frames);
        $last = count($x) - 1;
        self::assertEqualsWithDelta((1 + $bounce) * $speed, 24 * ($x[$last] - $x[$last - 1]), 0.02 * (1 + $bounce) * $speed);
    }

    /** A bar that turns strikes with the speed of its end: ω·r. */
    public function test_a_keyed_bar_strikes_as_fast_as_it_turns(): void
    {
        // A quarter turn in a quarter of a second: its face comes at r = 0.8 m with 2π·0.8 m/s, and stops when it stands square.
        $frames = self::bake([
            self::prop('bar', ['width' => 2.0, 'height' => 0.1, 'depth' => 0.1], [0, 0, 0], 'keyed', 0.0, turn: [0, self::keys([0, 0], [6, 90]), 0]),
            self::prop('ball', ['radius' => 0.05], [0, 0.0, -0.8], 'free', 0.0),
        ], 14, friction: 0.0);
        $at = array_map(static fn (Frame $f): array => self::at($f, 1), $frames);
        $v = static fn (int $k): float => 24 * hypot($at[$k][0] - $at[$k - 1][0], $at[$k][2] - $at[$k - 1][2]);
        // It is met 7° before that, and pushed on for those, which adds less than a per cent.
        self::assertEqualsWithDelta(2 * M_PI * 0.8, $v(12), 0.03 * 2 * M_PI * 0.8);
    }

    /** A ball that grows pushes what touches it as fast as its surface comes out. */
    public function test_what_grows_pushes_as_fast_as_it_grows(): void
    {
        // From 0.1 to 0.5 m in a second and a half: its surface comes at 0.4/1.5 m/s and takes the small ball along.
        $frames = self::bake([
            self::prop('gourd', ['radius' => 0.5], [0, 0, 0], 'keyed', 0.0, size: self::keys([0, 0.2], [36, 1.0])),
            self::prop('ball', ['radius' => 0.05], [0.3, 0, 0], 'free', 0.0),
        ], 40);
        $x = array_map(static fn (Frame $f): float => self::at($f, 1)[0], $frames);
        self::assertEqualsWithDelta(0.4 / 1.5, 24 * ($x[34] - $x[33]), 0.01);
        self::assertEqualsWithDelta(0.5 + 0.05, $x[36], 0.005, 'it stands at the surface');
        self::assertEqualsWithDelta(1.0, (unpack('g', $frames[35]->stream(0, StreamKind::Sizes)) ?: [1 => 0.0])[1] + 0.8 / 36, 1e-6);
    }

    public function test_a_wall_that_grows_gives_the_speed_of_its_face(): void
    {
        // A box 1 m deep, made from a tenth: its face at z = ½·size comes at 0.5·0.9/1 m/s.
        $frames = self::bake([
            self::prop('wall', ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0], [0, 0, 0], 'keyed', 0.0, size: self::keys([0, 0.1], [24, 1.0])),
            self::prop('ball', ['radius' => 0.05], [0, 0, 0.3], 'free', 0.0),
        ], 34, friction: 0.0);
        $z = array_map(static fn (Frame $f): float => self::at($f, 1)[2], $frames);
        self::assertEqualsWithDelta(0.45, 24 * ($z[22] - $z[21]), 0.03);
        self::assertEqualsWithDelta(0.5 + 0.05, $z[24], 0.02, 'it stands at the face');
    }

    /** Gravity off at one frame and full at the next is free fall from that frame on. */
    public function test_gravity_keyed_on_is_free_fall_from_there(): void
    {
        $document = self::document([self::prop('ball', ['radius' => 0.1], [0, 5, 0], 'free', 0.0)], 30, 0.5);
        $document['world']['gravity'] = [0, ['keys' => [['frame' => 0, 'value' => 0, 'ease' => 'hold'], ['frame' => 12, 'value' => -9.80665]]], 0];
        $frames = self::played($document);
        $y = array_map(static fn (Frame $f): float => self::at($f, 0)[1], $frames);
        self::assertSame($y[0], $y[12]);
        foreach ([13, 18, 30] as $k) {
            self::assertEqualsWithDelta($y[0] - 0.5 * 9.80665 * (($k - 12) / 24) ** 2, $y[$k], 1e-5);
        }
    }

    public function test_what_rests_leaves_when_gravity_turns(): void
    {
        $document = self::document([self::prop('ball', ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2], [0, 0.101, 0], 'free', 0.0)], 72, 0.5);
        $document['world']['ground'] = true;
        $document['world']['gravity'] = [0, ['keys' => [['frame' => 0, 'value' => -9.8, 'ease' => 'hold'], ['frame' => 48, 'value' => 2]]], 0];
        $frames = self::played($document);
        self::assertSame([1, 0], [$frames[47]->figures['resting'], $frames[60]->figures['resting']]);
        self::assertEqualsWithDelta(0.5 * 2 * 1.0 ** 2, self::at($frames[72], 0)[1] - self::at($frames[48], 0)[1], 0.02);
    }

    /** A push keyed over frames is what it is at the frame of release. */
    public function test_the_push_is_that_of_the_frame_of_release(): void
    {
        $prop = self::prop('ball', ['radius' => 0.1], [0, 5, 0], 'free', 0.0);
        $prop['motion'] = ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 6], 'velocity' => [self::keys([0, 0.0], [12, 4.0]), 0, 0]];
        $frames = self::bake([$prop], 12);
        self::assertEqualsWithDelta(2.0, 24 * (self::at($frames[9], 0)[0] - self::at($frames[8], 0)[0]), 1e-5);
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return list<Frame> without gravity or ground
     */
    private static function bake(array $props, int $last, float $friction = 0.5): array
    {
        return self::played(self::document($props, $last, $friction));
    }

    /**
     * @param  array<string, mixed>  $document
     * @return list<Frame>
     */
    private static function played(array $document): array
    {
        $shot = ShotSpec::fromJson((string) json_encode($document));
        $shards = [];
        foreach ($shot->props as $prop) {
            $mesh = ShapeCatalogue::mesh($prop->source['shape'], $prop->source['values']);
            // About its own middle.
            $mesh = $mesh->movedBy(MassProperties::of($mesh)->centroid->times(-1.0));
            $shards[$prop->id] = [new Shard('whole', $mesh, MassProperties::of($mesh))];
        }
        $baker = Baker::of($shot, $shards);
        $frames = [$baker->firstFrame()];
        while ($baker->frameNumber() < $shot->last) {
            $frames[] = $baker->nextFrame();
        }

        return $frames;
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @return array<string, mixed>
     */
    private static function document(array $props, int $last, float $friction): array
    {
        foreach ($props as &$prop) {
            $prop['material']['friction'] = $friction;
        }

        return ['version' => 4, 'name' => 'Test', 'frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]], 'quality' => 'normal',
            'world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0.0], 'props' => $props];
    }

    /**
     * @param  array<string, float>  $values  of a box, or of a ball where there is a radius
     * @param  list<mixed>  $position
     * @param  list<mixed>  $turn
     * @return array<string, mixed>
     */
    private static function prop(string $id, array $values, array $position, string $kind, float $bounce, array $turn = [0, 0, 0], mixed $size = 1): array
    {
        return [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', 'shape' => isset($values['radius']) ? 'ball' : 'box', 'values' => $values],
            'place' => ['position' => $position, 'turn' => $turn, 'size' => $size],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.5, 'bounce' => $bounce],
            'break' => null, 'motion' => ['kind' => $kind],
        ];
    }

    /**
     * @param  array{int, float|int}  $a
     * @param  array{int, float|int}  $b
     * @return array<string, mixed>
     */
    private static function keys(array $a, array $b): array
    {
        return ['keys' => [['frame' => $a[0], 'value' => $a[1]], ['frame' => $b[0], 'value' => $b[1]]]];
    }

    /** @return array{float, float, float} centre of a prop of one piece */
    private static function at(Frame $f, int $prop): array
    {
        [$x, $y, $z] = array_values(unpack('g3', $f->stream($prop, StreamKind::Poses)) ?: [0.0, 0.0, 0.0]);

        return [$x, $y, $z];
    }
}
