<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Bake;
use App\Models\HandOff;
use App\Storage\YardFiles;
use App\Yard\BakedShot;
use App\Yard\Mending;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Format\UniqueNames;
use YardBreak\Core\Problem;
use ZipArchive;

/**
 * Writes a bake in an open format; several files leave as one zip. It works for some seconds, packs what it has, and
 * hands over to the next slice; what is packed is never written again.
 */
final class WriteHandOff implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    /** Text packs well enough at the least effort. */
    private const PACKING = 1;

    public function __construct(private readonly string $handOffId)
    {
    }

    public function lock(): string
    {
        return 'hand-off-'.$this->handOffId;
    }

    public function handle(BakedShot $baked): void
    {
        $handOff = HandOff::query()->find($this->handOffId);
        if ($handOff === null || $handOff->state !== 'queued') {
            return;
        }
        try {
            $this->writeOn($handOff, $baked);
        } catch (Problem $e) {
            $this->failed($e);
        }
    }

    public function failed(?Throwable $e): void
    {
        $bake = $e instanceof Problem && $e->kind === Problem::DAMAGED ? HandOff::query()->find($this->handOffId)?->bake : null;
        if ($bake !== null) {
            Mending::of($bake);
        }
        $problem = $e instanceof Problem ? $e : new Problem('internal', 'The hand-off could not be written.', '', 'Try again.');
        HandOff::query()->whereKey($this->handOffId)->update(['state' => 'failed', 'problem' => json_encode($problem->toArray())]);
        $this->clear(null);
    }

    private function writeOn(HandOff $handOff, BakedShot $baked): void
    {
        $bake = $handOff->bake;
        $writer = $baked->writer($bake, $handOff->frames);
        $shot = $writer->shot;
        $files = $writer->files($handOff->format);
        if (count($files) === 1) {
            $this->clear(null);
            $writer->write($handOff->format, 0, $this->path($files[0]));
            $this->finish($handOff, $files[0]);

            return;
        }
        $zip = UniqueNames::plain($shot->name).'-'.$handOff->format.'.zip';
        $this->clear($zip);
        $done = $this->packed($zip);
        $until = microtime(true) + (float) config('yard.bake_slice');
        $new = [];
        while ($done < count($files) && ($new === [] || microtime(true) < $until)) {
            $writer->write($handOff->format, $done, $this->path($files[$done]));
            $new[] = $files[$done++];
            Beating::gotOn();
        }
        $this->pack($zip, $new);
        $handOff->update(['share' => $done / count($files)]);
        if ($done === count($files)) {
            $this->finish($handOff, $zip);
        } else {
            self::dispatch($handOff->id);
        }
    }

    private function finish(HandOff $handOff, string $file): void
    {
        $handOff->update(['state' => 'done', 'share' => 1.0, 'file' => $file, 'bytes' => filesize($this->path($file))]);
    }

    private function packed(string $zip): int
    {
        $in = new ZipArchive;

        return is_file($this->path($zip)) && $in->open($this->path($zip), ZipArchive::RDONLY) === true ? $in->numFiles : 0;
    }

    /** @param  list<string>  $files */
    private function pack(string $zip, array $files): void
    {
        $out = new ZipArchive;
        if ($out->open($this->path($zip), ZipArchive::CREATE) !== true) {
            throw Problem::notWritten($this->path($zip));
        }
        foreach ($files as $file) {
            if (! $out->addFile($this->path($file), $file) || ! $out->setCompressionName($file, ZipArchive::CM_DEFLATE, self::PACKING)) {
                throw Problem::notWritten($this->path($zip));
            }
        }
        if (! @$out->close()) {
            throw Problem::notWritten($this->path($zip));
        }
        foreach ($files as $file) {
            unlink($this->path($file));
        }
    }

    private function path(string $file): string
    {
        return YardFiles::path('hand-offs/'.$this->handOffId.'/'.$file);
    }

    /** Takes away what an end in the middle left, but for one file. */
    private function clear(?string $keep): void
    {
        foreach (glob($this->path('*')) ?: [] as $path) {
            if (basename($path) !== $keep) {
                @unlink($path);
            }
        }
    }
}
