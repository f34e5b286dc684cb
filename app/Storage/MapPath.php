<?php

declare(strict_types=1);

namespace App\Storage;

/** Where the weights of a frame lie below the yard's folder. It stands alone: what is asked for often is sent before anything else is loaded. */
final class MapPath
{
    public static function of(string $key): string
    {
        return 'maps/'.substr($key, 0, 2).'/'.$key;
    }
}
