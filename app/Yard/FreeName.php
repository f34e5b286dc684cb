<?php

declare(strict_types=1);

namespace App\Yard;

/** Names that nothing else has. */
final class FreeName
{
    /** @param  list<string>  $taken  in small letters */
    public static function among(array $taken, string $wanted): string
    {
        $out = $wanted;
        for ($k = 2; in_array(mb_strtolower($out), $taken, true); $k++) {
            $out = $wanted.(str_contains($wanted, ' ') ? ' ' : '-').$k;
        }

        return $out;
    }
}
