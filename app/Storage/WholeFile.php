<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Problem;

/** Files written whole and renamed, so that whoever reads one finds what was there before or all of what is there now. */
final class WholeFile
{
    /** @throws Problem where the disk does not take it */
    public static function put(string $path, string $bytes): void
    {
        $part = $path.'.part-'.getmypid();
        if (@file_put_contents($part, $bytes) !== strlen($bytes) || ! @rename($part, $path)) {
            @unlink($part);
            throw Problem::notWritten($path, strlen($bytes));
        }
    }
}
