<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** What everything is in: it slows what moves through it, and bears what is lighter. */
final readonly class StillAir implements Force
{
    /** kg/m³: ISO 2533 at sea level and at 5,000 m; fresh water at 20 °C (value from memory). */
    private const DENSITIES = ['air' => Effect::AIR, 'thin air' => 0.7364, 'water' => 998.2];

    private function __construct(private float $density)
    {
    }

    public static function label(): string
    {
        return 'Still air';
    }

    public static function meaning(): string
    {
        return 'Slows what moves through it, and bears what is lighter: air, or water';
    }

    public static function options(): array
    {
        return [
            new Option('of', 'Of', 'Air at sea level, at 5,000 m, water, or a density of its own.', Choice::class, 'air', choices: [...array_keys(self::DENSITIES), 'own']),
            new Option('density', 'Density', 'Of what everything is in.', NumberInTime::class, Effect::AIR, 0.0, 20000.0, 'kg/m³', with: 'of=own'),
        ];
    }

    public static function of(array $values): self
    {
        return new self(self::DENSITIES[$values['of']] ?? $values['density']);
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        foreach ($effect->density as $i => $_) {
            $share = $amounts[$i];
            if ($share > 0.0) {
                $effect->density[$i] = $this->density * $share;
            }
        }
    }
}
