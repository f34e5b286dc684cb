<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Geometry\Arrivals;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Weight\Points;

/**
 * Overshoots and settles, as a damped spring that is pulled to the weight: x″ = ω²(w − x) − 2ζωx′, each frame by its closed
 * form with the weight held. As a ring it runs out over the surface from where it touched, and every place swings as the
 * ring passes.
 */
final class Ripple implements Step
{
    /** As high a weight as this starts a ring. */
    private const TOUCHED = 0.5;

    /** @var list<float> */
    private array $x = [];

    /** @var list<float> */
    private array $v = [];

    /** @var list<float> */
    private array $before = [];

    private ?Arrivals $fronts = null;

    private float $way = 0.0;

    private function __construct(private readonly Points $on)
    {
    }

    public static function label(): string
    {
        return 'Ripple';
    }

    public static function meaning(): string
    {
        return 'Overshoots and settles';
    }

    public static function options(): array
    {
        return [
            new Option('frequency', 'Frequency', 'Swings a second.', NumberInTime::class, 2.0, 0.01, 100, 'Hz'),
            new Option('damping', 'Damping', '0 swings for ever, 1 does not overshoot.', NumberInTime::class, 0.2, 0, 1),
            new Option('speed', 'As a ring', 'How fast it runs over the surface; 0 for everywhere at once.', NumberInTime::class, 0.0, 0, 10000, 'm/s'),
        ];
    }

    public static function over(Points $on): self
    {
        return new self($on);
    }

    public function next(array $in, array $values, float $seconds): array
    {
        if ($this->x === []) {
            $this->x = $in;
            $this->v = array_fill(0, count($in), 0.0);
        }
        $kicked = $this->kicked($in, $values['speed'] * $seconds, $values['speed'] > 0.0);
        $omega = 2.0 * M_PI * $values['frequency'];
        $zeta = $values['damping'];
        $decay = exp(-$zeta * $omega * $seconds);
        $damped = $omega * sqrt(max(0.0, 1.0 - $zeta * $zeta));
        $cosine = cos($damped * $seconds);
        $sine = $damped > 1e-9 ? sin($damped * $seconds) / $damped : $seconds;
        foreach ($kicked as $i) {
            $this->v[$i] += $omega;
        }
        $out = [];
        foreach ($in as $i => $w) {
            $x = $this->x[$i] - $w;
            $v = $this->v[$i];
            $b = $v + $zeta * $omega * $x;
            $this->x[$i] = $now = $w + $decay * ($x * $cosine + $b * $sine);
            $this->v[$i] = $decay * ($v * $cosine - ($omega * $omega * $x + $zeta * $omega * $v) * $sine);
            $out[] = $now > 0.0 ? ($now < 1.0 ? $now : 1.0) : 0.0;
        }

        return $out;
    }

    public function state(): array
    {
        return ['x' => $this->x, 'v' => $this->v, 'before' => $this->before, 'way' => [$this->way], ...$this->fronts?->state() ?? []];
    }

    public function restore(array $state): void
    {
        $this->x = array_map(floatval(...), $state['x']);
        $this->v = array_map(floatval(...), $state['v']);
        $this->before = array_map(floatval(...), $state['before']);
        $this->way = (float) $state['way'][0];
        if (isset($state['at'])) {
            $this->fronts = $this->on->arrivals();
            $this->fronts->restore($state);
        }
    }

    /**
     * @param  list<float>  $in
     * @return list<int> points the ring reaches in this frame
     */
    private function kicked(array $in, float $step, bool $ring): array
    {
        if (! $ring) {
            return [];
        }
        $this->fronts ??= $this->on->arrivals();
        $began = $this->way;
        $this->way += $step;
        $first = $this->before === [];
        foreach ($in as $i => $w) {
            if ($w >= self::TOUCHED && ($first || $this->before[$i] < self::TOUCHED)) {
                $this->fronts->begin($i, $this->way);
            }
        }
        $this->before = $in;
        $this->fronts->advance($this->way);
        $out = [];
        foreach ($this->fronts->at as $i => $at) {
            if ($at <= $this->way && ($at > $began || $first)) {
                $out[] = $i;
            }
        }

        return $out;
    }
}
