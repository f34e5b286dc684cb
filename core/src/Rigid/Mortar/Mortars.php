<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

/**
 * What can hold pieces together, with what it bears.
 *
 * Sources, all values from memory: masonry by EN 1996-1-1, table 3.4 (initial shear strength of clay units in mortar M1–M2
 * 0.1, M10–M20 0.3 N/mm²) and 3.6.3 (flexural strength along bed joints 0.1 N/mm²; cement mortar here as good work has it);
 * concrete C25/30 by EN 1992-1-1, table 3.1 (2.6 N/mm²; 31 kN/mm²); glass by EN 572-1 (45 N/mm² in bending, here as a pane
 * that has been used; 70 kN/mm²); timber C24 by EN 338 (along: tension 14.5, shear 4.0 N/mm², 11 kN/mm²; across: 0.4 N/mm²,
 * 0.37 kN/mm²). Terracotta, plaster and ice: common practice.
 */
final class Mortars
{
    public const NONE = 'none';

    public const OWN = 'own';

    /** @var array<string, array{float, float, float}> tension and shear in N/mm², modulus of elasticity in kN/mm² */
    private const STRENGTHS = [
        'lime mortar' => [0.1, 0.1, 1.0],
        'cement mortar' => [0.3, 0.3, 5.0],
        'concrete' => [2.6, 3.0, 31.0],
        'terracotta' => [3.0, 4.0, 10.0],
        'plaster' => [1.5, 1.5, 4.0],
        'glass' => [30.0, 30.0, 70.0],
        'timber along' => [14.5, 4.0, 11.0],
        'timber across' => [0.4, 4.0, 0.37],
        'ice' => [1.0, 0.7, 9.0],
    ];

    /** @return list<string> */
    public static function names(): array
    {
        return [self::NONE, ...array_keys(self::STRENGTHS), self::OWN];
    }

    /** @return list<string> all that hold anything */
    public static function holding(): array
    {
        return array_slice(self::names(), 1);
    }

    /** @return array{float, float, float}|null N/mm², N/mm² and kN/mm²; null for none, or one of its own */
    public static function strength(string $name): ?array
    {
        return self::STRENGTHS[$name] ?? null;
    }
}
