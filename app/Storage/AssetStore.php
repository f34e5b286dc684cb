<?php

declare(strict_types=1);

namespace App\Storage;

use App\Http\Upload;
use App\Models\Asset;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;

/** Mesh files, kept once under the hash of their content. */
final class AssetStore implements AssetSource
{
    /** @var array<string, string> files found to be what they were, with when they were last changed */
    private static array $sound = [];

    public function path(string $asset): string
    {
        $path = $this->located($asset);
        clearstatcache(true, $path);
        $stamp = filemtime($path).' '.filesize($path).' '.fileinode($path);
        if ((self::$sound[$path] ?? '') !== $stamp) {
            if (hash_file('sha256', $path) !== basename($asset)) {
                throw self::asked($asset, 'is damaged on the disk of the yard');
            }
            self::$sound[$path] = $stamp;
        }

        return $path;
    }

    /**
     * Where a file lies, without a look whether it is what it was: for those that have just come in, by the thousand.
     *
     * @throws Problem where it is not there
     */
    public function located(string $asset): string
    {
        $path = YardFiles::folder('assets/'.basename($asset));

        return is_file($path) ? $path : throw self::asked($asset, 'is missing from the yard');
    }

    private static function asked(string $asset, string $why): Problem
    {
        $name = Asset::query()->find(basename($asset))->name ?? 'that this shot was made with';

        return Problem::inFile('The file '.$name.' '.$why.'.', 'Bring '.$name.' in again.');
    }

    /** A free name for something on its way in; what stays there is swept away. */
    public static function incoming(): string
    {
        return YardFiles::path('incoming/'.bin2hex(random_bytes(8)));
    }

    /** What a server that was killed in the middle of an upload left behind. */
    private function sweep(): void
    {
        foreach (glob(YardFiles::path('incoming/*')) ?: [] as $part) {
            if (filemtime($part) < time() - 3600) {
                @unlink($part);
            }
        }
    }

    /**
     * Takes a stream in and keeps it, once it is found good. What is refused or breaks off leaves nothing behind, and
     * touches nothing that was there before.
     *
     * @param  callable(string, string): mixed|null  $judge  given path and hash of the file before it is kept; throws where it is no good
     *
     * @throws Problem where it is too large or breaks off
     */
    public function take(Upload $upload, ?callable $judge = null): Asset
    {
        return $this->keep($this->receive($upload), $upload->name, $judge);
    }

    /**
     * Keeps what was received, once it is found good.
     *
     * @param  array{string, string, int}  $received  path, hash and size
     * @param  callable(string, string): mixed|null  $judge  as above
     *
     * @throws Problem
     */
    public function keep(array $received, string $name, ?callable $judge = null): Asset
    {
        [$part, $hash, $bytes] = $received;
        try {
            if ($judge !== null) {
                $judge($part, $hash);
            }
            if (! @rename($part, $path = YardFiles::path('assets/'.$hash))) {
                throw Problem::notWritten($path);
            }
        } finally {
            @unlink($part);
        }

        return Asset::query()->firstOrCreate(['hash' => $hash], ['name' => $name, 'bytes' => $bytes]);
    }

    /** Takes one away that a request brought in and then was refused. */
    public function drop(Asset $asset): void
    {
        @unlink(YardFiles::path('assets/'.$asset->hash));
        $asset->delete();
    }

    /**
     * Takes a stream in without keeping it yet.
     *
     * @return array{string, string, int} path of the file received, its hash and its size
     *
     * @throws Problem where it is too large or breaks off
     */
    public function receive(Upload $upload): array
    {
        [$in, $name, $expected] = [$upload->stream, $upload->name, $upload->announced];
        $this->sweep();
        $most = (int) config('yard.largest_upload');
        $part = self::incoming();
        $out = @fopen($part, 'wb');
        if ($out === false) {
            throw Problem::notWritten($part, $expected ?? 0);
        }
        $good = false;
        try {
            $hash = hash_init('sha256');
            $bytes = 0;
            while (! feof($in)) {
                $chunk = (string) fread($in, 1 << 18);
                $bytes += strlen($chunk);
                if ($bytes > $most) {
                    throw Problem::inFile(sprintf('%s is larger than %d MB.', $name, intdiv($most, 1024 * 1024)), $upload->remedy);
                }
                hash_update($hash, $chunk);
                if (@fwrite($out, $chunk) !== strlen($chunk)) {
                    throw Problem::notWritten($part, max(strlen($chunk), ($expected ?? 0) - $bytes));
                }
            }
            if ($bytes === 0) {
                throw Problem::inFile($name.' is empty.', 'Export it again.');
            }
            if ($expected !== null && $bytes !== $expected) {
                throw Problem::inFile($name.' arrived only in part.', 'Bring it in again.');
            }
            $good = true;

            return [$part, hash_final($hash), $bytes];
        } finally {
            fclose($out);
            if (! $good) {
                @unlink($part);
            }
        }
    }
}
