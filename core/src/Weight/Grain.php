<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Noise: patches strewn over the prop. */
final readonly class Grain implements Pointwise
{
    use ByPlace;

    /** The noise of several sizes together seldom passes this. */
    private const SWING = 0.9;

    /** Each finer noise is this much finer than the one before, not quite twice, and lies elsewhere, or their zeros would meet. */
    private const FINER = [1.0, 2.03, 4.01, 8.05, 16.03, 32.07];

    private const ELSEWHERE = [[0.0, 0.0, 0.0], [7.1, 0.0, 0.0], [0.0, 3.7, 0.0], [0.0, 0.0, 5.3], [2.9, 0.0, 8.3], [0.0, 6.1, 4.7]];

    private function __construct(
        private Noise $noise,
        private float $size,
        private int $detail,
        private float $balance,
        private float $soft,
        private Vec3 $drift,
    ) {
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
            new Option('size', 'Size', 'About how large the patches are.', NumberInTime::class, 0.1, 0.0001, 1000, 'm'),
            new Option('detail', 'Detail', 'How many sizes of patches lie over each other, each half as large as the one before.', Whole::class, 3, 1, 6),
            new Option('balance', 'Balance', 'From hardly any (0) to nearly all (1).', NumberInTime::class, 0.5, 0, 1),
            new Option('soft', 'Soft edge', 'From hard patches (0) to gentle ones (1).', NumberInTime::class, 0.4, 0, 1),
            new Option('seed', 'Seed', 'Another number gives other patches.', Whole::class, 1, 0, 999999),
            new Option('drift', 'Drift', 'How fast the patches move through the prop.', PointInTime::class, [0.0, 0.0, 0.0], -1000, 1000, 'm/s'),
        ];
    }

    public static function of(array $values): self
    {
        return new self(
            new Noise(new SeededRandom($values['seed'])),
            $values['size'],
            $values['detail'],
            $values['balance'],
            $values['soft'],
            Vec3::of($values['drift']),
        );
    }

    public function drifts(): bool
    {
        return $this->drift->length() > 0.0;
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        $by = $this->drift->times(-$scene->seconds());

        return $this->each($this->drifts() ? $on->movedBy($by) : $on);
    }

    public function at(float $x, float $y, float $z): float
    {
        $k = 1.0 / $this->size;
        $level = self::SWING * (2.0 * $this->balance - 1.0);
        $share = 1.0;
        for ($n = 0; $n < $this->detail; $n++) {
            $fine = self::FINER[$n] * $k;
            [$a, $b, $c] = self::ELSEWHERE[$n];
            $level += $share * $this->noise->at($fine * $x + $a, $fine * $y + $b, $fine * $z + $c);
            $share *= 0.5;
        }
        $half = self::SWING * $this->soft;
        if ($half <= 0.0) {
            return $level >= 0.0 ? 1.0 : 0.0;
        }
        $t = max(0.0, min(1.0, 0.5 + 0.5 * $level / $half));

        return $t * $t * (3.0 - 2.0 * $t);
    }
}
