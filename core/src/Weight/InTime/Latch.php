<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Weight\Points;

/** A weight that was reached never goes back. */
final class Latch implements Step
{
    /** @var list<float> */
    private array $most = [];

    public static function label(): string
    {
        return 'Latch';
    }

    public static function meaning(): string
    {
        return 'Never goes back';
    }

    public static function options(): array
    {
        return [];
    }

    public static function over(Points $on): self
    {
        return new self;
    }

    public function next(array $in, array $values, float $seconds): array
    {
        foreach ($this->most as $i => $most) {
            if ($most > $in[$i]) {
                $in[$i] = $most;
            }
        }

        return $this->most = $in;
    }

    public function state(): array
    {
        return ['most' => $this->most];
    }

    public function restore(array $state): void
    {
        $this->most = array_map(floatval(...), $state['most']);
    }
}
