<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** For parts that are made anew whenever they are asked for, by somebody who waits for the end. */
trait KeepsNothing
{
    public function recall(string $of): ?array
    {
        return null;
    }

    public function keep(string $of, array $values): void
    {
    }

    public function goOn(): void
    {
    }
}
