<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Check\MortarFigures;
use YardBreak\Core\Check\SiteCheck;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Tests\Bake\Trials;

/** What is said of mortar before a bake, against statics in closed form. */
final class MortarFiguresTest extends TestCase
{
    /** Five blocks of 0.1 m of 2600 kg/m³ hang on an anchored one: at the top bond ρgh = 12,749 N/m², 12.7 % of 0.1 N/mm². */
    public function test_its_own_weight_is_told_as_a_share_of_what_it_bears(): void
    {
        $told = self::figures(['motion' => ['kind' => 'free', 'anchoredBy' => ['map' => 'top'], 'values' => ['mortar' => 'own', 'tension' => 0.1, 'shear' => 0.1, 'uneven' => 0]]], 2.0);
        self::assertSame('5 bonds hold it together; it hangs on 1 anchored piece.', $told->words[0]);
        self::assertSame('Its own weight is 13 % of what the most strained bond bears.', $told->words[1]);
        self::assertStringStartsWith('Hit square in its middle it bears ', $told->words[2]);
        self::assertCount(5, $told->sections);
        $strains = array_column($told->sections, 12);
        sort($strains);
        foreach ($strains as $k => $strain) {
            self::assertEqualsWithDelta(2600 * 9.80665 * 0.1 * ($k + 1) / 1e5, $strain, 1e-3);
        }
        foreach ($told->sections as [, , , , , $ux, $uy, $uz, $vx, $vy, $vz, $share]) {
            self::assertEqualsWithDelta([0.05, 0.05, 1.0], [hypot($ux, $uz), hypot($vx, $vz), $share], 1e-4);
            self::assertEqualsWithDelta(0.0, abs($uy) + abs($vy), 1e-6);
        }
    }

    public function test_what_will_not_stand_and_what_nothing_bears_is_said(): void
    {
        $weak = ['motion' => ['kind' => 'free', 'anchoredBy' => ['map' => 'top'], 'values' => ['mortar' => 'own', 'tension' => 0.006, 'shear' => 0.1, 'uneven' => 0]]];
        self::assertStringStartsWith('It does not bear its own weight: 3 bonds would break', self::figures($weak, 2.0)->words[1]);
        $loose = ['motion' => ['kind' => 'free', 'values' => ['mortar' => 'glass']]];
        self::assertSame('5 bonds hold it together; nothing bears it, so it falls as one.', self::figures($loose, 2.0)->words[0]);
        self::assertSame('5 bonds hold it together; it stands on the ground with 1 piece.', self::figures($loose, 0.0)->words[0]);
    }

    public function test_where_mortar_has_nothing_to_hold_that_is_said(): void
    {
        self::assertSame(['Box is in one piece: there is nothing for mortar to hold together. Break it first.'], self::figures(['break' => null, 'motion' => ['kind' => 'free', 'values' => ['mortar' => 'glass']]], 0.0)->words);
        self::assertSame(['All pieces of Box are anchored, so nothing of it can break off.'], self::figures(['motion' => ['kind' => 'free', 'anchoredBy' => ['map' => 'top', 'level' => 0.0], 'values' => ['mortar' => 'glass']]], 0.0)->words);
        self::assertSame([], self::figures(['motion' => ['kind' => 'free']], 0.0)->words);
    }

    public function test_the_site_check_tells_what_mortar_anchors_and_dust_cannot_do(): void
    {
        $glass = ['kind' => 'free', 'values' => ['mortar' => 'glass']];
        foreach ([
            ['props[0].motion.values.mortar', 'one piece', ['break' => null, 'motion' => $glass]],
            ['props[0].motion.values.mortar', 'size is keyed', ['motion' => $glass, 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => Trials::keys([0 => 1, 5 => 0.5])]]],
            ['props[0].motion.anchors', 'all of its pieces are anchored', ['motion' => ['kind' => 'free', 'anchors' => ['all']]]],
            ['props[0].dust[0]', 'no mortar that could crack', ['dust' => [['id' => 'd', 'name' => 'Dust', 'from' => 'cracks', 'values' => (object) []]]]],
            ['props[0].dust[0].values.map', 'goes by no map yet', ['dust' => [['id' => 'd', 'name' => 'Dust', 'from' => 'map', 'values' => (object) []]]]],
            // 2,000,000 a second for a second of 25 frames, each for half of it.
            ['props[0].dust[0].values.rate', 'would come to 1,000,000 grains at once', ['dust' => [['id' => 'd', 'name' => 'Dust', 'from' => 'point', 'values' => ['rate' => 2e6, 'life' => 0.5]]]]],
            [null, '', ['dust' => [['id' => 'd', 'name' => 'Dust', 'from' => 'point', 'values' => ['rate' => 999999, 'life' => 0.5]]]]],
            [null, '', ['motion' => $glass]],
        ] as [$path, $words, $with]) {
            $box = Trials::box('box', [0, 0, 0], $with + ['break' => ['pattern' => 'tiles', 'values' => ['grid' => [1, 2, 1]]]]);
            $shot = Trials::ready(Trials::document([$box]))->shot;
            [$shards] = Trials::made($shot);
            if ($path === 'props[0].motion.anchors') {
                $box['motion']['anchors'] = array_map(static fn ($s): string => $s->name, $shards['box']);
                $shot = Trials::ready(Trials::document([$box]))->shot;
            }
            $none = new class implements AssetSource
            {
                public function path(string $asset): string
                {
                    throw new \LogicException($asset);
                }
            };
            $said = array_values(array_filter((new SiteCheck(new PropMaker($none)))->of($shot, pieces: static fn (): array => $shards['box']), static fn (array $s): bool => preg_match('/mortar|anchors|dust/', $s['path']) === 1));
            self::assertCount($path === null ? 0 : 1, $said);
            if ($path !== null) {
                self::assertSame($path, $said[0]['path']);
                self::assertStringContainsString($words, $said[0]['message']);
                self::assertNotSame('', $said[0]['remedy']);
            }
        }
    }

    /** @param  array<string, mixed>  $with */
    private static function figures(array $with, float $high): MortarFigures
    {
        $box = Trials::box('box', [0, $high, 0], $with + [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.1, 'height' => 0.6, 'depth' => 0.1, 'segments' => 1]],
            'break' => ['pattern' => 'tiles', 'values' => ['grid' => [1, 6, 1]]],
            'weights' => [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [0, 0.52, 0], 'direction' => [0, -1, 0], 'full' => 0, 'none' => 0.001, 'falloff' => 'linear'])]]],
        ]);
        $shot = Trials::ready(Trials::document([$box]))->shot;
        [$shards, $parts] = Trials::made($shot);

        return MortarFigures::of($shot, $shot->props[0], Solid::free($shards['box']), Neighbours::of($shards['box']), $parts);
    }
}
