<?php

declare(strict_types=1);

namespace App\Jobs;

use Throwable;

/** A job that runs as long as it gets on, and always comes to an end: done, or failed in words. */
interface LastsLong
{
    /** A name for what no two workers may do at once, or null where they do no harm to each other. */
    public function lock(): ?string;

    /** Its number in the queue, or null where it runs without one. */
    public function claim(): ?int;

    /** Ends it for good: it fails for this reason and leaves the queue. */
    public function giveUp(Throwable $reason): void;
}
