<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Collide;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\ConvexParts;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\SurfaceGap;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shape\ShapeCatalogue;

final class ConvexPartsTest extends TestCase
{
    private const WITHIN = 0.02;

    private const MOST = 16;

    public function test_what_is_convex_is_one_part(): void
    {
        foreach ([['box', []], ['ball', []], ['cylinder', []]] as [$shape, $values]) {
            [$hulls, $deviation] = ConvexParts::of(ShapeCatalogue::mesh($shape, $values), self::WITHIN, self::MOST);
            self::assertCount(1, $hulls, $shape);
            self::assertLessThan(self::WITHIN, $deviation, $shape);
        }
    }

    /** Strokes that meet at right angles come apart exactly. */
    public function test_an_l_is_two_bars_and_an_e_no_more_than_its_strokes_and_corners(): void
    {
        foreach (['L' => 2, 'E' => 5] as $letter => $parts) {
            [$hulls, $deviation] = ConvexParts::of(ShapeCatalogue::mesh('text', ['text' => $letter]), self::WITHIN, self::MOST);
            self::assertLessThanOrEqual($parts, count($hulls), $letter);
            self::assertGreaterThan(1, count($hulls), $letter);
            self::assertLessThan(0.01, $deviation, $letter);
        }
    }

    /** @return array<string, array{\Closure(): Mesh}> */
    public static function hollow(): array
    {
        return [
            'L' => [static fn (): Mesh => ShapeCatalogue::mesh('text', ['text' => 'L'])],
            'B' => [static fn (): Mesh => ShapeCatalogue::mesh('text', ['text' => 'B'])],
            'a ring' => [static fn (): Mesh => ShapeCatalogue::mesh('ring', ['segments' => 48, 'rows' => 16])],
        ];
    }

    /** All of the solid lies in its parts, and what the parts hold beside it lies no farther from its surface than said. */
    #[DataProvider('hollow')]
    public function test_parts_hold_the_solid_and_little_more(\Closure $make): void
    {
        $mesh = $make();
        [$hulls, $deviation] = ConvexParts::of($mesh, self::WITHIN, self::MOST);
        self::assertGreaterThan(1, count($hulls));
        self::assertLessThanOrEqual(self::MOST, count($hulls));
        $surface = new ContactSurface($mesh);
        self::assertTrue($surface->closed);
        $random = new SeededRandom(3);
        $inside = $beside = 0;
        for ($try = 0; $try < 1500; $try++) {
            $p = [$random->between($surface->box[0], $surface->box[1]), $random->between($surface->box[2], $surface->box[3]), $random->between($surface->box[4], $surface->box[5])];
            $depth = SurfaceGap::to($surface, $p[0], $p[1], $p[2], INF);
            $held = max(array_map(static fn (Hull $h): float => self::depth($h, new Vec3(...$p)), $hulls));
            if ($depth < -0.01 * $surface->size) {
                $inside++;
                self::assertGreaterThan(-0.005 * $surface->size, $held, 'of the solid');
            } elseif ($held > 0.0 && $depth > 0.0) {
                $beside++;
                // From any place beside it the surface is no farther than from where it lies deepest.
                self::assertLessThan(($deviation + 0.01) * $surface->size, min($held, $depth));
            }
        }
        self::assertGreaterThan(100, $inside);
    }

    /** Metres inside; below zero outside. */
    private static function depth(Hull $hull, Vec3 $p): float
    {
        $least = INF;
        foreach ($hull->faces as $f => $loop) {
            [$nx, $ny, $nz] = $hull->normals[$f];
            $v = $loop[0];
            $least = min($least, $nx * ($hull->x[$v] - $p->x) + $ny * ($hull->y[$v] - $p->y) + $nz * ($hull->z[$v] - $p->z));
        }

        return $least;
    }
}
