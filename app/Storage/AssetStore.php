<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\Asset;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;

/** Mesh files, kept once under the hash of their content. */
final class AssetStore implements AssetSource
{
    public function path(string $asset): string
    {
        $path = YardFiles::path('assets/'.basename($asset));
        if (! is_file($path)) {
            throw Problem::inFile('The mesh file of this prop is missing from the yard.', 'Bring the file in again.');
        }

        return $path;
    }

    /** What a server that was killed in the middle of an upload left behind. */
    private function sweep(): void
    {
        foreach (glob(YardFiles::path('assets/part-*')) ?: [] as $part) {
            if (filemtime($part) < time() - 3600) {
                @unlink($part);
            }
        }
    }

    /**
     * Takes a stream in. A broken-off upload leaves nothing behind.
     *
     * @param  resource  $in
     * @param  int|null  $expected  bytes the sender announced
     *
     * @throws Problem where it is too large or breaks off
     */
    public function take($in, string $name, ?int $expected): Asset
    {
        $this->sweep();
        $most = (int) config('yard.largest_upload');
        $temporary = YardFiles::path('assets/part-'.bin2hex(random_bytes(8)));
        $out = @fopen($temporary, 'wb');
        if ($out === false) {
            throw Problem::onDisk('The storage folder cannot be written to.', 'Check its permissions.');
        }
        try {
            $hash = hash_init('sha256');
            $bytes = 0;
            while (! feof($in)) {
                $chunk = (string) fread($in, 1 << 18);
                $bytes += strlen($chunk);
                if ($bytes > $most) {
                    throw Problem::inFile(sprintf('%s is larger than %d MB.', $name, intdiv($most, 1024 * 1024)), 'Reduce the mesh, or save it in a binary format.');
                }
                hash_update($hash, $chunk);
                if (@fwrite($out, $chunk) !== strlen($chunk)) {
                    throw Problem::onDisk('The disk is full.', 'Make room and bring the file in again.');
                }
            }
            if ($bytes === 0) {
                throw Problem::inFile($name.' is empty.', 'Export it again.');
            }
            if ($expected !== null && $bytes !== $expected) {
                throw Problem::inFile($name.' arrived only in part.', 'Bring it in again.');
            }
            fclose($out);
            $id = hash_final($hash);
            rename($temporary, YardFiles::path('assets/'.$id));
        } finally {
            if (is_resource($out)) {
                fclose($out);
            }
            @unlink($temporary);
        }

        return Asset::query()->updateOrCreate(['hash' => $id], ['name' => $name, 'bytes' => $bytes]);
    }
}
