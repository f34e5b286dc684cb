<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

/** The pieces that drift, by their middles in the prop's own coordinates. */
final readonly class Pieces
{
    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $volumes  m³
     * @param  list<string>  $names
     */
    public function __construct(public array $x, public array $y, public array $z, public array $volumes, public array $names)
    {
    }

    public function count(): int
    {
        return count($this->x);
    }
}
