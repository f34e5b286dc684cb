<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Tests\Weight\Maps;

/** A block goes over into others of its own mesh, point by point, by a front that runs along it; places by form. */
final class BlendTest extends TestCase
{
    public function test_points_go_as_far_as_the_map_says(): void
    {
        [$x, $y, $z] = self::points(['map' => 'reach', 'to' => ['twin']], 0.5);
        [$ox, $oy, $oz] = self::points(['map' => 'reach', 'to' => ['twin']], 0.0);
        $seen = [];
        foreach ($ox as $i => $at) {
            // The front is full at −0.5 and none at 0.5: what is at the one end is at the twin, 3 m above and twice as large, exactly.
            $w = 0.5 - $at;
            self::assertEqualsWithDelta([$at + $w * $at, $oy[$i] + $w * (3.0 + $oy[$i]), $oz[$i] + $w * $oz[$i]], [$x[$i], $y[$i], $z[$i]], 1e-6);
            $seen[(string) round($w, 3)] = true;
        }
        self::assertArrayHasKey('1', $seen);
        self::assertArrayHasKey('0', $seen);
    }

    public function test_it_goes_through_all_its_states(): void
    {
        [$x, $y] = self::points(['map' => 'reach', 'to' => ['twin', 'third']], 0.5);
        [$ox, $oy] = self::points(['map' => 'reach', 'to' => ['twin', 'third']], 0.0);
        foreach ($ox as $i => $at) {
            $w = 2.0 * (0.5 - $at);
            $twin = 3.0 + 2.0 * $oy[$i];
            $third = $oy[$i] - 5.0;
            self::assertEqualsWithDelta($w <= 1.0 ? $oy[$i] + $w * ($twin - $oy[$i]) : $twin + ($w - 1.0) * ($third - $twin), $y[$i], 1e-6);
        }
    }

    public function test_another_mesh_is_refused_with_both_counts(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessageMatches('/^Block has \d+ points and Ball \d+, so neither can blend into the other\.$/');
        self::points(['map' => 'reach', 'to' => ['ball']], 0.5);
    }

    public function test_what_is_gone_is_said(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('What Block blends into is no longer there.');
        self::points(['map' => 'reach', 'to' => ['nobody']], 0.5);
    }

    /**
     * @param  array<string, mixed>  $blend
     * @param  float  $none  m, where the front is none; at 0 it is everywhere
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function points(array $blend, float $none): array
    {
        $sources = $none === 0.0
            ? [['source' => 'front', 'values' => ['point' => [-9.0, 0.0, 0.0], 'direction' => [1.0, 0.0, 0.0], 'full' => 0.0, 'none' => 0.001], 'on' => 'own']]
            : [['source' => 'front', 'values' => ['point' => [-0.5, 0.0, 0.0], 'direction' => [1.0, 0.0, 0.0], 'full' => 0.0, 'none' => 1.0, 'falloff' => 'linear'], 'on' => 'own']];
        $run = Maps::run($sources, [], static function (array $d) use ($blend): array {
            $d['props'][0]['blend'] = $blend;
            $d['props'][0]['motion'] = ['kind' => 'fixed'];
            foreach (['twin' => [3.0, 2.0], 'third' => [-5.0, 1.0]] as $id => [$high, $size]) {
                $other = ['id' => $id, 'name' => ucfirst($id), 'hidden' => true] + $d['props'][0];
                unset($other['weights'], $other['blend']);
                $other['place']['position'] = [0, $high, 0];
                $other['place']['size'] = $size;
                $d['props'][] = $other;
            }

            return $d;
        });
        $flat = array_values(unpack('g*', (new Evaluation($run))->streams('block', 0)[StreamKind::Points->value]) ?: []);
        $out = [[], [], []];
        foreach ($flat as $k => $v) {
            $out[$k % 3][] = $v;
        }

        return $out;
    }
}
