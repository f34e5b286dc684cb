<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Weight\Points;

/** Goes back a while after it last rose. */
final class Fade implements Step
{
    /** A rise smaller than this is none. */
    private const RISE = 1e-9;

    /** @var list<float> */
    private array $before = [];

    /** @var list<float> how high it had risen */
    private array $peak = [];

    /** @var list<float> seconds since it last rose */
    private array $age = [];

    public static function label(): string
    {
        return 'Fade';
    }

    public static function meaning(): string
    {
        return 'Goes back after a time';
    }

    public static function options(): array
    {
        return [
            new Option('after', 'Stays for', 'How long it stays as high as it rose.', NumberInTime::class, 0.5, 0, 1000, 's'),
            new Option('over', 'Goes within', 'How long it takes to go back to nothing.', NumberInTime::class, 1.0, 0, 1000, 's'),
        ];
    }

    public static function over(Points $on): self
    {
        return new self;
    }

    public function next(array $in, array $values, float $seconds): array
    {
        if ($this->before === []) {
            $this->before = array_fill(0, count($in), 0.0);
            $this->peak = $this->before;
            $this->age = $this->before;
        }
        ['after' => $after, 'over' => $over] = $values;
        $out = [];
        foreach ($in as $i => $w) {
            $age = $this->age[$i] + $seconds;
            $left = $age <= $after ? 1.0 : ($over > 0.0 ? max(0.0, 1.0 - ($age - $after) / $over) : 0.0);
            $now = $this->peak[$i] * $left;
            if ($w > $this->before[$i] + self::RISE && $w >= $now) {
                $this->peak[$i] = $now = $w;
                $age = 0.0;
            }
            $this->age[$i] = $age;
            $this->before[$i] = $w;
            $out[] = $now;
        }

        return $out;
    }

    public function state(): array
    {
        return ['before' => $this->before, 'peak' => $this->peak, 'age' => $this->age];
    }

    public function restore(array $state): void
    {
        $this->before = array_map(floatval(...), $state['before']);
        $this->peak = array_map(floatval(...), $state['peak']);
        $this->age = array_map(floatval(...), $state['age']);
    }
}
