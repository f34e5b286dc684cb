<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** A mover that leads pieces by rule, so that where they are can be told for any moment around the one that was reached. */
interface Leads extends Mover
{
    /** Whether it leads the pieces of a prop until they are let go. */
    public function leads(int $prop): bool;

    /**
     * Where the pieces of a prop it leads are.
     *
     * @return array{list<float>, list<float>} eight numbers a piece as in a stream of poses, and the share of its full size each has
     */
    public function ledAt(int $prop, float $frame): array;
}
