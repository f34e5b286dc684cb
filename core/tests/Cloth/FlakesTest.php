<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cloth;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\Cards;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Bake\Trials;

/** Many small sheets: they are their prop until they are let go, fall as anything does, lie on the ground and rest, and go on when the wind takes them. */
final class FlakesTest extends TestCase
{
    private const G = 9.80665;

    public function test_what_is_held_is_its_prop_and_what_is_let_go_falls(): void
    {
        $frames = self::baked(self::shell(4, 3.0), 16);
        $made = self::points($frames[0]);
        self::assertEqualsWithDelta(self::asMade(self::shell(4, 3.0)), $made, 1e-6, 'cards carry their pieces as they were cut');
        self::assertEqualsWithDelta($made, self::points($frames[4]), 1e-5, 'until then nothing moves');
        $drop = 0.5 * self::G * 0.25;
        foreach (self::points($frames[16]) as $k => [$x, $y, $z]) {
            self::assertEqualsWithDelta([$made[$k][0], $made[$k][1] - $drop, $made[$k][2]], [$x, $y, $z], 0.01 * $drop);
        }
    }

    public function test_it_lies_on_the_ground_and_rests_until_the_wind_takes_it(): void
    {
        $shell = self::shell(0, 0.35);
        $wind = ['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'amount' => ['keys' => [['frame' => 150, 'value' => 0], ['frame' => 151, 'value' => 1]]], 'values' => ['speed' => 8, 'gusts' => 0]];
        $frames = self::baked($shell, 165, [$wind]);
        $pieces = $frames[0]->figures['moving'] + $frames[0]->figures['resting'];
        self::assertGreaterThan(48, $pieces);
        foreach ($frames as $frame) {
            // A flake of 131 cm² of a ball of 25 cm is bowed by 0.064²/0.5 m; its card lies in the middle of that.
            self::assertGreaterThan(-0.064 ** 2 / 0.5, min(array_column(self::points($frame), 1)), "frame $frame->number: nothing lies in the ground");
        }
        self::assertGreaterThan(0.95 * $pieces, $frames[150]->figures['resting']);
        $still = array_filter(array_map(static fn (array $a, array $b): bool => $a === $b, self::points($frames[130]), self::points($frames[150])));
        self::assertGreaterThan(0.9 * count(self::points($frames[150])), count($still), 'what rests is not moved at all');
        self::assertLessThan(0.5 * $pieces, $frames[165]->figures['resting'], 'the wind takes them');
        self::assertGreaterThan(0.1, max(array_column(self::points($frames[165]), 0)) - max(array_column(self::points($frames[150]), 0)));
    }

    /** Each corner of a card goes by the vertex of its own piece that is nearest: what a map says there holds for it. */
    public function test_cards_go_by_the_vertices_of_their_own_pieces(): void
    {
        $plate = static fn (float $at): Shard => new Shard('plate', $mesh = ShapeCatalogue::mesh('sheet', ['width' => 0.2, 'height' => 0.2, 'thickness' => 0.0, 'segments' => 4])->placed(new Placement(new Vec3($at, 0.0, 0.0), Quaternion::identity(), 1.0)), MassProperties::of($mesh));
        $shards = [3 => $plate(0.0), 7 => $plate(5.0)];
        $cards = Cards::of($shards, 2);
        $x = [...$shards[3]->mesh->x, ...$shards[7]->mesh->x];
        $y = [...$shards[3]->mesh->y, ...$shards[7]->mesh->y];
        foreach ($cards->mesh->x as $k => $at) {
            self::assertLessThan(0.03, hypot($at - $x[$cards->nearest[$k]], $cards->mesh->y[$k] - $y[$cards->nearest[$k]]), "corner $k, of vertices 5 cm apart");
        }
        self::assertCount(18, $cards->nearest);
    }

    public function test_taken_up_again_it_is_the_same_to_the_byte(): void
    {
        $ready = Trials::ready(self::document(self::shell(2, 0.35), 30));
        $whole = $ready->baker();
        $whole->firstFrame();
        $state = '';
        for ($f = 1; $f <= 30; $f++) {
            $frame = $whole->nextFrame();
            $state = $f === 14 ? $whole->pack() : $state;
        }
        $again = $ready->baker($state);
        for ($f = 15; $f <= 30; $f++) {
            $taken = $again->nextFrame();
        }
        self::assertSame($frame->streams, $taken->streams);
    }

    /** @return array<string, mixed> half a metre across, in some sixty flakes of paper */
    private static function shell(int $released, float $height): array
    {
        return Trials::box('shell', [0, $height, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.25, 'detail' => 8]],
            'break' => ['pattern' => 'flakes', 'values' => ['by' => 'number', 'count' => 60, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0]],
            'motion' => ['kind' => 'cloth', 'release' => ['on' => 'frame', 'frame' => $released], 'values' => ['fabric' => 'paper']],
        ]);
    }

    /**
     * @param  array<string, mixed>  $shell
     * @param  list<array<string, mixed>>  $forces
     * @return array<string, mixed>
     */
    private static function document(array $shell, int $last, array $forces = []): array
    {
        return Trials::document([$shell], ['frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]], 'forces' => $forces]);
    }

    /**
     * @param  array<string, mixed>  $shell
     * @param  list<array<string, mixed>>  $forces
     * @return list<Frame>
     */
    private static function baked(array $shell, int $last, array $forces = []): array
    {
        return iterator_to_array(Trials::ready(self::document($shell, $last, $forces))->frames(), false);
    }

    /**
     * @param  array<string, mixed>  $shell
     * @return list<array{float, float, float}>
     */
    private static function asMade(array $shell): array
    {
        $out = [];
        foreach (Trials::made(Trials::ready(self::document($shell, 2))->shot)[0]['shell'] as $shard) {
            foreach ($shard->mesh->x as $v => $x) {
                $out[] = [$x, $shard->mesh->y[$v] + 3.0, $shard->mesh->z[$v]];
            }
        }

        return $out;
    }

    /** @return list<array{float, float, float}> */
    private static function points(Frame $frame): array
    {
        return array_chunk(array_values(unpack('g*', $frame->stream(0, StreamKind::Points)) ?: []), 3);
    }
}
