<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Check\BreakFigures;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Tests\Solids;

final class BreakFiguresTest extends TestCase
{
    /** The Gini coefficient of equal shares is 0; of shares 1, 2, 3 and 4 it is ¼ (closed form, any statistics handbook). */
    public function test_evenness_is_one_less_the_gini_coefficient(): void
    {
        self::assertEqualsWithDelta(1.0, BreakFigures::of(self::boxes([1, 1, 1]))['evenness'], 1e-12);
        self::assertEqualsWithDelta(0.75, BreakFigures::of(self::boxes([3, 1, 4, 2]))['evenness'], 1e-12);
    }

    /** Twice volume over surface: for a plate about its thickness, for a box of sides a, b, c it is abc/(ab + bc + ca). */
    public function test_the_thinnest_wall_is_twice_volume_over_surface(): void
    {
        $plate = Solids::shape('box', ['width' => 2.0, 'height' => 3.0, 'depth' => 0.01]);
        self::assertEqualsWithDelta(0.06 / (6 + 0.02 + 0.03), BreakFigures::of([self::shard($plate), ...self::boxes([5])])['thinnest'], 1e-9);
    }

    public function test_giants_needles_and_heavy_pieces_are_named(): void
    {
        $giant = BreakFigures::of(self::boxes([1, 1, 1, 1, 50]));
        self::assertSame([4], $giant['giants']);
        self::assertSame(50.0, round($giant['largest_to_median'], 6));
        self::assertSame([], BreakFigures::of(self::boxes([1, 1, 1, 1, 5]))['giants']);
        $needle = BreakFigures::of([self::shard(Solids::shape('box', ['width' => 10.0, 'height' => 0.1, 'depth' => 0.1])), ...self::boxes([1])]);
        self::assertSame([0], $needle['slivers']);
        self::assertSame([1], BreakFigures::of([...self::boxes([1]), self::shard(Solids::shape('ball', ['detail' => 16]))])['heavy']);
    }

    public function test_open_pieces_are_not_counted_as_watertight(): void
    {
        $box = Solids::shape('box');
        $open = new Mesh($box->x, $box->y, $box->z, array_slice($box->faces, 3), array_slice($box->normals ?? [], 9));
        self::assertSame(1, BreakFigures::of([self::shard($box), self::shard($open)])['watertight']);
    }

    /**
     * @param  list<int>  $volumes
     * @return list<Shard>
     */
    private static function boxes(array $volumes): array
    {
        return array_map(static fn (int $v): Shard => self::shard(Solids::shape('box', ['width' => (float) $v])), $volumes);
    }

    private static function shard(Mesh $mesh): Shard
    {
        return new Shard('piece', $mesh, MassProperties::of($mesh));
    }
}
