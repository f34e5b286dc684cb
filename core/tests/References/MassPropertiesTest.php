<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Shape\ShapeCatalogue;

/**
 * Closed forms for solids as given in any handbook of engineering mechanics (for example Beer & Johnston,
 * "Vector Mechanics for Engineers", inside cover); the polyhedral integrals follow Mirtich 1996.
 */
final class MassPropertiesTest extends TestCase
{
    public function test_a_box_is_exact_wherever_and_however_it_stands(): void
    {
        $mesh = ShapeCatalogue::mesh('box', ['width' => 0.4, 'height' => 1.2, 'depth' => 0.7, 'segments' => 3]);
        $m = MassProperties::of($mesh);
        $v = 0.4 * 1.2 * 0.7;
        self::assertEqualsWithDelta($v, $m->volume, 1e-14);
        self::assertEqualsWithDelta([0.0, 0.6, 0.0], $m->centroid->toArray(), 1e-14);
        $want = [$v / 12 * (1.2 ** 2 + 0.7 ** 2), $v / 12 * (0.7 ** 2 + 0.4 ** 2), $v / 12 * (0.4 ** 2 + 1.2 ** 2), 0.0, 0.0, 0.0];
        self::assertEqualsWithDelta($want, $m->inertia, 1e-14);

        $turned = MassProperties::of($mesh->placed(new Placement(new Vec3(5, -3, 2), Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 2))));
        self::assertEqualsWithDelta($v, $turned->volume, 1e-12);
        // A quarter turn about z swaps the moments about x and y.
        self::assertEqualsWithDelta([$want[1], $want[0], $want[2]], array_slice($turned->inertia, 0, 3), 1e-12);
    }

    /** @return array<string, array{string, string, float, float, float}> shape, the value refined, volume, moment about y, moment about x per unit density */
    public static function roundSolids(): array
    {
        $pi = M_PI;
        $ball = 4 / 3 * $pi * 0.3 ** 3;
        $cylinder = $pi * 0.25 ** 2 * 1.0;
        $cone = $pi * 0.4 ** 2 * 1.0 / 3;
        $ring = 2 * $pi ** 2 * 0.4 * 0.12 ** 2;

        return [
            'ball' => ['ball', 'detail', $ball, 0.4 * $ball * 0.09, 0.4 * $ball * 0.09],
            'cylinder' => ['cylinder', 'segments', $cylinder, $cylinder * 0.25 ** 2 / 2, $cylinder * (3 * 0.25 ** 2 + 1) / 12],
            'cone' => ['cone', 'segments', $cone, 0.3 * $cone * 0.4 ** 2, 3 / 80 * $cone * (4 * 0.4 ** 2 + 1)],
            'ring' => ['ring', 'both', $ring, $ring * (0.4 ** 2 + 0.75 * 0.12 ** 2), $ring * (0.5 * 0.4 ** 2 + 0.625 * 0.12 ** 2)],
        ];
    }

    #[DataProvider('roundSolids')]
    public function test_a_round_solid_is_approached_at_second_order(string $shape, string $refine, float $volume, float $aboutY, float $aboutX): void
    {
        $errors = [];
        foreach ([1, 2] as $k) {
            $values = $refine === 'both' ? ['segments' => 48 * $k, 'rows' => 24 * $k] : [$refine => $shape === 'ball' ? 10 * $k : 48 * $k];
            $m = MassProperties::of(ShapeCatalogue::mesh($shape, $values));
            $errors[] = [abs($m->volume / $volume - 1), abs($m->inertia[1] / $aboutY - 1), abs($m->inertia[0] / $aboutX - 1)];
        }
        foreach ([0, 1, 2] as $i) {
            self::assertLessThan(0.02, $errors[0][$i]);
            // Halving the edges quarters the error.
            self::assertEqualsWithDelta(4.0, $errors[0][$i] / $errors[1][$i], 0.35);
        }
    }
}
