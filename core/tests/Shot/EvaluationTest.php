<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Shot\Skin;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Weight\Maps;

/** The block of a metre and the ball of `Maps`; its map is a front that goes through the block along x. */
final class EvaluationTest extends TestCase
{
    private const TILES = ['pattern' => 'tiles', 'values' => ['grid' => [10, 1, 1]]];

    public function test_pieces_appear_where_the_map_has_come_to_its_level(): void
    {
        // The band lies from x − 0.1 to x + 0.1 of the front at 0, so a middle is seen from half of it on: those left of 0.
        $shares = $this->sizes(['appears' => ['map' => 'reach', 'how' => 'pieces']], 20);
        self::assertSame([1.0, 1.0, 1.0, 1.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0], $shares);
    }

    public function test_inverted_they_go_exactly_as_others_come(): void
    {
        $come = $this->sizes(['appears' => ['map' => 'reach', 'how' => 'pieces', 'level' => 0.3]], 23);
        $go = $this->sizes(['appears' => ['map' => 'reach', 'how' => 'pieces', 'level' => 0.3, 'invert' => true]], 23);
        foreach ($come as $i => $share) {
            self::assertSame(1.0, $share + $go[$i]);
        }
    }

    public function test_growing_pieces_have_the_share_the_map_gives(): void
    {
        $run = $this->block(['appears' => ['map' => 'reach', 'how' => 'grow'], 'break' => self::TILES]);
        $weights = $run->weightsAt('reach', 'pieces', 21);
        $streams = (new Evaluation($run))->streams('block', 21);
        $sizes = array_values((array) unpack('g*', $streams[StreamKind::Shares->value]));
        foreach ($weights as $i => $w) {
            self::assertEqualsWithDelta($w, $sizes[$i], 1e-7);
        }
        self::assertGreaterThan(0.01, max($sizes) - min($sizes));
    }

    public function test_nothing_and_everything_are_exact_at_both_ends(): void
    {
        foreach (['pieces', 'grow'] as $how) {
            self::assertSame(array_fill(0, 10, 0.0), $this->sizes(['appears' => ['map' => 'reach', 'how' => $how]], 0));
            self::assertSame(array_fill(0, 10, 1.0), $this->sizes(['appears' => ['map' => 'reach', 'how' => $how]], 40));
        }
    }

    public function test_the_skin_is_the_map_on_every_point_of_the_pieces(): void
    {
        $run = $this->block(['relief' => ['map' => 'reach', 'depth' => 0.03], 'break' => self::TILES]);
        $prop = $run->prop('block');
        $bytes = (new Evaluation($run))->streams('block', 20)[StreamKind::Skin->value];
        self::assertEqualsWithDelta(0.03, unpack('g', $bytes)[1] ?? 0.0, 1e-8);
        $weights = array_values((array) unpack('C*', substr($bytes, 4)));
        $at = 0;
        foreach (Skin::fine($run->prop('block'), self::pieces($run)) as $shard) {
            foreach ($shard->mesh->x as $i => $x) {
                $y = $shard->mesh->y[$i];
                $z = $shard->mesh->z[$i];
                // On the outside the place itself is the nearest; the front's profile is linear from 1 at −0.1 to 0 at 0.1.
                if (abs($y) < 1e-9 || abs($y - 1) < 1e-9 || abs(abs($z) - 0.5) < 1e-9) {
                    $w = max(0.0, min(1.0, 0.5 - $x / 0.2));
                    // Between points of the mesh the map goes straight; its kinks may fall between them.
                    self::assertEqualsWithDelta(255 * $w, $weights[3 * $at + 2], 255 * 0.12, "at $x");
                }
                self::assertSame([0, 255], [$weights[3 * $at], $weights[3 * $at + 1]]);
                $at++;
            }
        }
        self::assertCount(3 * $at, $weights);
        self::assertSame($prop->relief?->map, 'reach');
    }

    /** What pieces wear of a map is another frame where the map is, or the pieces are. */
    public function test_a_map_on_the_skin_goes_by_its_surface_and_its_pieces(): void
    {
        $run = $this->block(['break' => self::TILES]);
        $keys = $run->keys('reach', MapRun::SKIN);
        self::assertCount(count(array_unique($run->keys('reach', MapRun::SURFACE))), array_unique($keys));
        self::assertSame([], array_intersect($keys, $run->keys('reach', MapRun::SURFACE)));
        self::assertSame(
            [],
            array_intersect($keys, $this->block(['break' => ['pattern' => 'tiles', 'values' => ['grid' => [5, 1, 1]]]])->keys('reach', MapRun::SKIN)),
        );
    }

