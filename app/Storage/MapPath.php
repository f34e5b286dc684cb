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

    /**
     * What is kept of a frame, or null where it is not there or not what it was; then it goes, and is made again.
     *
     * @param  string  $folder  of the yard's files
     */
    public static function read(string $folder, string $key): ?string
    {
        $frame = Sealed::read($path = $folder.'/'.self::of($key));
        if ($frame !== null) {
            @touch($path);
        }

        return $frame;
    }
}
