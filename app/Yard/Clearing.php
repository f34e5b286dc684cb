<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Edit;
use App\Models\HandOff;
use App\Models\Shot;
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
 * that a later one of the same shot has followed, and shots that were deleted, each after a time.
 */
final class Clearing
{
    /** Folders of what can be made again from documents; named by what it was made of. */
    private const MADE_AGAIN = ['meshes', 'shards', 'pictures', 'locks', 'asset-names'];

    /** Folders of what somebody may be at just now, and for how many seconds. */
    private const IN_USE = ['incoming', 'locks'];

    private const USED = 3600;

    /** @return array{bytes: int, clearable: int, bakes: int, keep: int} all of it, what of it can go, what bakes take, and what they may */
    public function space(): array
    {
        $kept = $this->kept();
        $all = $gone = 0;
        foreach ($this->files() as $name => $file) {
            $all += $file->getSize();
            $gone += $this->isKept($name, $file, $kept) ? 0 : $file->getSize();
        }

        return ['bytes' => $all, 'clearable' => $gone, 'bakes' => array_sum($this->bakes()), 'keep' => (int) config('yard.keep_bakes')];
    }

    /** @return array<string, int> bytes by id, those asked for longest ago first; files two of them share count once, with the later */
    private function bakes(): array
    {
        $bytes = $seen = [];
        foreach (Bake::query()->orderByDesc('wanted_at')->orderByDesc('id')->pluck('id') as $id) {
            $bytes[$id] = 0;
            foreach (glob(YardFiles::folder('bakes/'.$id).'/*') ?: [] as $path) {
                $node = (int) @fileinode($path);
                $bytes[$id] += isset($seen[$node]) ? 0 : (int) @filesize($path);
                $seen[$node] = true;
            }
        }

        return array_reverse($bytes, true);
    }

    /** Of bakes that take too much together those go that were asked for longest ago, but never what is shown. */
    private function keepWithin(int $most): void
    {
        $bytes = $this->bakes();
        $all = array_sum($bytes);
        $stay = array_fill_keys($this->latest(), true);
        foreach ($bytes as $id => $size) {
            if ($all > $most && ! isset($stay[$id]) && Bake::query()->whereKey($id)->whereNotIn('state', ['queued', 'running'])->delete() === 1) {
                $all -= $size;
                array_map(unlink(...), glob(YardFiles::folder('bakes/'.$id).'/*') ?: []);
            }
        }
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
        $this->keepWithin((int) config('yard.keep_bakes'));
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

    /** @return list<string> the bakes that belong to what is shown: the last of each shot, and the last that is done */
    private function latest(): array
    {
        return [
            ...$this->last(Bake::query()),
            ...$this->last(Bake::query()->where('state', 'done')),
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
    private function kept(): array
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
    private function isKept(string $name, SplFileInfo $file, array $kept): bool
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

    /** @return iterable<string, SplFileInfo> by name below the yard's folder */
    private function files(): iterable
    {
        $root = rtrim(dirname(YardFiles::path('x')), '/').'/';
        $all = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS));
        foreach ($all as $file) {
            if ($file instanceof SplFileInfo && $file->isFile()) {
                yield substr($file->getPathname(), strlen($root)) => $file;
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
