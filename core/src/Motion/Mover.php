<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Motion\Push\Sent;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** What moves pieces in one way: as rigid bodies, say. Movers do not know each other. */
interface Mover
{
    /** @return list<Option> what can be set of a prop it moves */
    public static function options(): array;

    /**
     * Lets pieces go: from now on they are free.
     *
     * @param  int  $prop  its number
     * @param  list<int>  $pieces  their numbers within it, held so far
     * @param  array<int, Sent>  $sent  by piece: what it is sent off with besides what its prop gives all of them
     * @return bool whether it moves any of them
     */
    public function release(int $prop, array $pieces, Moment $at, array $sent): bool;

    /** Moves on from one frame to the next; how often it steps in between is its own business. */
    public function advance(Moment $from, Moment $to, Surroundings $around): void;

    /** Has arrived at a frame: what is driven stands where it belongs, before anything is let go or written. */
    public function arrive(Moment $at, Surroundings $around): void;

    /** Puts its streams into the frame that was reached. */
    public function write(FrameWriter $frame): void;

    /** The state alone: nothing the document says, nothing that can be worked out again. */
    public function pack(): string;

    /** @throws Problem where the state is not one it knows */
    public function unpack(string $state): void;
}
