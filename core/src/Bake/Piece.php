<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;

/** A piece as a bake knows it. */
final readonly class Piece
{
    /**
     * @param  string  $name  unique within the shot: prop and shard
     * @param  int  $prop  number of its prop
     * @param  int  $number  of the piece within it
     */
    public function __construct(public string $name, public int $prop, public int $number, public Shard $shard)
    {
    }
}
