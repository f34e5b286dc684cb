<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** How long work tells where it is, and learns that nobody wants it any more. */
interface Progress
{
    /**
     * @param  float  $share  done so far, 0…1
     *
     * @throws Problem of kind `cancelled`
     */
    public function report(float $share): void;
}
