<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** What is said of fixed props that pieces fall on, and of pieces that begin within them; expected places by construction. */
final class ColliderCheckTest extends TestCase
{
    public function test_a_hole_in_the_ground_under_what_falls_is_told_with_its_place(): void
    {
        $over = fn (float $x): array => $this->findings(
            ['ground' => ['kind' => 'prop', 'prop' => 'land']],
            [self::land(), self::crate(['position' => [$x, 1.0, 0.5]])],
        );
        // A sheet of 8 × 8 m about the origin; what lies between 1 and 2 m in x, and 0 and 1 m in z, is left out.
        self::assertSame([], $over(-2.5));
        [$hole] = $over(1.5);
        self::assertSame('props[1].place.position', $hole['path']);
        self::assertStringContainsString('Land has a hole under it, at x, z = 1.4 m, 40 cm', $hole['message']);
        self::assertStringContainsString('fill', $hole['remedy']);
        self::assertStringContainsString('Land ends before x, z = 5', $over(5.1)[0]['message']);
    }

    public function test_a_sheet_whose_faces_disagree_is_told(): void
    {
        $found = $this->findings(['ground' => ['kind' => 'flat']], [self::land('turned'), self::crate(['position' => [-2.5, 1.0, 0.5]])]);
        self::assertSame(['props[0].source'], array_column($found, 'path'));
        self::assertStringContainsString('one side and the other in turn', $found[0]['message']);
        self::assertStringContainsString('orient', $found[0]['remedy']);
    }

    public function test_very_many_faces_are_told_with_what_they_cost(): void
    {
        $found = $this->findings(
            ['ground' => ['kind' => 'flat']],
            [self::block('ball', ['radius' => 1.0, 'detail' => 80], 'ball'), self::crate(['position' => [-2.5, 1.0, 0.5]])],
        );
        self::assertStringContainsString('meets all its 128,000 faces: that takes about 5.12 s once', $found[0]['message']);
        self::assertSame(['Simplify to 1.8 mm'], array_column($found[0]['mends'], 'label'));
        $mend = $found[0]['mends'][0]['patch'][0];
        self::assertSame(['/props/0/motion/simplify', 0.0018], [$mend['path'], $mend['value']]);
        $ball = self::block('ball', ['radius' => 1.0, 'detail' => 80], 'ball');
        $ball['motion']['simplify'] = $mend['value'];
        self::assertSame([], $this->findings(['ground' => ['kind' => 'flat']], [$ball, self::crate(['position' => [-2.5, 1.0, 0.5]])]));
    }

    /** A crate of 0.3 m, in two by two by two cubes, the lower four sunk in a block. */
    public function test_pieces_that_begin_within_a_fixed_prop_are_told_and_a_press_mends_it(): void
    {
        $block = self::block('plinth', ['width' => 1.0, 'height' => 0.5, 'depth' => 1.0]);
        // The block reaches to 0.5 m; the crate from 0.38 to 0.68 m: its lower half to 0.53 m, 0.12 m of it within.
        $crate = self::crate(['position' => [0.0, 0.38, 0.0]], ['pattern' => 'tiles', 'values' => ['grid' => [2, 2, 2]]]);
        [$said] = $found = $this->findings(['ground' => ['kind' => 'flat']], [$block, $crate]);
        self::assertCount(1, $found);
        self::assertStringContainsString('4 of its pieces begin deep inside Plinth: ', $said['message']);
        self::assertSame(['Lift it by 12 cm', 'Hold these 4'], array_column($said['mends'], 'label'));
        self::assertCount(4, $said['pieces']);
        // Both mend it.
        $patched = static function (array $prop, array $patch): array {
            match ($patch['path']) {
                '/props/1/place/position/1' => $prop['place']['position'][1] = $patch['value'],
                '/props/1/motion/anchors' => $prop['motion']['anchors'] = $patch['value'],
            };

            return $prop;
        };
        $again = array_map(fn (array $mend): array => $this->findings(['ground' => ['kind' => 'flat']], [$block, $patched($crate, $mend['patch'][0])]), $said['mends']);
        self::assertSame([[], []], $again);
        self::assertSame([], $this->findings(['ground' => ['kind' => 'flat']], [$block, self::crate(['position' => [0.0, 0.5, 0.0]])]));
    }

    /** What a bake keeps of a held prop serves the check too, wherever its middle lies: it is not found a second time. */
    public function test_surfaces_that_are_there_already_are_taken(): void
    {
        $block = self::block('plinth', ['width' => 1.0, 'height' => 0.5, 'depth' => 1.0]);
        $shot = self::spec(['ground' => ['kind' => 'flat']], [$block, self::crate(['position' => [0.0, 0.38, 0.0]])]);
        $maker = new PropMaker(self::sheets());
        $asked = [];
        $solids = static function (PropSpec $p) use ($maker, &$asked): array {
            $asked[] = $p->id;

            return Solid::held($maker->shards($p, new SilentProgress));
        };
        $with = (new SiteCheck($maker))->of($shot, solids: $solids);
        self::assertSame(['plinth'], $asked);
        self::assertSame((new SiteCheck($maker))->of($shot), $with);
        self::assertStringContainsString('it begins deep inside Plinth', $with[0]['message']);
    }

