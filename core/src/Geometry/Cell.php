<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/**
 * Cells of a grid of unit cubes, as whole numbers to look them up by. PHP looks numbers up by their lowest bits: places packed
 * side by side into one would share these all along two axes, and be searched for one by one. Places multiplied by a prime do not.
 */
final class Cell
{
    public const Y = 1_000_003;

    public const X = self::Y * self::Y;

    /** Leads to the next cell along each axis. */
    public const AXES = [self::X, self::Y, 1];

    /** The cell a place lies in; half a million cells and more from the origin several have the same number. */
    public static function of(float $x, float $y, float $z): int
    {
        return (int) floor($x) % self::Y * self::X + (int) floor($y) % self::Y * self::Y + (int) floor($z) % self::Y;
    }

    /** @return list<int> what leads from any cell to itself and to the 26 beside it */
    public static function beside(): array
    {
        static $steps = null;
        if ($steps === null) {
            $steps = [];
            foreach ([-1, 0, 1] as $x) {
                foreach ([-1, 0, 1] as $y) {
                    foreach ([-1, 0, 1] as $z) {
                        $steps[] = $x * self::X + $y * self::Y + $z;
                    }
                }
            }
        }

        return $steps;
    }
}
