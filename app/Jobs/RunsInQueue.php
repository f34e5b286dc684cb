<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Queue\Jobs\DatabaseJob;
use Throwable;

/** How jobs that last are tied to Laravel's queue; the job itself says its `lock` and what `failed` means. */
trait RunsInQueue
{
    use Queueable;

    /** Workers that may die of it before it is given up. */
    public int $tries = 8;

    public int $maxExceptions = 2;

    /** Claims are renewed while it runs; no clock ends it. */
    public int $timeout = 0;

    /** @return list<object> */
    public function middleware(): array
    {
        return [new Beating];
    }

    public function claim(): ?int
    {
        return $this->job instanceof DatabaseJob ? (int) $this->job->getJobId() : null;
    }

    public function giveUp(Throwable $reason): void
    {
        if ($this->job !== null) {
            $this->fail($reason);
        } else {
            $this->failed($reason);
        }
    }

    abstract public function failed(?Throwable $e): void;
}
