<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\SilentProgress;

/** Whatever closed solid chance makes, and whatever values it takes, pieces are closed and fill it. */
final class RandomSolidsTest extends TestCase
{
    /** @return array<string, array{int}> */
    public static function seeds(): array
    {
        return array_combine(array_map(static fn (int $s): string => 'chance '.$s, range(1, 24)), array_map(static fn (int $s): array => [$s], range(1, 24)));
    }

    #[DataProvider('seeds')]
    public function test_pieces_are_closed_and_fill_it(int $seed): void
    {
        $random = new SeededRandom($seed);
        $solid = self::solid($random);
        self::assertTrue(Fitness::of($solid)->canBreak());
        $volume = MassProperties::of($solid)->volume;
        $whole = static fn (int $low, int $high): int => $low + (int) ($random->share() * ($high - $low + 1));
        foreach ([
            'cells' => [
                'count' => $whole(2, 40),
                'even' => $random->share(),
                'ragged' => $random->share() < 0.5 ? 0 : $random->share(),
                'relief' => $random->share() < 0.5 ? 0 : $random->share(),
                'gather' => 0.6 * $random->share(),
            ],
            'halving' => [
                'passes' => $whole(1, 4),
                'roughness' => $random->share(),
                'cut' => $random->share() < 0.5 ? 'flat' : 'bowed',
                'direction' => $random->share() < 0.5 ? 'random' : 'longest',
                'uneven' => 0.8 * $random->share(),
            ],
            'strike' => ['rays' => $whole(3, 14), 'rings' => $whole(1, 6), 'radius' => 0.1 + $random->share(), 'jitter' => $random->share()],
            'courses' => [
                'unit' => [0.1 + 0.3 * $random->share(), 0.05 + 0.2 * $random->share(), 0.1 + 0.3 * $random->share()],
                'joint' => 0.03 * $random->share(),
                'turn' => 90 * $random->share(),
                'bond' => ['running', 'third', 'stack'][$whole(0, 2)],
            ],
            'tiles' => ['grid' => [$whole(1, 5), $whole(1, 5), $whole(1, 3)], 'jitter' => $random->share()],
            'flakes' => ['faces' => $whole(1, 60), 'thickness' => 0.0002, 'ragged' => $random->share()],
        ] as $pattern => $values) {
            $figures = BreakFigures::of(BreakCatalogue::make($pattern, [...$values, 'seed' => $seed])->break($solid, new SilentProgress));
            self::assertSame($figures['pieces'], $figures['watertight'], $pattern.' '.json_encode($values));
            self::assertEqualsWithDelta(1.0, $figures['volume'] / $volume, 1e-9, $pattern.' '.json_encode($values));
        }
    }

    /** A turned, swept or cut-out form, sometimes cut in half, remeshed or divided. */
    private static function solid(SeededRandom $random): Mesh
    {
        $kind = (int) (3 * $random->share());
        if ($kind === 0) {
            $profile = [[0, 0]];
            for ($k = 0; $k < 6; $k++) {
                $profile[] = [0.1 + 0.4 * $random->share(), 0.04 + 0.15 * $k];
            }
            $mesh = ShapeCatalogue::mesh(
                'lathe',
                ['profile' => [...$profile, [0, 0.9]], 'segments' => 8 + (int) (30 * $random->share()), 'rounding' => (int) (4 * $random->share())],
            );
        } elseif ($kind === 1) {
            $path = [];
            for ($k = 0; $k < 4; $k++) {
                $path[] = [0.35 * $k, 0.3 * $random->share(), 0.3 * $random->share()];
            }
            $mesh = ShapeCatalogue::mesh('sweep', ['path' => $path, 'radius' => 0.04 + 0.06 * $random->share(), 'taper' => 0.3 + $random->share()]);
        } else {
            $points = [];
            for ($k = 0; $k < 14; $k++) {
                $r = 0.15 + 0.35 * $random->share();
                $points[] = [$r * cos(2 * M_PI * $k / 14), $r * sin(2 * M_PI * $k / 14)];
            }
            $mesh = ShapeCatalogue::mesh(
                'outline',
                ['outline' => ['lines' => [['points' => $points, 'closed' => true]]], 'depth' => 0.05 + 0.3 * $random->share()],
            );
        }
        $steps = [
            [],
            [['step' => 'remesh', 'values' => ['faces' => 900]]],
            [['step' => 'subdivide', 'values' => []]],
            [['step' => 'cut', 'values' => ['axis' => [$random->between(-1, 1), 1.0, $random->between(-1, 1)], 'at' => 0.4]]],
        ];
        $mesh = PrepareCatalogue::apply($mesh, $steps[(int) (4 * $random->share())]);

        return $mesh->withNormals(FaceNormals::smooth($mesh));
    }
}
