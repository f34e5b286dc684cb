<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight\InTime;

use YardBreak\Core\Entry;
use YardBreak\Core\Weight\Points;

/** What becomes of a map from frame to frame. It knows what was before, and is asked for every frame in its order. */
interface Step extends Entry
{
    /** Before the first frame. */
    public static function over(Points $on): self;

    /**
     * @param  list<float>  $in  weights of this frame before it, 0…1
     * @param  array<string, mixed>  $values  by option name, as they are at this frame
     * @param  float  $seconds  since the frame before; 0 at the first
     * @return list<float> 0…1
     */
    public function next(array $in, array $values, float $seconds): array;

    /** @return array<string, list<float>|list<int>> all it knows of what was before */
    public function state(): array;

    /** @param  array<string, list<float>|list<int>>  $state */
    public function restore(array $state): void;
}
