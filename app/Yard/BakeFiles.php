<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Bake;
use App\Storage\YardFiles;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Problem;

/**
 * The files of one bake: frames at fixed places in one file, a line of figures a frame, and the last checkpoint.
 * Writing the same frame twice writes the same bytes, so two workers on one bake do no harm.
 */
final class BakeFiles
{
    public function __construct(private readonly Bake $bake)
    {
    }

    public function framesPath(): string
    {
        return YardFiles::path('bakes/'.$this->bake->id.'/frames.bin');
    }

    /** @param  list<Frame>  $frames in rising order */
    public function put(array $frames): void
    {
        $records = fopen($this->framesPath(), 'c+b') ?: throw Problem::full();
        $figures = fopen($this->figuresPath(), 'a+b') ?: throw Problem::full();
        try {
            // A line torn by a full disk or a killed worker must not run into the next.
            if (fseek($figures, -1, SEEK_END) === 0 && fread($figures, 1) !== "\n" && @fwrite($figures, "\n") !== 1) {
                throw Problem::full();
            }
            foreach ($frames as $frame) {
                $line = json_encode(['frame' => $frame->number, ...$frame->figures, 'marks' => $frame->marks])."\n";
                fseek($records, ($frame->number - $this->bake->first) * strlen($frame->records));
                if (@fwrite($records, $frame->records) !== strlen($frame->records) || @fwrite($figures, $line) !== strlen($line)) {
                    throw Problem::full();
                }
            }
        } finally {
            fclose($records);
            fclose($figures);
        }
    }

    public function frames(int $from, int $count): string
    {
        $size = $this->bake->pieces * Frame::STRIDE;
        $in = @fopen($this->framesPath(), 'rb');
        if ($in === false || $count < 1) {
            return '';
        }
        fseek($in, $from * $size);
        $bytes = (string) stream_get_contents($in, $count * $size);
        fclose($in);

        return $bytes;
    }

    /** @return list<array<string, mixed>> the last word on every frame written, in order */
    public function figures(): array
    {
        $by = [];
        foreach (@file($this->figuresPath(), FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            $row = json_decode($line, true);
            if (is_int($row['frame'] ?? null)) {
                $by[$row['frame']] = $row;
            }
        }
        ksort($by);

        return array_values($by);
    }

    public function keepCheckpoint(Baker $baker): void
    {
        YardFiles::write('bakes/'.$this->bake->id.'/checkpoint', serialize($baker));
    }

    /** The state after the last checkpoint, if there is a readable one. */
    public function checkpoint(): ?Baker
    {
        $path = YardFiles::path('bakes/'.$this->bake->id.'/checkpoint');
        $baker = is_file($path) ? @unserialize((string) file_get_contents($path)) : null;

        return $baker instanceof Baker ? $baker : null;
    }

    public function dropCheckpoint(): void
    {
        @unlink(YardFiles::path('bakes/'.$this->bake->id.'/checkpoint'));
    }

    private function figuresPath(): string
    {
        return YardFiles::path('bakes/'.$this->bake->id.'/figures.jsonl');
    }
}
