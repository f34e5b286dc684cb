<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A pattern that may part a surface that encloses nothing. */
interface OfSurfaces
{
    /** @param  array<string, mixed>  $values  by option name, as in a document */
    public static function needsSolid(array $values): bool;
}
