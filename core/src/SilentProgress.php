<?php

declare(strict_types=1);

namespace YardBreak\Core;

final class SilentProgress implements Progress
{
    public function report(float $share): void
    {
    }
}
