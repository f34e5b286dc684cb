<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Rigid\Mortar;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Timing\Track;

/** What mortar bears and when it breaks, in shots that are baked; beams, blocks and hits in closed form (common practice). */
final class MortarTest extends TestCase
{
    private const G = 9.80665;

    private const DENSITY = 2000.0;

    /** Side of the blocks. */
    private const S = 0.1;

    /** Bonds that broke in what was baked last. */
    private static int $cracks = 0;

    /** A row of n blocks held at one end bears 3ρg(n−1)²S at its root: so long it holds, one more and it breaks off there, in one piece. */
    public function test_a_shelf_breaks_off_at_its_root_where_it_is_too_long_and_not_before(): void
    {
        $free = 9;
        $stress = 3.0 * self::DENSITY * self::G * $free ** 2 * self::S;
        foreach ([[1.03, 0], [0.97, 1]] as [$share, $broken]) {
            $row = self::row($free + 1, ['mortar' => 'own', 'tension' => $share * $stress / 1e6, 'shear' => 100, 'uneven' => 0]);
            $baker = self::ready([self::anchored($row, false)], 6);
            $frame = self::baked($baker);
            self::assertSame($broken, self::$cracks, "at $share of what it bears");
            self::assertSame($broken * $free, $frame->figures['moving'] + $frame->figures['resting']);
        }
    }

    /** A tower of blocks hung from the topmost: the highest bond bears all but one. */
    public function test_what_hangs_tears_where_it_bears_most(): void
    {
        $hung = 5;
        $stress = self::DENSITY * self::G * $hung * self::S;
        foreach ([[1.02, 0], [0.98, 1]] as [$share, $broken]) {
            $tower = self::row($hung + 1, ['mortar' => 'own', 'tension' => $share * $stress / 1e6, 'shear' => 100, 'uneven' => 0], true);
            $baker = self::ready([self::anchored($tower, true)], 6);
            self::baked($baker);
            self::assertSame($broken, self::$cracks, "at $share");
        }
    }

