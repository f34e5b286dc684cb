<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Bake;
use App\Storage\YardFiles;
use SplFileInfo;

/**
 * Holds what can be made again within a limit, while the yard runs: what was used longest ago goes first. What belongs to
 * what is shown stays: the pieces and pictures of every shot as it is, and its last bake.
 */
final class Keeping
{
    /** Folders of what can be made again, but for bakes. */
    private const MADE_AGAIN = ['meshes', 'shards', 'pictures', 'maps', 'touches', 'asset-names'];

    /** Seconds between looks. */
    private const EVERY = 15;

    /** Seconds after its use that nothing goes: somebody may be at it. */
    private const IN_USE = 60;

    /** Of the limit, what is left where it was passed, so that it is not passed again at once. */
    private const LEAVES = 0.85;

    public function __construct(private readonly Clearing $clearing)
    {
    }

    /** Looks whether too much is kept, unless that was done just now; jobs that keep something do, at their end. */
    public static function look(): void
    {
        $turn = YardFiles::lock('keeping');
        $stamp = stream_get_meta_data($turn)['uri'];
        clearstatcache(true, $stamp);
        if ((fstat($turn)['size'] ?? 0) > 0 && filemtime($stamp) > time() - self::EVERY || ! flock($turn, LOCK_EX | LOCK_NB)) {
            return;
        }
        ftruncate($turn, 0);
        fwrite($turn, '.');
        fflush($turn);
        app(self::class)->within((int) config('yard.keep'));
        fclose($turn);
    }

    /** Bytes of what can be made again. */
    public function bytes(): int
    {
        return array_sum(array_column($this->items(null), 'bytes'));
    }

    /**
     * @param  int  $most  bytes
     * @return int bytes that went
     */
    public function within(int $most): int
    {
        $all = $this->bytes();
        if ($all <= $most) {
            return 0;
        }
        $items = $this->items($this->clearing->kept());
        usort($items, static fn (array $a, array $b): int => $a['used'] <=> $b['used']);
        $gone = 0;
        foreach ($items as $item) {
            if ($all - $gone <= self::LEAVES * $most) {
                break;
            }
            if ($item['used'] <= time() - self::IN_USE && $item['drop'] !== null && $item['drop']()) {
                $gone += $item['bytes'];
            }
        }

        return $gone;
    }

    /**
     * @param  array<string, true>|null  $kept  what is referred to; null where nothing is to go
     * @return list<array{used: int, bytes: int, drop: (\Closure(): bool)|null}> without a way to drop it where it stays
     */
    private function items(?array $kept): array
    {
        $items = [];
        foreach ($this->clearing->files(self::MADE_AGAIN) as $name => $file) {
            $stays = $kept === null || $this->clearing->isKept($name, $file, $kept);
            $items[] = ['used' => $file->getMTime(), 'bytes' => $file->getSize(), 'drop' => $stays ? null : self::drop($file)];
        }
        $seen = [];
        /** @var iterable<Bake> $bakes */
        $bakes = Bake::query()->orderByDesc('wanted_at')->orderByDesc('id')->get(['id', 'wanted_at', 'state']);
        foreach ($bakes as $bake) {
            $files = array_map(static fn (string $path): SplFileInfo => new SplFileInfo($path), glob(YardFiles::folder('bakes/'.$bake->id).'/*') ?: []);
            $states = array_filter($files, static fn (SplFileInfo $f): bool => str_starts_with($f->getFilename(), 'state-'));
            $last = array_key_last($states);
            $whole = 0;
            foreach ($files as $k => $file) {
                // What two bakes share counts once, with the later.
                $node = (int) @$file->getInode();
                $bytes = isset($seen[$node]) ? 0 : (int) @$file->getSize();
                $seen[$node] = true;
                if (isset($states[$k]) && $k !== $last && isset($kept[$bake->id]) && ! $bake->isOpen()) {
                    $items[] = ['used' => (int) @$file->getMTime(), 'bytes' => $bytes, 'drop' => self::drop($file)];
                } else {
                    $whole += $bytes;
                }
            }
            $stays = $kept === null || isset($kept[$bake->id]);
            $items[] = ['used' => (int) strtotime($bake->wanted_at.' UTC'), 'bytes' => $whole, 'drop' => $stays ? null : static function () use ($bake, $files): bool {
                $gone = Bake::query()->whereKey($bake->id)->whereNotIn('state', ['queued', 'running'])->delete() === 1;
                foreach ($gone ? $files : [] as $file) {
                    @unlink($file->getPathname());
                }
                @rmdir(YardFiles::folder('bakes/'.$bake->id));

                return $gone;
            }];
        }

        return $items;
    }

    /** @return \Closure(): bool */
    private static function drop(SplFileInfo $file): \Closure
    {
        return static fn (): bool => @unlink($file->getPathname());
    }
}
