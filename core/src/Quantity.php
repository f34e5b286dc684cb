<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** Quantities in words, with the multiple of their unit that keeps the figure short: 3.2 mm, 1.5 km, 41 g. */
final class Quantity
{
    /** @var array<string, list<array{float, string}>> how many of the unit each multiple holds, the largest first */
    private const MULTIPLES = [
        'm' => [[1e3, 'km'], [1.0, 'm'], [1e-2, 'cm'], [1e-3, 'mm'], [1e-6, 'µm']],
        'kg' => [[1e3, 't'], [1.0, 'kg'], [1e-3, 'g'], [1e-6, 'mg']],
    ];

    /** @param  string  $unit  one whose multiples are known, or any other, which is used as it is */
    public static function show(float $value, string $unit, int $digits = 3): string
    {
        $multiples = self::MULTIPLES[$unit] ?? [[1.0, $unit]];
        [$size, $name] = $multiples[count($multiples) - 1];
        foreach ($multiples as [$holds, $called]) {
            // What would be rounded up to the next multiple belongs there.
            if ($value === 0.0 ? $holds === 1.0 : abs($value) * (1.0 + 5e-4) >= $holds) {
                [$size, $name] = [$holds, $called];
                break;
            }
        }

        // Rounded, then written out: 50 and 1200, not 5.0e+1 and 1.2e+3.
        return sprintf('%.15g %s', (float) sprintf('%.'.$digits.'g', $value / $size), $name);
    }
}
