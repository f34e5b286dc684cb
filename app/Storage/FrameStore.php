<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Problem;

/**
 * The frames of one bake in a folder: records in files of sixteen, which never change once they are full; an index; a line
 * of figures a frame; and states to go on from. A frame is there when the index says so, which is written last. Writing
 * the same frame twice writes the same bytes in the same place, so two workers on one bake do no harm. Records, lines and
 * states carry a checksum, and what fails it is not there. It needs no framework.
 */
final class FrameStore
{
    /** Frames in a file. */
    public const BLOCK = 16;

    /** Bytes a frame takes in the index: where its record begins, how long it is, and its checksum. */
    private const ENTRY = 8 + Sealed::CHECK;

    /** Bytes of states kept of a bake. */
    private const MOST_STATES = 256_000_000;

    public function __construct(private readonly string $folder, private readonly int $first)
    {
    }

    /**
     * @param  list<Frame>  $frames  in rising order, the first following what is there
     *
     * @throws Problem where the disk does not take them
     */
    public function put(array $frames): void
    {
        if ($frames === []) {
            return;
        }
        $this->make();
        $index = @fopen($this->folder.'/index', 'c+b') ?: throw Problem::notWritten($this->folder);
        $figures = @fopen($this->folder.'/figures.jsonl', 'a+b') ?: throw Problem::notWritten($this->folder);
        try {
            // A line torn by a full disk or a killed worker must not run into the next.
            if (fseek($figures, -1, SEEK_END) === 0 && fread($figures, 1) !== "\n") {
                $this->write($figures, "\n");
            }
            foreach ($frames as $frame) {
                $k = $frame->number - $this->first;
                $record = FrameRecord::encode($frame->number, $frame->streams);
                [$from, $length] = $k % self::BLOCK === 0 ? [0, 0] : $this->entry($index, $k - 1) ?? throw Problem::damaged('A frame before this one is missing.');
                $at = $from + $length;
                $block = @fopen($this->block($k), 'c+b') ?: throw Problem::notWritten($this->folder, strlen($record));
                fseek($block, $at);
                try {
                    $this->write($block, $record);
                } finally {
                    fclose($block);
                }
                $line = (string) json_encode($frame->told());
                $this->write($figures, $line."\t".hash('xxh32', $line)."\n");
                fseek($index, $k * self::ENTRY);
                $this->write($index, pack('VV', $at, strlen($record)).hash('xxh128', $record, true));
            }
        } finally {
            fclose($index);
            fclose($figures);
        }
    }

    /**
     * The records of some frames, one after the other; fewer where not all are there, or one is damaged.
     *
     * @param  int  $from  counted from the first
     */
    public function records(int $from, int $count): string
    {
        return implode('', $this->stretch($from, $count, PHP_INT_MAX));
    }

    /**
     * As many of these records as are there, up to the one that makes them so many bytes.
     *
     * @return list<string>
     */
    public function stretch(int $from, int $count, int $bytes): array
    {
        $out = [];
        foreach ($this->read($from, $count) as $record) {
            $out[] = $record;
            $bytes -= strlen($record);
            if ($bytes <= 0) {
                break;
            }
        }

        return $out;
    }

    /**
     * @param  int  $k  counted from the first
     * @return array<int, array<int, string>> its streams by prop and kind
     *
     * @throws Problem where it is missing or damaged
     */
    public function streams(int $k): array
    {
        $record = $this->records($k, 1);
        if ($record === '') {
            throw Problem::damaged('A baked frame is missing or damaged on the disk.');
        }

        return FrameRecord::decode($record)[1];
    }

    /** Bytes that the records of some of the first frames take. */
    public function bytes(int $frames): int
    {
        $index = (string) @file_get_contents($this->folder.'/index', false, null, 0, max(0, $frames) * self::ENTRY);
        $sum = 0;
        for ($at = 0; $at + self::ENTRY <= strlen($index); $at += self::ENTRY) {
            $sum += unpack('V', $index, $at + 4)[1] ?? 0;
        }

        return $sum;
    }

