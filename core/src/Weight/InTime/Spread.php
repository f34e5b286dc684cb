<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Geometry\Arrivals;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Weight\Points;

/** What was touched passes it on along the surface, or from piece to piece, never through the air. */
final class Spread implements Step
{
    /** A ragged front runs by so many times as fast in some places as in others, at most. */
    private const RAGGED = 0.85;

    private ?Arrivals $fronts = null;

    /** Metres that a front from the first frame on would have come. */
    private float $way = 0.0;

    /** @var list<float> */
    private array $before = [];

    /** @var array<string, list<float>|list<int>> a state that is still to be taken up */
    private array $kept = [];

    private function __construct(private readonly Points $on)
    {
    }

    public static function label(): string
    {
        return 'Spread';
    }

    public static function meaning(): string
    {
        return 'Creeps on over the surface from where it touched';
    }

    public static function options(): array
    {
        return [
            new Option('speed', 'Speed', 'How fast it creeps on.', NumberInTime::class, 0.5, 0, 10000, 'm/s'),
            new Option('level', 'Touched from', 'As high a weight as this counts as touched.', Number::class, 0.5, 0.001, 1),
            new Option('soft', 'Soft edge', 'How wide the band is in which it grows from none to full.', Number::class, 0.05, 0, 1000, 'm', share: 0.05),
            new Option('ragged', 'Ragged', 'How unevenly the front runs.', Number::class, 0.0, 0, 1),
            new Option('size', 'Of size', 'About how large its tongues and bays are.', Number::class, 0.1, 0.0001, 1000, 'm', with: 'ragged', share: 0.1),
            new Option('seed', 'Seed', 'Another number gives another front.', Whole::class, 1, 0, 999999, with: 'ragged'),
        ];
    }

    public static function over(Points $on): self
    {
        return new self($on);
    }

    public function next(array $in, array $values, float $seconds): array
    {
        if ($this->fronts === null) {
            $this->fronts = $this->on->arrivals($this->slow($values));
            if (isset($this->kept['at'])) {
                $this->fronts->restore($this->kept);
                $this->kept = [];
            }
        }
        $step = $values['speed'] * $seconds;
        $level = $values['level'];
        $began = $this->way;
        $this->way += $step;
        // What stands still touches nothing new.
        if ($in !== $this->before) {
            foreach ($in as $i => $w) {
                $before = $this->before[$i] ?? 0.0;
                if ($w >= $level && $before < $level) {
                    // When between the two frames that was.
                    $share = $this->before === [] || $w <= $before ? 1.0 : ($level - $before) / ($w - $before);
                    $this->fronts->begin($i, $began + $share * $step);
                }
            }
        }
        $this->before = $in;
        $this->fronts->advance($this->way);

        return self::reached($in, $this->fronts->at, $this->way, $values['soft']);
    }

    /**
     * @param  list<float>  $in
     * @param  list<float>  $at  when each point is reached, in metres of way
     * @return list<float>
     */
    private static function reached(array $in, array $at, float $way, float $soft): array
    {
        $full = $way - $soft;
        $k = $soft > 0.0 ? 1.0 / $soft : 0.0;
        for ($i = 0, $n = count($in); $i < $n; $i++) {
            $t = $at[$i];
            if ($t <= $full) {
                $in[$i] = 1.0;
            } elseif ($t <= $way) {
                $w = ($way - $t) * $k;
                if ($w > $in[$i]) {
                    $in[$i] = $w;
                }
            }
        }

        return $in;
    }

    public function state(): array
    {
        return ['way' => [$this->way], 'before' => $this->before, ...$this->fronts?->state() ?? $this->kept];
    }

    public function restore(array $state): void
    {
        $this->way = (float) $state['way'][0];
        $this->before = array_map(floatval(...), $state['before']);
        $this->fronts = null;
        $this->kept = $state;
    }

    /**
     * @param  array<string, mixed>  $values
     * @return list<float> by point: how much longer a way takes there
     */
    private function slow(array $values): array
    {
        if ($values['ragged'] <= 0.0) {
            return [];
        }
        $noise = new Noise(new SeededRandom($values['seed']));
        $k = 1.0 / $values['size'];
        $out = [];
        foreach ($this->on->x as $i => $x) {
            $n = $noise->at($k * $x, $k * $this->on->y[$i], $k * $this->on->z[$i]) + 0.5 * $noise->at(
                2.03 * $k * $x,
                2.03 * $k * $this->on->y[$i] + 7.1,
                2.03 * $k * $this->on->z[$i],
            );
            $out[] = 1.0 / max(0.05, 1.0 + self::RAGGED * $values['ragged'] * $n);
        }

        return $out;
    }
}