    public function test_a_surface_is_cut_where_the_map_is_at_its_level(): void
    {
        $run = $this->block(['appears' => ['map' => 'reach', 'how' => 'surface', 'level' => 0.25]]);
        $weights = array_values((array) unpack('C*', substr((new Evaluation($run))->streams('block', 20)[StreamKind::Skin->value], 4)));
        $at = 0;
        foreach (Skin::fine($run->prop('block'), self::pieces($run))[0]->mesh->x as $x) {
            // A quarter of the band from its far end: x = 0.05.
            if (abs($x - 0.05) > 0.04) {
                self::assertSame($x < 0.05, $weights[3 * $at + 1] >= 128, "at $x");
            }
            $at++;
        }
    }

    public function test_frames_that_look_the_same_have_the_same_key_and_others_do_not(): void
    {
        $run = $this->block(['appears' => ['map' => 'reach', 'how' => 'grow'], 'break' => self::TILES]);
        $keys = (new Evaluation($run))->keys('block');
        self::assertCount(41, array_unique($keys));
        $deeper = (new Evaluation($this->block(['appears' => ['map' => 'reach', 'how' => 'grow', 'invert' => true], 'break' => self::TILES])))->keys('block');
        self::assertSame([], array_intersect($keys, $deeper));
        $still = (new Evaluation($this->block(['appears' => ['map' => 'reach', 'how' => 'grow'], 'break' => self::TILES], still: true)))->keys('block');
        self::assertCount(1, array_unique($still));
    }

    public function test_what_a_bake_wrote_is_shown_as_far_as_it_has_appeared(): void
    {
        $run = $this->block(['appears' => ['map' => 'reach', 'how' => 'pieces'], 'break' => self::TILES]);
        $streams = (new Evaluation($run))->onto([0 => [StreamKind::Sizes->value => pack('g*', ...array_fill(0, 10, 0.5))]], 20);
        self::assertSame([0.5, 0.5, 0.5, 0.5, 0.5, 0.0, 0.0, 0.0, 0.0, 0.0], array_values((array) unpack('g*', $streams[0][StreamKind::Sizes->value])));
        self::assertArrayNotHasKey(1, $streams);
    }

    public function test_a_map_of_another_prop_is_refused_in_words(): void
    {
        foreach ([['appears' => ['map' => 'reach', 'how' => 'grow']], ['relief' => ['map' => 'reach', 'depth' => 1]]] as $with) {
            $json = Maps::json([['source' => 'front']], [], static function (array $d) use ($with): array {
                $d['props'][1] = $with + $d['props'][1];

                return $d;
            });
            try {
                ShotSpec::fromJson($json);
                self::fail('It was taken.');
            } catch (Problem $e) {
                self::assertSame('props[1].'.array_key_first($with).'.map', $e->path);
                self::assertStringContainsString('Ball goes by a weight map that is none of its own', $e->getMessage());
            }
        }
    }

    /**
     * @param  array<string, mixed>  $with
     * @return list<float>
     */
    private function sizes(array $with, int $frame): array
    {
        $bytes = (new Evaluation($this->block($with + ['break' => self::TILES])))->streams('block', $frame)[StreamKind::Shares->value];

        return array_values((array) unpack('g*', $bytes));
    }

    /** @return list<Shard> */
    private static function pieces(MapRun $run): array
    {
        return Maps::maker()->shards($run->prop('block'), new SilentProgress);
    }

    /** @param  array<string, mixed>  $with  of the block */
    private function block(array $with, bool $still = false): MapRun
    {
        $goes = $still ? [-0.1, 0, 0] : [['keys' => [['frame' => 0, 'value' => -1.1], ['frame' => 40, 'value' => 0.9]]], 0, 0];

        return Maps::run([[
            'source' => 'front',
            'values' => ['point' => $goes, 'direction' => [1, 0, 0], 'full' => 0.0, 'none' => 0.2, 'falloff' => 'linear'],
        ]], [], static function (array $d) use ($with): array {
            $d['props'][0] = $with + $d['props'][0];

            return $d;
        });
    }
}
