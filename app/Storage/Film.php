<?php

declare(strict_types=1);

namespace App\Storage;

use Closure;
use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;
use YardBreak\Core\Problem;

/**
 * A film file, read by Debian's ffmpeg where it is there. What kind of container it is its first bytes say, and it is
 * opened as that and nothing else: a playlist, whatever its name, would have other files read, or never end.
 */
final readonly class Film
{
    /** How long a film may be, in frames. */
    private const MOST_FRAMES = 5000;

    /** Of its picture, pixels: those of 8K. */
    private const MOST_PIXELS = 8192 * 4320;

    /** Pixels a side of what is kept: as large as a plate is drawn. */
    private const KEPT = 1920;

    /** Seconds in which at least one more picture must come. */
    private const STEP = 30.0;

    /** Seconds all of it may take. */
    private const LONGEST = 1200.0;

    /** Seconds in which a film must say what it is. */
    private const LOOK = 15.0;

    /**
     * @param  string  $container  as ffmpeg calls it
     * @param  float  $rate  frames a second
     * @param  int|null  $frames  as far as it says
     */
    private function __construct(private string $path, private string $name, private string $container, public int $width, public int $height, public float $rate, public ?int $frames)
    {
    }

    public static function canBeRead(): bool
    {
        return (new ExecutableFinder)->find('ffmpeg') !== null;
    }

    /**
     * The container by its first bytes, or null where films are not brought in so.
     *
     * MP4, QuickTime (ISO/IEC 14496-12), Matroska (RFC 9559), AVI (RIFF), MXF (SMPTE ST 377-1), MPEG programme and
     * transport streams (ISO/IEC 13818-1), MPEG video.
     */
    public static function container(string $path): ?string
    {
        $head = (string) @file_get_contents($path, length: 400);

        return match (true) {
            in_array(substr($head, 4, 4), ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip'], true) => 'mov',
            str_starts_with($head, "\x1A\x45\xDF\xA3") => 'matroska',
            str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'AVI ' => 'avi',
            str_starts_with($head, "\x06\x0E\x2B\x34\x02\x05\x01\x01\x0D\x01\x02") => 'mxf',
            str_starts_with($head, "\0\0\x01\xBA") => 'mpeg',
            str_starts_with($head, "\0\0\x01\xB3") => 'mpegvideo',
            ($head[0] ?? '') === 'G' && ($head[188] ?? '') === 'G' && ($head[376] ?? '') === 'G' => 'mpegts',
            default => null,
        };
    }

    /**
     * What it says of itself, before any of it is read.
     *
     * @throws Problem where it is none, or larger or longer than can be taken in
     */
    public static function at(string $path, string $name): self
    {
        $name = mb_substr($name, -60);
        $container = self::container($path);
        $tool = (new ExecutableFinder)->find('ffprobe') ?? throw self::missing();
        if ($container === null) {
            throw self::unreadable($name);
        }
        $look = new Process([...self::withUs(), $tool, '-v', 'error', ...self::alone($container), '-select_streams', 'v:0', '-show_entries', 'stream=width,height,avg_frame_rate,nb_frames,duration:format=duration', '-of', 'json', 'file:'.$path], timeout: self::LOOK);
        try {
            $look->run();
        } catch (\RuntimeException) {
            throw self::unreadable($name);
        }
        $said = json_decode($look->getOutput(), true);
        $picture = is_array($said) ? $said['streams'][0] ?? null : null;
        [$width, $height] = [(int) ($picture['width'] ?? 0), (int) ($picture['height'] ?? 0)];
        if (! $look->isSuccessful() || $width < 1 || $height < 1) {
            throw self::unreadable($name);
        }
        [$above, $below] = array_map(floatval(...), explode('/', (string) ($picture['avg_frame_rate'] ?? ''), 2)) + [1 => 1.0];
        $rate = $below > 0.0 ? $above / $below : 0.0;
        $lasts = (float) ($picture['duration'] ?? $said['format']['duration'] ?? 0.0);
        $frames = is_numeric($picture['nb_frames'] ?? null) ? (int) $picture['nb_frames'] : ($lasts * $rate > 0.0 ? (int) round($lasts * $rate) : null);
        if ($width * $height > self::MOST_PIXELS) {
            throw Problem::inFile(sprintf('%s has %s × %s pixels, more than can be taken in.', $name, number_format($width), number_format($height)), 'Save it at 8192 × 4320 pixels or fewer.');
        }
        if ($frames > self::MOST_FRAMES) {
            throw self::tooLong($name, $frames);
        }

        return new self($path, $name, $container, $width, $height, $rate, $frames);
    }

    /** In words. */
    public function said(): string
    {
        return "{$this->width} × {$this->height} pixels".($this->rate > 0.0 ? ', '.round($this->rate, 3).' frames a second' : '').($this->frames === null ? '' : ", {$this->frames} ".($this->frames === 1 ? 'frame' : 'frames'));
    }

    /**
     * Its pictures as files on their way in, in order.
     *
     * @param  Closure(int): bool  $goOn  told how many there are, again and again; says whether they are still wanted
     * @return list<string> their paths
     *
     * @throws Problem where it cannot be read, is too long, or is not wanted any more
     */
    public function pictures(Closure $goOn): array
    {
        $tool = (new ExecutableFinder)->find('ffmpeg') ?? throw self::missing();
        $folder = AssetStore::incoming().'-film';
        if (! @mkdir($folder)) {
            throw Problem::notWritten($folder);
        }
        $run = new Process([...self::withUs(), $tool, '-nostdin', '-v', 'error', '-threads', '2', '-max_pixels', (string) self::MOST_PIXELS, ...self::alone($this->container), '-i', 'file:'.$this->path, '-an', '-sn', '-dn', '-map', '0:v:0',
            '-vf', 'scale=w=\'min('.self::KEPT.',iw)\':h=\'min('.self::KEPT.',ih)\':force_original_aspect_ratio=decrease', '-frames:v', (string) (self::MOST_FRAMES + 1), '-q:v', '3', '-fps_mode', 'passthrough', $folder.'/%05d.jpg'], timeout: null);
        try {
            $this->follow($run, $folder, $goOn);
            $pictures = glob($folder.'/*.jpg') ?: [];
            if (count($pictures) > self::MOST_FRAMES) {
                throw self::tooLong($this->name, null);
            }
            if ($pictures === [] || ! $run->isSuccessful()) {
                $free = @disk_free_space($folder);
                throw $free !== false && $free < 1e6 ? Problem::notWritten($folder, 1_000_000) : self::unreadable($this->name);
            }
            $moved = [];
            foreach ($pictures as $picture) {
                rename($picture, $to = AssetStore::incoming());
                $moved[] = $to;
            }

            return $moved;
        } finally {
            $run->stop(0.0);
            array_map(unlink(...), glob($folder.'/*') ?: []);
            rmdir($folder);
        }
    }

    public static function missing(): Problem
    {
        return Problem::inFile('Films cannot be read here: ffmpeg is not installed.', 'Bring the plate in as numbered pictures, or install ffmpeg and start again.');
    }

    public static function unreadable(string $name): Problem
    {
        return Problem::inFile('"'.mb_substr($name, -60).'" is no film that can be read.', 'Use MP4, QuickTime, Matroska, WebM, AVI, MXF or MPEG, or bring it in as numbered pictures.');
    }

    /** @param  Closure(int): bool  $goOn */
    private function follow(Process $run, string $folder, Closure $goOn): void
    {
        $run->start();
        $begun = $came = microtime(true);
        $there = 0;
        while ($run->isRunning()) {
            usleep(100_000);
            $now = microtime(true);
            $count = iterator_count(new \FilesystemIterator($folder));
            if ($count > $there) {
                [$there, $came] = [$count, $now];
            }
            if (! $goOn($there)) {
                throw Problem::cancelled();
            }
            if ($now - $came > self::STEP || $now - $begun > self::LONGEST) {
                throw Problem::inFile(sprintf('%s was given up after %d pictures: %s.', $this->name, $there, $now - $came > self::STEP ? 'no further one came for '.(int) self::STEP.' seconds' : 'reading it took longer than '.(int) (self::LONGEST / 60).' minutes'), 'Save it at fewer pixels or in another format, or cut it shorter.');
            }
        }
    }

    /** @return list<string> the file is opened as what it is, and nothing but the file */
    private static function alone(string $container): array
    {
        return ['-protocol_whitelist', 'file', '-format_whitelist', $container === 'mov' ? 'mov,mp4,m4a,3gp,3g2,mj2' : ($container === 'matroska' ? 'matroska,webm' : $container), ...($container === 'mov' ? ['-enable_drefs', '0'] : []), '-f', $container];
    }

    /** @return list<string> a child that ends when whoever started it does, however that came about */
    private static function withUs(): array
    {
        $tool = (new ExecutableFinder)->find('setpriv');

        return $tool === null ? [] : [$tool, '--pdeathsig', 'KILL', '--'];
    }

    private static function tooLong(string $name, ?int $frames): Problem
    {
        return Problem::inFile($name.' has '.($frames === null ? 'more than '.self::MOST_FRAMES : number_format($frames)).' frames; at most '.number_format(self::MOST_FRAMES).' can be taken in.', 'Cut it shorter.');
    }
}