    /** How many of the first frames hold: each there to the last bit, with its figures. */
    public function sound(int $frames): int
    {
        $sound = 0;
        $lines = $this->lines(0, $frames);
        foreach ($this->read(0, $frames) as $k => $record) {
            if (! isset($lines[$k])) {
                break;
            }
            $sound = $k + 1;
        }

        return $sound;
    }

    /** Whether the first frames seem to be there, by the sizes of their files alone. */
    public function seemsWhole(int $frames): bool
    {
        $index = @fopen($this->folder.'/index', 'rb');
        if ($index === false) {
            return $frames === 0;
        }
        try {
            for ($k = min(self::BLOCK, $frames) - 1; $k >= 0 && $k < $frames; $k = $k === $frames - 1 ? $frames : min($k + self::BLOCK, $frames - 1)) {
                $entry = $this->entry($index, $k);
                if ($entry === null || (int) @filesize($this->block($k)) < $entry[0] + $entry[1]) {
                    return false;
                }
            }
        } finally {
            fclose($index);
        }

        return is_file($this->folder.'/figures.jsonl') || $frames === 0;
    }

    /**
     * Throws away all frames and states from one on.
     *
     * @throws Problem where the disk does not take it
     */
    public function cutTo(int $frames): void
    {
        $this->make();
        $index = substr((string) @file_get_contents($this->folder.'/index'), 0, $frames * self::ENTRY);
        $lines = $this->whole($this->lines(0, $frames));
        // A file may be that of another bake too, so none is written in.
        for ($k = 0; is_file($this->block($k)); $k += self::BLOCK) {
            if ($k >= $frames) {
                @unlink($this->block($k));
            } elseif ($k + self::BLOCK > $frames) {
                WholeFile::put($this->block($k), (string) file_get_contents($this->block($k)));
            }
        }
        WholeFile::put($this->folder.'/index', $index);
        WholeFile::put($this->folder.'/figures.jsonl', $lines);
        foreach ($this->states() as $k => $path) {
            if ($k >= $frames) {
                @unlink($path);
            }
        }
    }

    /** @return list<array<string, mixed>> the last word on every frame from one on, in order */
    public function figures(int $from = 0, int $below = PHP_INT_MAX): array
    {
        return array_values(array_map(static fn (string $line): array => (array) json_decode($line, true), $this->lines($from, $below)));
    }

    public function keepState(int $frame, string $state): void
    {
        WholeFile::put(sprintf('%s/state-%07d', $this->folder, $frame - $this->first), Sealed::of($state));
        $this->thin();
    }

    /** @return array{int, string}|null number of the last frame up to one that has a state, and the state; those that are damaged go */
    public function stateUpTo(int $frame): ?array
    {
        foreach (array_reverse($this->states(), true) as $k => $path) {
            if ($k > $frame - $this->first) {
                continue;
            }
            $state = Sealed::read($path);
            if ($state !== null) {
                return [$k + $this->first, $state];
            }
        }

        return null;
    }

    public function dropState(int $frame): void
    {
        @unlink(sprintf('%s/state-%07d', $this->folder, $frame - $this->first));
    }

    /**
     * Takes over the first frames of another bake: files that are full are shared, for they never change.
     *
     * @throws Problem where the disk does not take them
     */
    public function takeFrom(self $other, int $frames): void
    {
        $this->make();
        for ($k = 0; $k < $frames; $k += self::BLOCK) {
            $whole = $k + self::BLOCK <= $frames;
            $from = $other->block($k);
            if ($whole ? ! @link($from, $this->block($k)) && ! @copy($from, $this->block($k)) : ! @copy($from, $this->block($k))) {
                throw is_file($from) ? Problem::notWritten($this->folder, (int) filesize($from)) : Problem::damaged('A baked frame is missing on the disk.');
            }
        }
        WholeFile::put($this->folder.'/figures.jsonl', $this->whole($other->lines(0, $frames)));
        WholeFile::put($this->folder.'/index', substr((string) @file_get_contents($other->folder.'/index'), 0, $frames * self::ENTRY));
        foreach ($other->states() as $k => $path) {
            if ($k < $frames && ! @link($path, $this->folder.'/'.basename($path))) {
                @copy($path, $this->folder.'/'.basename($path));
            }
        }
    }

