<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Points;

/** Comes later, by a random while at each piece. */
final class Delay implements Step
{
    /** @var list<float> seconds each waits */
    private array $wait = [];

    /** @var list<float> when each of the weights kept was, seconds since the first frame, rising */
    private array $times = [];

    /** @var list<list<float>> the weights kept */
    private array $kept = [];

    private float $now = 0.0;

    private function __construct(private readonly Points $on)
    {
    }

    public static function label(): string
    {
        return 'Delay';
    }

    public static function meaning(): string
    {
        return 'Waits, a random while at each piece';
    }

    public static function options(): array
    {
        return [
            new Option('least', 'At least', 'What every piece waits.', Number::class, 0.0, 0, 10, 's'),
            new Option('most', 'At most', 'What the slowest piece waits.', Number::class, 0.5, 0, 10, 's'),
            new Option('seed', 'Seed', 'Another number lets others wait longer.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function over(Points $on): self
    {
        return new self($on);
    }

    public function next(array $in, array $values, float $seconds): array
    {
        if ($this->wait === []) {
            $this->wait = $this->waits($values);
        }
        $this->now += $seconds;
        $this->times[] = $this->now;
        $this->kept[] = $in;
        $longest = $this->wait === [] ? 0.0 : max($this->wait);
        // The last one from before the longest wait is still needed, to read between frames.
        while (isset($this->times[1]) && $this->times[1] <= $this->now - $longest) {
            array_shift($this->times);
            array_shift($this->kept);
        }
        $last = count($this->times) - 1;
        $step = $last > 0 ? ($this->now - $this->times[0]) / $last : 1.0;
        foreach ($this->wait as $i => $wait) {
            $at = $this->now - $wait;
            if ($at <= $this->times[0]) {
                $in[$i] = $this->kept[0][$i];

                continue;
            }
            $k = min($last - 1, (int) (($at - $this->times[0]) / $step));
            $share = ($at - $this->times[$k]) / $step;
            $in[$i] = $share >= 1.0
                ? $this->kept[$k + 1][$i]
                : max(0.0, $this->kept[$k][$i] + max(0.0, $share) * ($this->kept[$k + 1][$i] - $this->kept[$k][$i]));
        }

        return $in;
    }

    public function state(): array
    {
        $out = ['now' => [$this->now], 'times' => $this->times, 'wait' => $this->wait];
        foreach ($this->kept as $k => $weights) {
            $out['kept '.$k] = $weights;
        }

        return $out;
    }

    public function restore(array $state): void
    {
        $this->now = (float) $state['now'][0];
        $this->times = array_map(floatval(...), $state['times']);
        $this->wait = array_map(floatval(...), $state['wait']);
        $this->kept = [];
        foreach (array_keys($this->times) as $k) {
            $this->kept[] = array_map(floatval(...), $state['kept '.$k]);
        }
    }

    /**
     * Points of one piece wait alike.
     *
     * @param  array<string, mixed>  $values
     * @return list<float>
     */
    private function waits(array $values): array
    {
        $random = new SeededRandom($values['seed']);
        $least = min($values['least'], $values['most']);
        $most = max($values['least'], $values['most']);
        $each = [];
        foreach ($this->on->names() as $_) {
            $each[] = $random->between($least, $most);
        }

        return $this->on->arePieces() ? $each : array_map(static fn (int $piece): float => $each[$piece], $this->on->pieceOf());
    }
}
