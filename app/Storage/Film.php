<?php

declare(strict_types=1);

namespace App\Storage;

use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/** Films, read by Debian's ffmpeg where it is there. */
final class Film
{
    public const KINDS = ['mp4', 'mov', 'mkv', 'webm', 'avi', 'mxf', 'm4v', 'mpg'];

    private const MOST_FRAMES = 5000;

    private const MOST_WIDTH = 1920;

    public static function canBeRead(): bool
    {
        return (new ExecutableFinder)->find('ffmpeg') !== null;
    }

    /**
     * Its pictures as files on their way in, in order; wide ones are made narrower.
     *
     * @return list<string> their paths
     *
     * @throws Problem where it is no film, or too long
     */
    public static function pictures(string $path, string $name, Progress $progress): array
    {
        $ffmpeg = (new ExecutableFinder)->find('ffmpeg');
        if ($ffmpeg === null) {
            throw self::missing();
        }
        $folder = AssetStore::incoming().'-film';
        mkdir($folder);
        // Only the file itself is opened, whatever is written in it.
        $run = new Process([$ffmpeg, '-nostdin', '-v', 'error', '-protocol_whitelist', 'file', '-i', 'file:'.$path, '-an', '-sn', '-map', '0:v:0', '-vf', 'scale=\'min('.self::MOST_WIDTH.',iw)\':-2', '-frames:v', (string) (self::MOST_FRAMES + 1), '-q:v', '3', '-fps_mode', 'passthrough', $folder.'/%05d.jpg'], timeout: null);
        $run->start();
        while ($run->isRunning()) {
            $progress->report(0.5);
            usleep(100_000);
        }
        $pictures = glob($folder.'/*.jpg') ?: [];
        $moved = [];
        foreach ($pictures as $picture) {
            rename($picture, $to = AssetStore::incoming());
            $moved[] = $to;
        }
        rmdir($folder);
        if ($moved === [] || count($moved) > self::MOST_FRAMES || ! $run->isSuccessful()) {
            array_map(unlink(...), $moved);
            throw count($moved) > self::MOST_FRAMES
                ? Problem::inFile($name.' has more than '.self::MOST_FRAMES.' frames.', 'Cut it shorter.')
                : Problem::inFile('"'.mb_substr($name, -60).'" is no film that can be read.', 'Save it as MP4, or bring it in as numbered pictures.');
        }

        return $moved;
    }

    public static function missing(): Problem
    {
        return Problem::inFile('Films cannot be read here: ffmpeg is not installed.', 'Bring the plate in as numbered pictures, or install ffmpeg and start again.');
    }
}