    /** What stands in the hole that a fixed prop is broken with stands clear: its pieces count, not what they were cut from. */
    public function test_what_stands_where_a_piece_was_taken_out_is_clear(): void
    {
        $taken = ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [3, 1, 3]]]] + self::block('plinth', ['width' => 1.2, 'height' => 0.5, 'depth' => 1.2]);
        $crate = self::crate(['position' => [0.0, 0.1, 0.0]]);
        $ground = ['ground' => ['kind' => 'flat']];
        self::assertStringContainsString('it begins deep inside Plinth', $this->findings($ground, [$taken, $crate])[0]['message']);
        $maker = new PropMaker(self::sheets());
        $shot = self::spec($ground, [$taken, $crate]);
        $middle = static fn (PropSpec $p): array => array_values(array_filter(
            $maker->shards($p, new SilentProgress),
            static fn (Shard $s): bool => $p->id !== 'plinth' || hypot($s->centre()->x, $s->centre()->z) > 0.1,
        ));
        self::assertSame([], (new SiteCheck($maker))->of($shot, pieces: $middle));
        self::assertSame([], (new SiteCheck($maker))->of($shot), 'as long as its pieces are not made nothing is said');
    }

    /**
     * @param  array<string, mixed>  $world
     * @param  list<array<string, mixed>>  $props
     * @return list<array<string, mixed>>
     */
    private function findings(array $world, array $props): array
    {
        $maker = new PropMaker(self::sheets());

        return (new SiteCheck($maker))->of(self::spec($world, $props), pieces: static fn (PropSpec $prop): array => $maker->shards($prop, new SilentProgress));
    }

    /**
     * @param  array<string, mixed>  $world
     * @param  list<array<string, mixed>>  $props
     */
    private static function spec(array $world, array $props): ShotSpec
    {
        return ShotSpec::fromJson((string) json_encode([
            'version' => ShotSpec::VERSION, 'name' => 'T', 'frames' => ['first' => 0, 'last' => 48, 'rate' => [24, 1]],
            'world' => $world + ['gravity' => [0, -9.80665, 0], 'friction' => 0.6, 'bounce' => 0.05], 'props' => $props,
        ]));
    }

    /** The sheets of these tests. */
    private static function sheets(): AssetSource
    {
        return new class implements AssetSource
        {
            public function path(string $asset): string
            {
                file_put_contents($path = sys_get_temp_dir().'/collider-check.obj', ColliderCheckTest::obj($asset[0] === 'f'));

                return $path;
            }
        };
    }

    /** A sheet of 8 × 8 squares of 1 m with one left out; or whole, with one turned over. */
    public static function obj(bool $turned): string
    {
        $out = '';
        for ($k = 0; $k <= 8; $k++) {
            for ($i = 0; $i <= 8; $i++) {
                $out .= 'v '.($i - 4).' 0 '.($k - 4)."\n";
            }
        }
        for ($k = 0; $k < 8; $k++) {
            for ($i = 0; $i < 8; $i++) {
                $a = 9 * $k + $i + 1;
                $special = $i === 5 && $k === 4;
                if ($special && ! $turned) {
                    continue;
                }
                $out .= 'f '.implode(' ', $special ? [$a, $a + 1, $a + 10, $a + 9] : [$a, $a + 9, $a + 10, $a + 1])."\n";
            }
        }

        return $out;
    }

    /** @return array<string, mixed> */
    private static function land(string $how = 'holed'): array
    {
        return ['source' => ['kind' => 'mesh', 'asset' => str_repeat($how === 'turned' ? 'f' : 'a', 64), 'file' => 'land.obj', 'up' => 'y', 'unit' => 'm']]
            + self::block('land', []);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function block(string $id, array $values, string $shape = 'box'): array
    {
        return [
            'id' => $id, 'name' => ucfirst($id), 'source' => ['kind' => 'shape', 'shape' => $shape, 'values' => $values],
            'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1],
            'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.05],
            'break' => null, 'motion' => ['kind' => 'fixed'],
        ];
    }

    /**
     * @param  array<string, mixed>  $place
     * @param  array<string, mixed>|null  $break
     * @return array<string, mixed>
     */
    private static function crate(array $place, ?array $break = null): array
    {
        return [
            'place' => $place + ['turn' => [0, 0, 0], 'size' => 1],
            'break' => $break,
            'motion' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]],
        ] + self::block('crate', ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]);
    }
}
