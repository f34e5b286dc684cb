<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\HandOff;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\BakeFiles;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\HandOff as Writer;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use ZipArchive;

/** Writes a bake in an open format; several files leave as one zip. */
final class WriteHandOff implements ShouldQueue
{
    use Queueable;

    public int $tries = 2;

    public int $timeout = 55;

    public function __construct(private readonly string $handOffId)
    {
    }

    public function handle(ShardStore $store, AssetSource $assets): void
    {
        $handOff = HandOff::query()->findOrFail($this->handOffId);
        $bake = $handOff->bake;
        try {
            $shot = $bake->spec();
            $shards = [];
            foreach ($shot->props as $prop) {
                $shards[$prop->id] = $store->of($prop);
            }
            $bytes = (new BakeFiles($bake))->frames(0, $bake->frames_done);
            $size = max(1, $bake->pieces * Frame::STRIDE);
            $folder = dirname(YardFiles::path('hand-offs/'.$handOff->id.'/x'));
            $files = (new Writer($shot, Baker::pieces($shot, $shards), $assets))->write($handOff->format, $folder, str_split($bytes, $size));
            $file = count($files) === 1 ? $files[0] : $this->zip($files, $folder.'/'.Writer::fileName($shot->name).'-'.$handOff->format.'.zip');
            $handOff->update(['state' => 'done', 'file' => basename($file), 'bytes' => filesize($file)]);
        } catch (Problem $e) {
            $handOff->update(['state' => 'failed', 'problem' => $e->toArray()]);
        }
    }

    public function failed(?Throwable $e): void
    {
        HandOff::query()->whereKey($this->handOffId)->update(['state' => 'failed', 'problem' => json_encode(['kind' => 'internal', 'message' => 'The hand-off could not be written.', 'path' => '', 'remedy' => 'Try again; the log in storage/logs says more.'])]);
    }

    /** @param  list<string>  $files */
    private function zip(array $files, string $path): string
    {
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
            throw Problem::onDisk('The hand-off cannot be written.', 'Check the room on the disk.');
        }
        foreach ($files as $file) {
            $zip->addFile($file, basename($file));
        }
        if (! $zip->close()) {
            throw Problem::onDisk('The hand-off cannot be written: the disk is full.', 'Make room and try again.');
        }
        array_map(unlink(...), $files);

        return $path;
    }
}
