<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** What one source found last over one set of points. It only ever saves work: without it the values are the same. */
final class Memory
{
    /** @var string what the values depend on */
    public string $of = '';

    /** @var list<float> */
    public array $values = [];

    /** Distances are known as far as this. */
    public float $limit = -1.0;

    /** Of these distances those below one and above the other may only be about right: they made no difference. */
    public float $nearest = INF;

    public float $farthest = -INF;

    /** @var list<float> by point: how far it was */
    public array $distance = [];

    /** @var list<float> by point: where it was then, in the coordinates of what was measured to */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];
}
