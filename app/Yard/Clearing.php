<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Edit;
use App\Models\HandOff;
use App\Models\Preset;
use App\Models\Shot;
use App\Models\UsualMaterial;
use App\Models\Variant;
use App\Storage\Room;
use App\Storage\YardFiles;
use FilesystemIterator;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\Storage;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;
use YardBreak\Core\Shot\ShotSpec;

/**
 * What the yard takes on the disk, and what of it can go: files that no document, undo step or bake refers to, bakes
 * that a later one of the same shot has followed, and shots that were deleted, each after a time. What can be made again
 * goes before that where it is much.
 */
final class Clearing
{
    /** Folders of what can be made again from documents; named by what it was made of. */
    private const MADE_AGAIN = ['meshes', 'shards', 'pictures', 'locks', 'asset-names'];

    /** Folders of what somebody may be at just now, and for how many seconds. */
    private const IN_USE = ['incoming', 'locks'];

    private const USED = 3600;

    /** @return array{bytes: int, clearable: int, again: int, keep: int} all of it, what of it can go, what can be made again, and what that may take */
    public function space(): array
    {
        $kept = $this->kept();
        $all = $gone = 0;
        foreach ($this->files() as $name => $file) {
            $all += $file->getSize();
            $gone += $this->isKept($name, $file, $kept) ? 0 : $file->getSize();
        }

        return ['bytes' => $all, 'clearable' => $gone, 'again' => (new Keeping($this))->bytes(), 'keep' => (int) config('yard.keep')];
    }

    /**
     * @param  int  $age  seconds; what is younger stays
     * @return int bytes that were cleared
     */
    public function clear(int $age): int
    {
        $before = now()->subSeconds($age);
        Shot::onlyTrashed()->where('deleted_at', '<=', $before)->get()->each(static fn (Shot $shot) => $shot->forceDelete());
        Bake::query()->whereNotIn('id', $this->latest())->whereNotIn('state', ['queued', 'running'])->where('updated_at', '<=', $before)->delete();
        $kept = $this->kept();
        $cleared = 0;
        foreach ($this->files() as $name => $file) {
            $bytes = $file->getSize();
            if (! $this->isKept($name, $file, $kept) && $file->getMTime() <= $before->getTimestamp() && @unlink($file->getPathname())) {
                $cleared += $bytes;
            }
        }
        Asset::query()->whereNotIn('hash', array_keys($kept))->where('updated_at', '<=', $before)->delete();
        $this->dropEmptyFolders();
        Room::reserve();

        return $cleared;
    }

    /** @return list<string> the bakes that belong to what is shown: the last of each shot, the last that is done, and those of its trials */
    private function latest(): array
    {
        return [
            ...$this->last(Bake::query()->where('own', true)),
            ...$this->last(Bake::query()->where('own', true)->where('state', 'done')),
            ...array_values(Variant::query()->whereNotNull('bake_id')->pluck('bake_id')->all()),
        ];
    }

    /**
     * @param  Builder<Bake>  $bakes
     * @return list<string> of each shot the one asked for last
     */
    private function last(Builder $bakes): array
    {
        return array_values($bakes->orderBy('wanted_at')->orderBy('id')->pluck('id', 'shot_id')->all());
    }

    /** @return array<string, true> everything that is referred to: assets, fingerprints, and ids of bakes, hand-offs and shots */
    public function kept(): array
    {
        $kept = [];
        $bakes = Bake::query()->whereHas('shot')->where(fn ($q) => $q->whereIn('id', $this->latest())->orWhereIn('state', ['queued', 'running']));
        foreach ((clone $bakes)->pluck('id') as $id) {
            $kept[$id] = true;
        }
        foreach (HandOff::query()->whereIn('bake_id', (clone $bakes)->select('id'))->pluck('id') as $id) {
            $kept[$id] = true;
        }
        foreach (Shot::query()->pluck('id') as $id) {
            $kept[$id] = true;
        }
        foreach ((clone $bakes)->pluck('shards') as $shards) {
            foreach (is_array($shards) ? $shards : (array) json_decode((string) $shards, true) as $key) {
                $kept[$key] = true;
            }
        }
        foreach ([Shot::query()->pluck('document'), (clone $bakes)->pluck('document')] as $documents) {
            foreach ($documents as $document) {
                foreach (ShotSpec::ofKept($document)->props as $prop) {
                    $kept[$prop->shardKey()] = $kept[PropPicture::key($prop)] = $kept[$prop->meshKey()] = true;
                }
                $this->assetsIn($document, $kept);
            }
        }
        foreach (Edit::query()->whereIn('shot_id', Shot::query()->select('id'))->select(['patch', 'inverse'])->cursor() as $edit) {
            $this->assetsIn($edit->patch.$edit->inverse, $kept);
        }
        foreach ([...Preset::query()->pluck('prop'), ...UsualMaterial::query()->pluck('material')] as $json) {
            $this->assetsIn($json, $kept);
        }

        return $kept;
    }

    /** @param  array<string, true>  $kept */
    private function assetsIn(string $json, array &$kept): void
    {
        preg_match_all('/"([0-9a-f]{64})"/', $json, $found);
        foreach ($found[1] as $hash) {
            $kept[$hash] = true;
        }
    }

    /** @param  array<string, true>  $kept */
    public function isKept(string $name, SplFileInfo $file, array $kept): bool
    {
        $parts = explode('/', $name);
        if (count($parts) === 1) {
            return true;
        }
        if (in_array($parts[0], self::IN_USE, true) && $file->getMTime() > time() - self::USED) {
            return true;
        }
        if ($parts[0] === 'bakes' || $parts[0] === 'hand-offs') {
            return isset($kept[$parts[1]]);
        }
        if ($parts[0] === 'assets' || in_array($parts[0], self::MADE_AGAIN, true)) {
            // A file is named by what it was made of, whatever stands before and after.
            return preg_match('/[0-9a-f]{64}|[0-9a-z]{26}/', basename($name), $found) === 1 && isset($kept[$found[0]]);
        }

        return false;
    }

    /**
     * @param  list<string>  $in  folders; where it is empty, all
     * @return iterable<string, SplFileInfo> by name below the yard's folder
     */
    public function files(array $in = []): iterable
    {
        $root = rtrim(YardFiles::folder(''), '/').'/';
        foreach ($in === [] ? [''] : $in as $folder) {
            if (! is_dir($root.$folder)) {
                continue;
            }
            $all = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root.$folder, FilesystemIterator::SKIP_DOTS), RecursiveIteratorIterator::LEAVES_ONLY, RecursiveIteratorIterator::CATCH_GET_CHILD);
            foreach ($all as $file) {
                // Others work here too: what was there a moment ago may be gone.
                if ($file instanceof SplFileInfo && is_file($file->getPathname())) {
                    yield substr($file->getPathname(), strlen($root)) => $file;
                }
            }
        }
    }

    private function dropEmptyFolders(): void
    {
        foreach (Storage::disk()->allDirectories() as $folder) {
            @rmdir(Storage::disk()->path($folder));
        }
    }
}
