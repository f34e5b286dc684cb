<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\Instant;
use YardBreak\Core\Force\Pull;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Tests\Bake\Trials;
use YardBreak\Core\Timing\Values;

/** Forces that look at surfaces, follow lines and paths, or let go; expected values by form. */
final class ForcesOnSurfacesTest extends TestCase
{
    /** Air from a line goes straight away from it, as fast all along it. */
    public function test_wind_from_a_line(): void
    {
        $effect = new Effect([3.0, 0.0], [7.0, -2.0], [4.0, 2.0]);
        Wind::of(Values::of(Wind::options(), ['from' => 'from-a-line', 'at' => [0, 0, 0], 'along' => [0, 3, 0], 'speed' => 10])->at(0.0))->on($effect, new Instant(0.0, 0, 1 / 24), [1.0, 1.0]);
        self::assertEqualsWithDelta([6.0, 0.0, 8.0], [$effect->ux[0], $effect->uy[0], $effect->uz[0]], 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0, 10.0], [$effect->ux[1], $effect->uy[1], $effect->uz[1]], 1e-12);
    }

    /** On the path it leads along it, far off straight to it; at its end it holds. */
    public function test_a_pull_along_a_path(): void
    {
        $pull = Pull::of(Values::of(Pull::options(), ['to' => 'path', 'path' => [[0, 0, 0], [2, 0, 0], [2, 2, 0]], 'law' => 'even', 'strength' => 5, 'core' => 0.1])->at(0.0));
        $effect = new Effect([1.0, 2.0, 1.0, 2.0], [0.0, 1.0, -99.9, 2.0], [0.0, 0.0, 0.0, 0.0]);
        $pull->on($effect, new Instant(0.0, 0, 1 / 24), array_fill(0, 4, 1.0));
        self::assertEqualsWithDelta([5.0, 0.0], [$effect->ax[0], $effect->ay[0]], 1e-9);
        self::assertEqualsWithDelta([0.0, 5.0], [$effect->ax[1], $effect->ay[1]], 1e-9);
        self::assertEqualsWithDelta([5.0 * 0.1 / 100.0, 5.0 * 99.9 / 100.0], [$effect->ax[2], $effect->ay[2]], 1e-9);
        self::assertEqualsWithDelta([0.0, 0.0], [$effect->ax[3], $effect->ay[3]], 1e-9);
    }

    /** Its own curve: in full to the middle of its reach, then turned round, then nothing. */
    public function test_a_pull_by_its_own_curve(): void
    {
        $pull = Pull::of(Values::of(Pull::options(), ['at' => [0, 0, 0], 'law' => 'own', 'course' => [[0, 1], [0.5, 1], [0.5, -0.5], [1, 0]], 'reach' => 4, 'strength' => 8])->at(0.0));
        $effect = new Effect([1.0, 3.0, 5.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
        $pull->on($effect, new Instant(0.0, 0, 1 / 24), [1.0, 1.0, 1.0]);
        self::assertEqualsWithDelta([-8.0, 2.0, 0.0], $effect->ax, 1e-9);
    }

    /** Drawn to a wall 1 m off with 2 m/s² everywhere it is there after a second. */
    public function test_a_pull_to_the_surface_of_a_prop(): void
    {
        $frames = self::baked([['kind' => 'pull', 'values' => ['to' => 'surface', 'prop' => 'wall', 'law' => 'even', 'strength' => 2, 'core' => 0.001]]], [Trials::box('wall', [1.3, 2.0, 0.0])], 12);
        // Half a second: ¼ m.
        self::assertEqualsWithDelta(0.25, self::place($frames[12])[0], 2e-3);
        self::assertEqualsWithDelta(2.15, self::place($frames[12])[1], 1e-4);
    }

    /** Behind a wall a blast does nothing; the same without the wall throws the box. */
    public function test_a_blast_is_kept_off_by_what_it_is_shaded_by(): void
    {
        foreach ([['nothing', '', true], ['what-stands', '', false], ['a-prop', 'wall', false], ['a-prop', 'other', true]] as [$shade, $prop, $thrown]) {
            $frames = self::baked([['kind' => 'blast', 'values' => ['at' => [-2.0, 2.15, 0.0], 'frame' => 3, 'impulse' => 400, 'shade' => $shade, 'prop' => $prop]]], [Trials::box('wall', [-1.0, 2.0, 0.0]), Trials::box('other', [9.0, 0.0, 0.0])], 8);
            self::assertSame($thrown, self::place($frames[8])[0] > 0.02, $shade.' '.$prop);
        }
    }

    /** Held pieces go as the front reaches them, with the push it brings: i·A/m from there on. */
    public function test_a_blast_lets_go_what_it_reaches_hard_enough(): void
    {
        foreach ([[0.0, 0.0], [50.0, 400.0 / 2.0 * 0.09 / (2600 * 0.027)], [1000.0, 0.0]] as [$frees, $speed]) {
            $frames = self::baked([['kind' => 'blast', 'values' => ['at' => [-2.0, 2.15, 0.0], 'frame' => 3, 'impulse' => 400, 'frees' => $frees]]], [], 27, 99);
            self::assertEqualsWithDelta($speed, self::place($frames[27])[0] - self::place($frames[3])[0], 0.03 * $speed + 1e-6, "from $frees");
            self::assertSame($speed > 0.0 ? 1 : 0, $frames[27]->figures['released']['box']);
        }
    }

    public function test_looking_at_a_prop_that_is_not_there_is_refused_with_its_place(): void
    {
        try {
            self::baked([['kind' => 'pull', 'values' => ['to' => 'surface', 'prop' => 'nobody']]], [], 1);
            self::fail('nobody is there');
        } catch (Problem $e) {
            self::assertSame('forces[0].values.prop', $e->path);
        }
    }

    /**
     * @param  list<array{kind: string, values: array<string, mixed>}>  $forces
     * @param  list<array<string, mixed>>  $others
     * @return list<Frame>
     */
    private static function baked(array $forces, array $others, int $last, int $release = 0): array
    {
        $box = Trials::box('box', [0, 2, 0], ['motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => $release]]]);
        $d = Trials::document([$box, ...$others], [
            'frames' => ['first' => 0, 'last' => $last, 'rate' => [24, 1]],
            'forces' => array_map(static fn (array $f): array => ['id' => $f['kind'], 'name' => ucfirst($f['kind']), 'kind' => $f['kind'], 'values' => (object) $f['values']], $forces),
        ]);
        $d['world']['gravity'] = [0, 0, 0];

        return iterator_to_array(Trials::ready($d)->frames(), false);
    }

    /** @return list<float> */
    private static function place(Frame $frame): array
    {
        return array_values(unpack('g3', $frame->stream(0, StreamKind::Poses)) ?: []);
    }
}
