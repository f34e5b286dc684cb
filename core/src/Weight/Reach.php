<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\Ease;
use YardBreak\Core\Timing\NumberInTime;

/**
 * From a distance to a weight: full within one distance, none beyond another, and a way from one to the other. With the two
 * the wrong way round it is the other way about: none within, full beyond.
 */
final readonly class Reach
{
    private const WAYS = ['linear', 'smooth', 'sharp', 'root', 'own'];

    private function __construct(public float $full, public float $none, private string $way, private ?Ease $own)
    {
    }

    /** @return list<Option> */
    public static function options(float $full, float $none, float $least = 0.0, float $most = 1000.0, string $unit = 'm', float $share = 0.0): array
    {
        return [
            new Option('full', 'Full within', 'The weight is 1 as far as this.', NumberInTime::class, $full, $least, $most, $unit, share: $share),
            new Option('none', 'None beyond', 'The weight is 0 from here on.', NumberInTime::class, $none, $least, $most, $unit, share: 3.0 * $share),
            new Option(
                'falloff',
                'Falloff',
                'How it goes from one to the other: evenly, easing out of both, staying low (sharp) or high (root), or by a curve of your own.',
                Choice::class,
                'smooth',
                choices: self::WAYS,
            ),
            new Option('curve', 'Curve', 'Both handles of that curve, from none to full.', CurveKind::class, [0.4, 0.0, 0.6, 1.0], with: 'falloff=own'),
        ];
    }

    /** @param  array<string, mixed>  $values */
    public static function of(array $values): self
    {
        return new self((float) $values['full'], (float) $values['none'], $values['falloff'], $values['falloff'] === 'own' ? Ease::of($values['curve']) : null);
    }

    /** What is farther makes no difference. */
    public function farthest(): float
    {
        return max($this->full, $this->none);
    }

    /** What is nearer makes no difference. */
    public function nearest(): float
    {
        return min($this->full, $this->none);
    }

    public function at(float $distance): float
    {
        $full = $this->full;
        $none = $this->none;
        if ($full <= $none) {
            if ($distance <= $full) {
                return 1.0;
            }
            if ($distance >= $none) {
                return 0.0;
            }
        } else {
            if ($distance >= $full) {
                return 1.0;
            }
            if ($distance <= $none) {
                return 0.0;
            }
        }
        $t = ($none - $distance) / ($none - $full);

        return match ($this->way) {
            'linear' => $t,
            'smooth' => $t * $t * (3.0 - 2.0 * $t),
            'sharp' => $t * $t,
            'root' => sqrt($t),
            default => max(0.0, min(1.0, $this->own?->at($t) ?? $t)),
        };
    }

    /**
     * @param  list<float>  $distances
     * @return list<float>
     */
    public function over(array $distances): array
    {
        $out = [];
        foreach ($distances as $distance) {
            $out[] = $this->at($distance);
        }

        return $out;
    }
}
