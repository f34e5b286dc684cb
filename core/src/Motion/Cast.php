<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\Solid;

/** All that plays in a shot, as movers meet it at the start. */
final readonly class Cast
{
    /**
     * @param  list<Member>  $members
     * @param  list<list<Solid>>  $solids  pieces of each of them, as bodies
     * @param  \Closure(int): list<Shard>  $shards  pieces of one of them by its number, with their surfaces
     * @param  \Closure(int): (list<Joint>|null)  $joints  between pieces of one of them that lie face to face; null where that is not known
     * @param  array{int, int}  $steps  contact searches a frame, sub-steps after each
     * @param  Ground|null  $ground  null for none
     */
    public function __construct(
        public array $members,
        public array $solids,
        public \Closure $shards,
        public \Closure $joints,
        public array $steps,
        public ?Ground $ground,
    ) {
    }
}