    /**
     * A block stands out from a held one. What hits it sideways at v with mass m brings m·v(1 + e) within the time of contact
     * over the section: just under what that bears nothing breaks, just over it does, whatever the frames.
     */
    #[DataProvider('rates')]
    public function test_a_hit_breaks_what_it_is_too_hard_for_whatever_the_frames(int $rate, string $quality): void
    {
        $mass = self::DENSITY * self::S ** 3;
        $speed = 2.0;
        // Two bodies meet: the struck one is held, so all of the momentum is turned; it bounces with 0.05 of its speed.
        $shear = $mass * $speed * 1.05 / 2e-3 / self::S ** 2;
        foreach ([[1.1, false], [0.9, true]] as [$share, $breaks]) {
            $row = self::row(2, ['mortar' => 'own', 'tension' => 1000, 'shear' => $share * $shear / 1e6, 'uneven' => 0]);
            $row = self::anchored($row, false);
            $row['place']['position'] = [0, 1.0, 0];
            $striker = self::block('striker', [0.5 * self::S, 1.0, 0.3], ['velocity' => [0, 0, -$speed]]);
            $baker = self::ready([$row, $striker], $rate / 3, ['frames' => ['first' => 0, 'last' => (int) ($rate / 3), 'rate' => [$rate, 1]], 'quality' => $quality, 'world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0.05]]);
            self::baked($baker);
            self::assertSame($breaks ? 1 : 0, self::$cracks, "at $share of the load");
        }
    }

    /** @return array<string, array{int, string}> */
    public static function rates(): array
    {
        return ['24 a second' => [24, 'normal'], '60 a second' => [60, 'normal'], 'final quality' => [24, 'final']];
    }

    /** What keys drive stops for nothing: the strongest bond of what it meets gives way, and of that only. */
    public function test_what_is_driven_breaks_off_whatever_it_meets(): void
    {
        $row = self::anchored(self::row(3, ['mortar' => 'glass', 'uneven' => 0]), false);
        $row['place']['position'] = [0, 1.0, 0];
        $hammer = ['motion' => ['kind' => 'keyed'], 'place' => ['position' => [0.13, 1.0, Trials::keys([0 => 0.3, 12 => -0.3])], 'turn' => [0, 0, 0], 'size' => 1]] + self::block('hammer', [0, 0, 0], []);
        $baker = self::ready([$row, $hammer], 12, ['world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0.05]]);
        $frame = self::baked($baker);
        self::assertSame(1, self::$cracks);
        self::assertSame(1, $frame->figures['moving']);
    }

    /** Without gravity or ground all momentum stays, through hit and break. */
    public function test_momentum_stays_through_a_break(): void
    {
        $row = self::row(7, ['mortar' => 'lime mortar', 'uneven' => 0]);
        $row['place']['position'] = [0, 1.0, 0];
        $striker = self::block('striker', [0.0, 1.0, 0.4], ['velocity' => [0, 0, -6.0]]);
        $baker = self::ready([$row, $striker], 14, ['world' => ['gravity' => [0, 0, 0], 'ground' => false, 'friction' => 0.5, 'bounce' => 0.05]]);
        self::baked($baker, 12);
        self::assertGreaterThan(0, self::$cracks);
        $before = self::places(self::baked($baker, 13));
        $after = self::places(self::baked($baker, 14));
        $sum = [0.0, 0.0, 0.0];
        foreach ($after as $k => $at) {
            foreach ($at->minus($before[$k])->times(24.0)->toArray() as $axis => $v) {
                $sum[$axis] += self::DENSITY * self::S ** 3 * $v;
            }
        }
        self::assertEqualsWithDelta([0.0, 0.0, -6.0 * self::DENSITY * self::S ** 3], $sum, 0.02);
    }

    /** A wall in the weakest mortar stands by itself, comes to rest and stays whole. */
    public function test_a_wall_stands_untouched(): void
    {
        $wall = Trials::box('wall', [0, 0, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1.8, 'height' => 1.5, 'depth' => 0.1025, 'segments' => 1]],
            'break' => ['pattern' => 'courses', 'values' => ['filling' => 'gap']],
            'motion' => ['kind' => 'free', 'values' => ['mortar' => 'lime mortar']],
        ]);
        $baker = Trials::ready(Trials::document([$wall], ['frames' => ['first' => 0, 'last' => 30, 'rate' => [24, 1]]]))->baker();
        $frame = self::baked($baker);
        self::assertSame(0, self::$cracks);
        self::assertSame(0, $frame->figures['moving'], 'all of it rests');
        self::assertGreaterThan(100, $frame->figures['resting']);
    }

    /** Where a map is 0 nothing holds; as mortar crumbles over frames, what hangs by it falls. */
    public function test_strength_goes_by_a_map_and_by_keys(): void
    {
        $row = self::row(6, ['mortar' => 'concrete', 'mortarMap' => 'strong']);
        $row['weights'] = [['id' => 'strong', 'name' => 'Strong', 'sources' => [Trials::source('front', ['point' => [0, 0, 0], 'direction' => [1, 0, 0], 'full' => 0.01, 'none' => 0.02, 'falloff' => 'linear'])]]];
        $baker = self::ready([self::anchored($row, false)], 3);
        self::baked($baker);
        self::assertGreaterThanOrEqual(2, self::$cracks, 'between pieces where there is none');
        self::assertLessThan(5, self::$cracks);
        $row = self::row(6, ['mortar' => 'concrete', 'amount' => Trials::keys([0 => 1.0, 4 => 1.0, 8 => 0.0])]);
        $baker = self::ready([self::anchored($row, false)], 12);
        self::baked($baker, 4);
        self::assertSame(0, self::$cracks);
        self::baked($baker);
        self::assertSame(5, self::$cracks);
    }

    /** A side wind of ½ρC_dAu² spread along a row held at one end bends its root by 3·q·n²/S, q its share of each metre. */
    public function test_wind_breaks_off_what_it_bends_too_much(): void
    {
        $free = 9;
        $q = 0.5 * 1.225 * 60.0 ** 2 * self::S;
        $stress = 3.0 * $q * $free ** 2 / self::S;
        foreach ([[1.03, 0], [0.97, 1]] as [$share, $broken]) {
            $row = self::row($free + 1, ['mortar' => 'own', 'tension' => $share * $stress / 1e6, 'shear' => 100, 'uneven' => 0]);
            $document = Trials::document([self::anchored($row, false)], [
                'frames' => ['first' => 0, 'last' => 6, 'rate' => [24, 1]],
                'forces' => [['id' => 'wind', 'name' => 'Wind', 'kind' => 'wind', 'values' => ['speed' => 60, 'direction' => [0, 0, 1]]]],
            ]);
            $document['world']['gravity'] = [0, 0, 0];
            self::baked(Trials::ready($document)->baker());
            self::assertSame($broken, self::$cracks, "at $share of what it bears");
        }
    }

    /** What is shaken by its keys bears its inertia, as a row of blocks its weight: 3ρ·a·n²·S at the root, a the most its keys bring. */
    public function test_shaking_breaks_off_what_is_too_heavy_for_it(): void
    {
        $free = 5;
        $keys = ['keys' => [['frame' => 0, 'value' => 0, 'ease' => 'smooth'], ['frame' => 12, 'value' => 1.2]]];
        $track = Track::of($keys);
        $most = 0.0;
        for ($f = 0.0; $f < 12.0; $f += 0.25) {
            $most = max($most, abs($track->at($f + 0.5) + $track->at($f - 0.5) - 2.0 * $track->at($f)) * 48.0 ** 2);
        }
        $stress = 3.0 * self::DENSITY * $most * $free ** 2 * self::S;
        foreach ([[1.1, 0], [0.7, 1]] as [$share, $broken]) {
            $row = self::row($free + 1, ['mortar' => 'own', 'tension' => $share * $stress / 1e6, 'shear' => 100, 'uneven' => 0]);
            $row['place']['position'] = [0, 2.0, $keys];
            $document = Trials::document([self::anchored($row, false)], ['frames' => ['first' => 0, 'last' => 14, 'rate' => [24, 1]]]);
            $document['world']['gravity'] = [0, 0, 0];
            self::baked(Trials::ready($document)->baker());
            self::assertSame($broken, min(1, self::$cracks), "at $share of what it bears");
        }
    }

    public function test_a_map_of_another_prop_or_none_is_refused_with_its_place(): void
    {
        $this->expectException(Problem::class);
        self::ready([self::row(3, ['mortar' => 'glass', 'mortarMap' => 'gone'])], 3);
    }

    /**
     * A row of blocks along x, or a tower of them.
     *
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function row(int $n, array $values, bool $up = false): array
    {
        $size = $up ? ['width' => self::S, 'height' => $n * self::S, 'depth' => self::S] : ['width' => $n * self::S, 'height' => self::S, 'depth' => self::S];

        return Trials::box('row', [0, 2.0, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => $size + ['segments' => 1]],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => self::DENSITY, 'friction' => 0.5, 'bounce' => 0.05],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => $up ? [1, $n, 1] : [$n, 1, 1]]],
            'motion' => ['kind' => 'free', 'values' => $values],
        ]);
    }

    /**
     * With its topmost piece, or that of the least x, anchored.
     *
     * @param  array<string, mixed>  $prop
     * @return array<string, mixed>
     */
    private static function anchored(array $prop, bool $top): array
    {
        $shards = Trials::made(Trials::ready(Trials::document([$prop]))->shot)[0][$prop['id']];
        usort($shards, static fn ($a, $b): int => $top ? $b->centre()->y <=> $a->centre()->y : $a->centre()->x <=> $b->centre()->x);
        $prop['motion']['anchors'] = [$shards[0]->name];

        return $prop;
    }

    /**
     * @param  list<float>  $position
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function block(string $id, array $position, array $values): array
    {
        return Trials::box($id, $position, [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => self::S, 'height' => self::S, 'depth' => self::S, 'segments' => 1]],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => self::DENSITY, 'friction' => 0.5, 'bounce' => 0.05],
            'motion' => ['kind' => 'free', 'values' => $values],
        ]);
    }

    /** Bakes to the last frame, or to one before, and adds up what cracked. */
    private static function baked(Baker $baker, ?int $to = null): Frame
    {
        if ($baker->frameNumber() === 0) {
            self::$cracks = 0;
            $frame = $baker->firstFrame();
        }
        do {
            self::$cracks += isset($frame) ? array_sum(array_map(count(...), $frame->figures['cracks'])) : 0;
            $last = $frame ?? null;
            $frame = $baker->frameNumber() < ($to ?? $baker->shot()->last) ? $baker->nextFrame() : null;
        } while ($frame !== null);
        self::assertNotNull($last);

        return $last;
    }

    /** @return list<Vec3> middles of all pieces */
    private static function places(Frame $frame): array
    {
        $out = [];
        foreach (array_keys($frame->streams) as $prop) {
            foreach (array_chunk(array_values(unpack('g*', $frame->stream($prop, StreamKind::Poses)) ?: []), 8) as [$x, $y, $z]) {
                $out[] = new Vec3($x, $y, $z);
            }
        }

        return $out;
    }

    /**
     * @param  list<array<string, mixed>>  $props
     * @param  array<string, mixed>  $with
     */
    private static function ready(array $props, float $frames, array $with = []): Baker
    {
        return Trials::ready(Trials::document($props, $with + ['frames' => ['first' => 0, 'last' => (int) $frames, 'rate' => [24, 1]]]))->baker();
    }
}
