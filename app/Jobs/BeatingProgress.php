<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use YardBreak\Core\Progress;

/** Tells the queue that a long computation gets on. */
final class BeatingProgress implements Progress
{
    public function report(float $share): void
    {
        Beating::gotOn();
    }
}
