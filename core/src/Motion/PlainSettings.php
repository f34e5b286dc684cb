<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Values;

/** Settings that act at all times, of pieces that stay where they are until they are let go. */
final readonly class PlainSettings implements Settings
{
    public function __construct(public Values $values)
    {
    }

    public function acts(Acts $acts, array $moments, bool $atAnyTime): void
    {
        $this->values->acts($acts, 'settings of motion');
    }

    public function shape(): string
    {
        return Solid::PARTS;
    }

    public function ball(): float
    {
        return 0.0;
    }

    public function movesHeld(): bool
    {
        return false;
    }

    public function maps(): array
    {
        return [];
    }
}
