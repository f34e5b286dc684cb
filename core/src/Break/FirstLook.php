<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A pattern that may take long, and can show what it will come to with fewer pieces at once. */
interface FirstLook
{
    /**
     * @param  array<string, mixed>  $values  by option name, as in a document
     * @return array<string, mixed>|null values that take a moment; null where the given ones do already
     */
    public static function firstLook(array $values): ?array;
}
