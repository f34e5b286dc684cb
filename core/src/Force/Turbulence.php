<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;

/**
 * Air that eddies: the curl of a potential of improved noise, so that nowhere more comes in than goes out (Bridson, Hourihan &
 * Nordenstam 2007, "Curl-noise for procedural fluid flow").
 */
final readonly class Turbulence implements Force
{
    /** Root mean square of the curl's length where the noise has size 1 and one octave (measured over 600,000 places), so that the speed asked for is what there is. */
    private const MEAN = 1.7222;

    /** Ways in which the three potentials drift past as they change, so that no two do so alike. */
    private const WAYS = [[0.53, 0.61, -0.59], [-0.64, 0.47, 0.61], [0.57, -0.66, 0.49]];

    /** How far the three lie apart in the noise. */
    private const APART = 57.3;

    private function __construct(private float $speed, private float $size, private int $detail, private float $change, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Turbulence';
    }

    public static function meaning(): string
    {
        return 'Air that eddies this way and that';
    }

    public static function options(): array
    {
        return [
            new Option('speed', 'Speed', 'Of the air, on average.', NumberInTime::class, 3.0, 0.0, 500.0, 'm/s'),
            new Option('size', 'Size of eddies', 'Across the largest of them, about.', NumberInTime::class, 0.6, 0.001, 10000.0, 'm'),
            new Option('detail', 'Detail', 'Each more adds eddies half as large and half as fast.', Whole::class, 2, 1, 5),
            new Option('change', 'Change', 'How often a second eddies give way to others.', NumberInTime::class, 0.5, 0.0, 100.0, '1/s'),
            new Option('seed', 'Seed', 'Another number gives other eddies.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['speed'], $values['size'], $values['detail'], $values['change'], $values['seed']);
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        $effect->airy();
        $noise = new Noise(new SeededRandom($this->seed));
        $shift = $this->change * $at->seconds();
        // Octaves add up like independent ones: by their squares.
        $k = $this->speed / self::MEAN / sqrt((1.0 - 0.25 ** $this->detail) / 0.75);
        for ($octave = 0, $scale = 1.0 / $this->size; $octave < $this->detail; $octave++, $scale *= 2.0, $k *= 0.5) {
            foreach ($effect->x as $i => $x) {
                $share = $k * $amounts[$i];
                if ($share === 0.0) {
                    continue;
                }
                $px = $x * $scale;
                $py = $effect->y[$i] * $scale;
                $pz = $effect->z[$i] * $scale;
                $off = $octave * 17.7;
                [[$ax, $ay, $az], [$bx, $by, $bz], [$cx, $cy, $cz]] = self::WAYS;
                [, $a1, $a2] = $noise->slopesAt($px + $ax * $shift + $off, $py + $ay * $shift, $pz + $az * $shift);
                [$b0, , $b2] = $noise->slopesAt($px + $bx * $shift + $off + self::APART, $py + $by * $shift, $pz + $bz * $shift);
                [$c0, $c1] = $noise->slopesAt($px + $cx * $shift + $off, $py + $cy * $shift + self::APART, $pz + $cz * $shift);
                $effect->ux[$i] += $share * ($c1 - $b2);
                $effect->uy[$i] += $share * ($a2 - $c0);
                $effect->uz[$i] += $share * ($b0 - $a1);
            }
        }
    }
}
