<?php

declare(strict_types=1);

namespace App\Storage;

use Illuminate\Support\Facades\Storage;
use YardBreak\Core\Problem;

/** Paths below the yard's own folder, and writing that is all or nothing. */
final class YardFiles
{
    /** The least effort packs coordinates nearly as well as the most. */
    private const PACKING = 1;

    /** The full path of a file, its folder made. */
    public static function path(string $name): string
    {
        $path = Storage::disk()->path($name);
        $folder = dirname($path);
        if (! is_dir($folder) && ! @mkdir($folder, 0o777, true) && ! is_dir($folder)) {
            throw Problem::notWritten($folder);
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
        $path = self::path('locks/'.$name);

        return @fopen($path, 'ce') ?: throw Problem::notWritten($path);
    }

    public static function write(string $name, string $bytes): string
    {
        $path = self::path($name);
        WholeFile::put($path, $bytes);

        return $path;
    }

    /** Keeps what can be made again, packed where that is cheap, under a checksum. */
    public static function keep(string $name, string $bytes): void
    {
        self::write($name, Sealed::of((string) gzdeflate($bytes, self::PACKING)));
    }

    /** What was kept so, marked as used; null where it is not there, or is not what it was, and then it goes. */
    public static function kept(string $name): ?string
    {
        $path = self::folder($name);
        $packed = Sealed::read($path);
        $bytes = $packed === null ? false : @gzinflate($packed);
        if ($bytes === false) {
            return null;
        }
        @touch($path);

        return $bytes;
    }
}
