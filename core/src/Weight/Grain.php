<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;

/** Noise: patches strewn over the prop. */
final readonly class Grain implements Source
{
    /** The noise of three sizes together seldom passes this. */
    private const SWING = 0.9;

    private function __construct(private Noise $noise, private float $size, private float $balance, private float $soft)
    {
    }

    public static function label(): string
    {
        return 'Grain';
    }

    public static function meaning(): string
    {
        return 'Patches strewn at random';
    }

    public static function options(): array
    {
        return [
            new Option('size', 'Size', 'About how large the patches are.', Number::class, 0.1, 0.0001, 1000, 'm'),
            new Option('balance', 'Balance', 'From hardly any (0) to nearly all (1).', Number::class, 0.5, 0, 1),
            new Option('soft', 'Soft edge', 'From hard patches (0) to gentle ones (1).', Number::class, 0.4, 0, 1),
            new Option('seed', 'Seed', 'Another number gives other patches.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(new Noise(new SeededRandom($values['seed'])), $values['size'], $values['balance'], $values['soft']);
    }

    public function at(float $x, float $y, float $z): float
    {
        $k = 1.0 / $this->size;
        $level = $this->noise->at($k * $x, $k * $y, $k * $z) + 0.5 * $this->noise->at(2.03 * $k * $x + 7.1, 2.03 * $k * $y, 2.03 * $k * $z) + 0.25 * $this->noise->at(4.01 * $k * $x, 4.01 * $k * $y + 3.7, 4.01 * $k * $z);
        $level += self::SWING * (2.0 * $this->balance - 1.0);
        $half = self::SWING * $this->soft;
        if ($half <= 0.0) {
            return $level >= 0.0 ? 1.0 : 0.0;
        }
        $t = max(0.0, min(1.0, 0.5 + 0.5 * $level / $half));

        return $t * $t * (3.0 - 2.0 * $t);
    }
}
