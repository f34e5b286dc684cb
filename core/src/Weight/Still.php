<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** What sources share that look at no other prop, and change only with their values. */
trait Still
{
    public function reads(): array
    {
        return [];
    }

    public function inWorld(): bool
    {
        return false;
    }

    public function drifts(): bool
    {
        return false;
    }
}
