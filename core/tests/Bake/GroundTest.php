<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Bakeable;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Collide\RoughGround;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MadeParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Motion\Waves;
use YardBreak\Core\Tests\Shot\Documents;
use YardBreak\Core\Tests\Weight\Maps;

/** What a bake makes of ground that is rough, that is a prop, or that is not there. */
final class GroundTest extends TestCase
{
    private const ROUGH = ['kind' => 'rough', 'values' => ['height' => 0.15, 'width' => 0.6, 'seed' => 3]];

    public function test_pieces_come_to_rest_on_rough_ground_and_are_taken_up_there(): void
    {
        $shot = self::shot(self::ROUGH, [self::box('block', [0, 1, 0], ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]], 0.3)], 60);
        $ready = self::ready($shot);
        $frames = iterator_to_array($ready->frames(), false);
        $pose = Pose::ofStream($frames[60]->stream(0, StreamKind::Poses), '')[0];
        self::assertSame(Pose::RESTING, $pose->state);
        $ground = RoughGround::of(self::ROUGH['values']);
        $lowest = INF;
        foreach ([-0.15, 0.15] as $x) {
            foreach ([-0.15, 0.15] as $y) {
                foreach ([-0.15, 0.15] as $z) {
                    $p = $pose->turn->turn(new \YardBreak\Core\Geometry\Vec3($x, $y, $z))->plus($pose->at);
                    $lowest = min($lowest, $p->y - $ground->height($p->x, $p->z));
                }
            }
        }
        self::assertEqualsWithDelta(0.0, $lowest, 0.004);
        $bytes = static fn (Frame $f): string => FrameRecord::encode($f->number, $f->streams);
        self::assertSame(array_map($bytes, $frames), array_map($bytes, iterator_to_array($ready->frames(static fn (): bool => true), false)));
    }

    public function test_another_ground_is_another_bake(): void
    {
        $props = [self::box('block', [0, 1, 0], ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 5]], 0.3)];
        $one = History::of(self::shot(self::ROUGH, $props));
        self::assertSame(0, $one->shares(History::of(self::shot(['values' => ['seed' => 4] + self::ROUGH['values']] + self::ROUGH, $props)), 99));
        self::assertSame(0, $one->shares(History::of(self::shot(['kind' => 'flat'], $props)), 99));
        self::assertSame(25, $one->shares(History::of(self::shot(self::ROUGH, $props)), 99));
    }

    /** A ball that keys let down: it touches where it is as near as its radius to the highest thing round there. */
    public function test_a_touch_of_rough_ground_is_foreseen(): void
    {
        $ground = RoughGround::of(self::ROUGH['values']);
        $down = ['keys' => [['frame' => 0, 'value' => 0.5, 'ease' => 'linear'], ['frame' => 24, 'value' => -0.5]]];
        $ball = [
            'source' => ['kind' => 'shape', 'shape' => 'ball', 'values' => ['radius' => 0.1, 'detail' => 12]],
            'place' => ['position' => [0.2, $down, 0.1], 'turn' => [0, 0, 0], 'size' => 1],
        ] + self::box('ball', [0, 0, 0], ['kind' => 'keyed'], 1);
        $shot = self::shot(
            self::ROUGH,
            [$ball],
            24,
            [['id' => 'down', 'name' => 'Down', 'at' => ['on' => 'touch', 'one' => 'ball', 'other' => 'ground', 'speed' => 0]]],
        );
        $frame = self::ready($shot)->shot->moments->frame('down');
        self::assertNotNull($frame);
        // The ball's mesh stands on its own ground: its middle is a radius over its place.
        $y = 0.5 - $frame / 24 + 0.1;
        $nearest = INF;
        for ($u = -0.1; $u <= 0.1; $u += 0.002) {
            for ($v = -0.1; $v <= 0.1; $v += 0.002) {
                $nearest = min($nearest, sqrt($u * $u + $v * $v + ($ground->height(0.2 + $u, 0.1 + $v) - $y) ** 2));
            }
        }
        self::assertEqualsWithDelta(0.1, $nearest, 0.002);
    }

    /** What waits for the ground waits for the slab, and past the slab's edge there is nothing to fall on. */
    public function test_a_prop_is_the_ground(): void
    {
        $slab = ['source' => [
            'kind' => 'shape',
            'shape' => 'box',
            'values' => ['width' => 2, 'height' => 0.5, 'depth' => 2],
        ]] + self::box('slab', [0, 0, 0], ['kind' => 'fixed'], 1);
        $waits = ['kind' => 'free', 'values' => ['held' => 'whole'], 'release' => ['on' => 'touch', 'by' => ['ground'], 'reach' => null]];
        $crate = ['break' => ['pattern' => 'cells', 'values' => ['count' => 4]]] + self::box('crate', [0, 1.2, 0], $waits, 0.3);
        $past = self::box('past', [5, 1, 0], ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]], 0.3);
        $frames = iterator_to_array(self::ready(self::shot(['kind' => 'prop', 'prop' => 'slab'], [$slab, $crate, $past], 24))->frames(), false);
        // From 1.2 m down to 0.5 m: √(2 · 0.7 / 9.80665) = 0.378 s, frame 9.07.
        self::assertSame(0, $frames[9]->figures['released']['crate']);
        self::assertSame(4, $frames[10]->figures['released']['crate']);
        self::assertSame('slab', $frames[10]->marks[0]['other'] === 'crate' ? $frames[10]->marks[0]['prop'] : $frames[10]->marks[0]['other']);
        self::assertEqualsWithDelta(1.15 - 9.80665 / 2.0, Pose::ofStream($frames[24]->stream(2, StreamKind::Poses), '')[0]->at->y, 1e-3);
    }

    /** Of a wall on a slab the lowest course stands; what it holds stays, and what is cut off from it goes. */
    public function test_what_stands_on_the_prop_that_is_the_ground_holds_what_is_above(): void
    {
        $slab = ['source' => [
            'kind' => 'shape',
            'shape' => 'box',
            'values' => ['width' => 2, 'height' => 0.5, 'depth' => 2],
        ]] + self::box('slab', [0, 0, 0], ['kind' => 'fixed'], 1);
        $wall = ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [1, 3, 1], 'jitter' => 0]], 'motion' => [
            'kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 90], 'follow' => ['after' => null, 'unsupported' => true],
            'groups' => [['name' => 'Middle', 'release' => ['on' => 'frame', 'frame' => 2], 'pieces' => ['tile-2']]],
        ]] + self::box('wall', [0, 0.5, 0], ['kind' => 'free'], 0.6);
        foreach ([['slab', 2], ['other', 3]] as [$ground, $released]) {
            $other = self::box('other', [9, 0, 0], ['kind' => 'fixed'], 1);
            $ready = self::ready(self::shot(['kind' => 'prop', 'prop' => $ground], [$slab, $wall, $other], 6));
            $names = array_map(static fn ($s): string => $s->name, Maps::maker()->shards($ready->shot->props[1], new SilentProgress));
            self::assertCount(3, $names);
            $middle = $names[1];
            $ready = self::ready(self::shot(
                ['kind' => 'prop', 'prop' => $ground],
                [$slab, array_replace_recursive($wall, ['motion' => ['groups' => [['pieces' => [$middle]]]]]), $other],
                6,
            ));
            $last = array_slice(iterator_to_array($ready->frames(), false), -1)[0];
            self::assertSame($ground === 'slab' ? 2 : 1, $last->figures['released']['wall'], 'where nothing stands, nothing is said to hold');
        }
    }

    public function test_what_stands_in_a_dip_is_not_under_the_ground_and_what_stands_in_a_rise_is(): void
    {
        $ground = RoughGround::of(self::ROUGH['values']);
        [$dip, $rise] = [[0.0, 0.0], [0.0, 0.0]];
        for ($x = -3.0; $x < 3.0; $x += 0.1) {
            for ($z = -3.0; $z < 3.0; $z += 0.1) {
                $dip = $ground->height($x, $z) < $ground->height(...$dip) ? [$x, $z] : $dip;
                $rise = $ground->height($x, $z) > $ground->height(...$rise) ? [$x, $z] : $rise;
            }
        }
        foreach ([[$dip, false], [$rise, true]] as [[$x, $z], $under]) {
            $shot = self::shot(self::ROUGH, [self::box('block', [$x, -0.1, $z], ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]], 0.04)]);
            $said = implode(' ', array_column((new SiteCheck(Maps::maker()))->of($shot), 'message'));
            self::assertSame($under, str_contains($said, 'below the ground'), $said);
        }
    }

    public function test_a_hand_off_says_that_ground_that_is_not_flat_is_left_out(): void
    {
        $props = [self::box('block', [0, 1, 0], ['kind' => 'free'], 0.3)];
        self::assertSame(['Ground: it is left out, though it is not flat.'], HandOff::leftOut(self::shot(self::ROUGH, $props), 'glb'));
        self::assertSame([], HandOff::leftOut(self::shot(['kind' => 'flat'], $props), 'glb'));
    }

    /** @return array<string, array{array<string, mixed>, string, string}> */
    public static function wrong(): array
    {
        return [
            'a kind there is not' => [['kind' => 'lava'], 'world.ground.kind', '"lava"'],
            'a setting it has not' => [['kind' => 'rough', 'values' => ['depth' => 1]], 'world.ground.values.depth', 'depth'],
            'as steep as a wall' => [['kind' => 'rough', 'values' => ['height' => 2, 'width' => 1]], 'world.ground.values.height', 'steep'],
            'a prop that is not there' => [['kind' => 'prop', 'prop' => 'nobody'], 'world.ground.prop', 'not there'],
            'a prop that falls' => [['kind' => 'prop', 'prop' => 'block'], 'world.ground.prop', 'cannot be the ground'],
        ];
    }

    /** @param  array<string, mixed>  $ground */
    #[DataProvider('wrong')]
    public function test_what_is_no_ground_is_refused_with_its_place(array $ground, string $path, string $words): void
    {
        try {
            self::shot($ground, [self::box('block', [0, 1, 0], ['kind' => 'free'], 1)]);
            self::fail('It was taken.');
        } catch (Problem $e) {
            self::assertSame($path, $e->path);
            self::assertStringContainsString($words, $e->getMessage());
        }
    }

    /**
     * @param  list<mixed>  $at
     * @param  array<string, mixed>  $motion
     * @return array<string, mixed>
     */
    private static function box(string $id, array $at, array $motion, float $side): array
    {
        return [
            'id' => $id,
            'name' => ucfirst($id),
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => $side, 'height' => $side, 'depth' => $side]],
            'place' => ['position' => $at, 'turn' => [0, 0, 0], 'size' => 1],
            'motion' => $motion,
        ];
    }

    /**
     * @param  array<string, mixed>  $ground
     * @param  list<array<string, mixed>>  $props
     * @param  list<array<string, mixed>>  $cues
     */
    private static function shot(array $ground, array $props, int $last = 24, array $cues = []): ShotSpec
    {
        return ShotSpec::fromJson(Documents::json(static fn (array $d): array => [
            'version' => ShotSpec::VERSION, 'frames' => ['last' => $last] + $d['frames'], 'world' => ['ground' => $ground] + $d['world'], 'cues' => $cues,
            'props' => array_map(static fn (array $p): array => $p + $d['props'][0], $props),
        ] + $d));
    }

    private static function ready(ShotSpec $shot): Bakeable
    {
        $maker = Maps::maker();
        $shards = array_map(static fn (PropSpec $p): array => $maker->shards($p, new SilentProgress), array_column($shot->props, null, 'id'));

        return Bakeable::of($shot, $shards, new MadeParts($maker, Waves::assets(), $shards));
    }
}
