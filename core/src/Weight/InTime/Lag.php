<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Weight\Points;

/** Follows late: what is left to go becomes half after each half-life. */
final class Lag implements Step
{
    /** @var list<float> */
    private array $now = [];

    public static function label(): string
    {
        return 'Lag';
    }

    public static function meaning(): string
    {
        return 'Follows late';
    }

    public static function options(): array
    {
        return [new Option('half', 'Half-life', 'After so long half the way is done.', NumberInTime::class, 0.2, 0, 1000, 's')];
    }

    public static function over(Points $on): self
    {
        return new self;
    }

    public function next(array $in, array $values, float $seconds): array
    {
        if ($this->now !== [] && $values['half'] > 0.0) {
            $left = 0.5 ** ($seconds / $values['half']);
            foreach ($this->now as $i => $now) {
                $in[$i] += $left * ($now - $in[$i]);
            }
        }

        return $this->now = $in;
    }

    public function state(): array
    {
        return ['now' => $this->now];
    }

    public function restore(array $state): void
    {
        $this->now = array_map(floatval(...), $state['now']);
    }
}
