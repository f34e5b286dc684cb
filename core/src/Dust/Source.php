<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Entry;

/** Where grains come from. One more is a class and a line in the catalogue. */
interface Source extends Entry
{
    /** @param  array<string, mixed>  $values  of its own options, at a moment */
    public static function of(array $values): self;

    /** Whether it goes by hits on its prop, so that these are to be told. */
    public function hearsHits(): bool;

    /** Whether places on cut faces count as its prop's, too. */
    public function countsCuts(): bool;

    /** Puts in what is born on the way to a frame. */
    public function bear(Birthplace $at): void;
}
