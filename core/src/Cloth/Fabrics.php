<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Quantity;

/**
 * Fabrics by name. Areal density and thickness are usual ones of the trade; stretch and flexural rigidity are of the size that textile
 * tests give (KES-F tensile and bending, ASTM D1388), for sheets the product of modulus and thickness. All are values from memory or
 * common practice.
 */
final class Fabrics
{
    public const OWN = 'own';

    /** @var array<string, array{float, float, float, float, float}> kg/m², N/m, N·m, m and a share of its length: what it weighs, how it stretches and bends, how thick it is, by
     *   how much its yarns give before they are taut */
    private const TABLE = [
        'muslin' => [0.12, 800.0, 5e-6, 0.0003, 0.15],
        'canvas' => [0.35, 4000.0, 8e-5, 0.0007, 0.1],
        'felt' => [0.45, 600.0, 2e-4, 0.003, 0.25],
        'silk' => [0.06, 500.0, 1.5e-6, 0.0002, 0.12],
        'rubber sheet' => [1.1, 1500.0, 1.5e-4, 0.001, 3.0],
        'tarpaulin' => [0.6, 12000.0, 3e-4, 0.0006, 0.08],
        'leather' => [0.9, 6000.0, 1e-3, 0.0015, 0.25],
        'paper' => [0.08, 30000.0, 3e-4, 0.0001, 0.03],
        'foil' => [0.054, 60000.0, 3e-5, 0.00002, 0.03],
    ];

    /** @return list<string> */
    public static function names(): array
    {
        return [...array_keys(self::TABLE), self::OWN];
    }

    /** @return array<string, string> by name: what it weighs and how it bends, in words */
    public static function notes(): array
    {
        return array_map(static fn (array $of): string => Quantity::show(1e3 * $of[0], 'g/m²').' · '.Quantity::show(1e6 * $of[2], 'µN·m'), self::TABLE) + [self::OWN => 'By its figures, below'];
    }

    /** @return array{float, float, float, float, float}|null kg/m², N/m, N·m, m and a share of its length; null for one's own */
    public static function of(string $name): ?array
    {
        return self::TABLE[$name] ?? null;
    }
}
