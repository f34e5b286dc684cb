<?php

declare(strict_types=1);

namespace App\Yard;

/** The props of a shot's document, as it is written. */
final class DocumentProps
{
    /** Where a prop stands among all, hidden ones too; null where it is not there. */
    public static function number(\stdClass $document, string $id): ?int
    {
        foreach ($document->props as $number => $prop) {
            if ($prop->id === $id) {
                return $number;
            }
        }

        return null;
    }
}
