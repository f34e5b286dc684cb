<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** A force that lets pieces go that are held. */
interface LetsGo
{
    /**
     * @param  Instant  $at  with the span within which they are to go
     * @param  list<float>  $x  metres, where pieces are
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int> places whose pieces it lets go
     */
    public function frees(Instant $at, array $x, array $y, array $z): array;
}
