<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Problem;

/**
 * The frames of one bake in a folder: records in files of sixteen, which never change once they are full; an index; a line
 * of figures a frame; and states to go on from. A frame is there when the index says so, which is written last. Writing
 * the same frame twice writes the same bytes in the same place, so two workers on one bake do no harm. It needs no
 * framework.
 */
final class FrameStore
{
    /** Frames in a file. */
    public const BLOCK = 16;

    /** Bytes a frame takes in the index: where its record begins, and how long it is. */
    private const ENTRY = 8;

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
        if (! is_dir($this->folder) && ! @mkdir($this->folder, 0o777, true) && ! is_dir($this->folder)) {
            throw Problem::full();
        }
        $index = @fopen($this->folder.'/index', 'c+b') ?: throw Problem::full();
        $figures = @fopen($this->folder.'/figures.jsonl', 'a+b') ?: throw Problem::full();
        try {
            // A line torn by a full disk or a killed worker must not run into the next.
            if (fseek($figures, -1, SEEK_END) === 0 && fread($figures, 1) !== "\n") {
                self::write($figures, "\n");
            }
            foreach ($frames as $frame) {
                $k = $frame->number - $this->first;
                $record = FrameRecord::encode($frame->number, $frame->streams);
                $at = $k % self::BLOCK === 0 ? 0 : array_sum($this->entry($index, $k - 1) ?? throw Problem::onDisk('A frame before this one is missing.', 'Bake again.'));
                $block = @fopen($this->block($k), 'c+b') ?: throw Problem::full();
                fseek($block, $at);
                try {
                    self::write($block, $record);
                } finally {
                    fclose($block);
                }
                self::write($figures, json_encode($frame->told())."\n");
                fseek($index, $k * self::ENTRY);
                self::write($index, pack('VV', $at, strlen($record)));
            }
        } finally {
            fclose($index);
            fclose($figures);
        }
    }

    /**
     * The records of some frames, one after the other; fewer where not all are there.
     *
     * @param  int  $from  counted from the first
     */
    public function records(int $from, int $count, int $bytes = PHP_INT_MAX): string
    {
        $index = @fopen($this->folder.'/index', 'rb');
        if ($index === false) {
            return '';
        }
        $out = '';
        $block = null;
        for ($k = $from; $k < $from + $count && strlen($out) < $bytes; $k++) {
            $entry = $this->entry($index, $k);
            if ($entry === null) {
                break;
            }
            if ($block === null || $k % self::BLOCK === 0) {
                $block = @fopen($this->block($k), 'rb');
            }
            $record = $block === false ? '' : (string) stream_get_contents($block, $entry[1], $entry[0]);
            if (strlen($record) !== $entry[1]) {
                break;
            }
            $out .= $record;
        }
        fclose($index);

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
            throw Problem::onDisk('A baked frame is missing.', 'Bake again.');
        }

        return FrameRecord::decode($record)[1];
    }

    /** @return list<array<string, mixed>> the last word on every frame from one on, in order */
    public function figures(int $from = 0, int $below = PHP_INT_MAX): array
    {
        return array_values(array_map(static fn (string $line): array => (array) json_decode($line, true), $this->lines($from, $below)));
    }

    /** How many frames are there, from the first on without a gap. */
    public function count(): int
    {
        $bytes = @filesize($this->folder.'/index');

        return $bytes === false ? 0 : intdiv($bytes, self::ENTRY);
    }

    public function keepState(int $frame, string $state): void
    {
        $path = sprintf('%s/state-%07d', $this->folder, $frame - $this->first);
        $part = $path.'.part-'.getmypid();
        if (@file_put_contents($part, $state) !== strlen($state) || ! @rename($part, $path)) {
            @unlink($part);
            throw Problem::full();
        }
        $this->thin();
    }

    /** @return array{int, string}|null number of the last frame up to one that has a state, and the state */
    public function stateUpTo(int $frame): ?array
    {
        foreach (array_reverse($this->states(), true) as $k => $path) {
            if ($k <= $frame - $this->first) {
                return [$k + $this->first, (string) file_get_contents($path)];
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
        if (! is_dir($this->folder) && ! @mkdir($this->folder, 0o777, true) && ! is_dir($this->folder)) {
            throw Problem::full();
        }
        for ($k = 0; $k < $frames; $k += self::BLOCK) {
            $whole = $k + self::BLOCK <= $frames;
            $from = $other->block($k);
            if ($whole ? ! @link($from, $this->block($k)) && ! @copy($from, $this->block($k)) : ! @copy($from, $this->block($k))) {
                throw Problem::full();
            }
        }
        $index = substr((string) @file_get_contents($other->folder.'/index'), 0, $frames * self::ENTRY);
        $lines = implode('', array_map(static fn (string $line): string => $line."\n", $other->lines(0, $frames)));
        if (@file_put_contents($this->folder.'/figures.jsonl', $lines) === false || @file_put_contents($this->folder.'/index', $index) === false) {
            throw Problem::full();
        }
        foreach ($other->states() as $k => $path) {
            if ($k < $frames && ! @link($path, $this->folder.'/'.basename($path))) {
                @copy($path, $this->folder.'/'.basename($path));
            }
        }
    }

    /** @return array<int, string> the last line on every frame, counted from the first */
    private function lines(int $from, int $below): array
    {
        $by = [];
        foreach (@file($this->folder.'/figures.jsonl', FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            if (str_starts_with($line, '{"frame":') && str_ends_with($line, '}')) {
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
     * @return array{int, int}|null
     */
    private function entry($index, int $k): ?array
    {
        fseek($index, $k * self::ENTRY);
        $bytes = (string) fread($index, self::ENTRY);
        $entry = strlen($bytes) === self::ENTRY ? unpack('V2', $bytes) : false;

        return $entry === false || $entry[2] === 0 ? null : [$entry[1], $entry[2]];
    }

    /** @param  resource  $file */
    private static function write($file, string $bytes): void
    {
        if (@fwrite($file, $bytes) !== strlen($bytes)) {
            throw Problem::full();
        }
    }
}