    private function make(): void
    {
        if (! is_dir($this->folder) && ! @mkdir($this->folder, 0o777, true) && ! is_dir($this->folder)) {
            throw Problem::notWritten($this->folder);
        }
    }

    /**
     * Records in order, until one is not there or fails its checksum.
     *
     * @return iterable<int, string> by frame, counted from the first
     */
    private function read(int $from, int $count): iterable
    {
        $index = @fopen($this->folder.'/index', 'rb');
        if ($index === false) {
            return;
        }
        $block = false;
        $size = 0;
        for ($k = $from; $k < $from + $count; $k++) {
            $entry = $this->entry($index, $k);
            if ($k === $from || $k % self::BLOCK === 0) {
                $block = @fopen($this->block($k), 'rb');
                $size = $block === false ? 0 : (int) (fstat($block)['size'] ?? 0);
            }
            // Nothing is asked for that the file does not hold, whatever a damaged index says.
            if ($entry === null || $block === false || $size < $entry[0] + $entry[1]) {
                return;
            }
            $record = (string) stream_get_contents($block, $entry[1], $entry[0]);
            if (hash('xxh128', $record, true) !== $entry[2]) {
                return;
            }
            yield $k => $record;
        }
    }

    /** @param  array<int, string>  $lines */
    private function whole(array $lines): string
    {
        return implode('', array_map(static fn (string $line): string => $line."\t".hash('xxh32', $line)."\n", $lines));
    }

    /** @return array<int, string> the last line on every frame, counted from the first */
    private function lines(int $from, int $below): array
    {
        $by = [];
        foreach (@file($this->folder.'/figures.jsonl', FILE_IGNORE_NEW_LINES) ?: [] as $kept) {
            [$line, $check] = explode("\t", $kept, 2) + [1 => ''];
            if (str_starts_with($line, '{"frame":') && hash('xxh32', $line) === $check) {
                $k = (int) substr($line, 9, 12) - $this->first;
                if ($k >= $from && $k < $below) {
                    $by[$k] = $line;
                }
            }
        }
        ksort($by);

        return $by;
    }

    /** @return array<int, string> path by frame, counted from the first */
    private function states(): array
    {
        $out = [];
        foreach (glob($this->folder.'/state-[0-9]*') ?: [] as $path) {
            if (preg_match('/state-(\d{7})$/', $path, $found) === 1) {
                $out[(int) $found[1]] = $path;
            }
        }

        return $out;
    }

    /** Every second of the older states goes until they take little enough. */
    private function thin(): void
    {
        $states = $this->states();
        $bytes = array_sum(array_map(static fn (string $path): int => (int) @filesize($path), $states));
        while ($bytes > self::MOST_STATES && count($states) > 4) {
            $old = array_slice($states, 0, intdiv(count($states), 2), true);
            foreach (array_values($old) as $n => $path) {
                if ($n % 2 === 1) {
                    $bytes -= (int) @filesize($path);
                    @unlink($path);
                    unset($states[array_search($path, $states, true)]);
                }
            }
        }
    }

    private function block(int $k): string
    {
        return sprintf('%s/frames-%05d', $this->folder, intdiv($k, self::BLOCK));
    }

    /**
     * @param  resource  $index
     * @return array{int, int, string}|null where its record begins, how long it is, and its checksum
     */
    private function entry($index, int $k): ?array
    {
        fseek($index, $k * self::ENTRY);
        $bytes = (string) fread($index, self::ENTRY);
        $entry = strlen($bytes) === self::ENTRY ? unpack('V2', $bytes) : false;

        return $entry === false || $entry[2] === 0 ? null : [$entry[1], $entry[2], substr($bytes, 8)];
    }

    /** @param  resource  $file */
    private function write($file, string $bytes): void
    {
        if (@fwrite($file, $bytes) !== strlen($bytes)) {
            throw Problem::notWritten($this->folder, strlen($bytes));
        }
    }
}
