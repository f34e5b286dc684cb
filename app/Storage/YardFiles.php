<?php

declare(strict_types=1);

namespace App\Storage;

use Illuminate\Support\Facades\Storage;
use YardBreak\Core\Problem;

/** Paths below the yard's own folder, and writing that is all or nothing. */
final class YardFiles
{
    /** The full path of a file, its folder made. */
    public static function path(string $name): string
    {
        $path = Storage::disk()->path($name);
        $folder = dirname($path);
        if (! is_dir($folder) && ! @mkdir($folder, 0o777, true) && ! is_dir($folder)) {
            throw Problem::full();
        }

        return $path;
    }

    /** The full path of a folder, made or not. */
    public static function folder(string $name): string
    {
        return Storage::disk()->path($name);
    }

    /**
     * A file that processes lock to take turns. A child started meanwhile does not inherit it: it would go on holding it.
     *
     * @return resource
     */
    public static function lock(string $name)
    {
        return @fopen(self::path('locks/'.$name), 'ce') ?: throw Problem::full();
    }

    public static function write(string $name, string $bytes): string
    {
        $path = self::path($name);
        $temporary = $path.'.part-'.getmypid();
        if (@file_put_contents($temporary, $bytes) !== strlen($bytes) || ! @rename($temporary, $path)) {
            @unlink($temporary);
            throw Problem::full();
        }

        return $path;
    }
}
