<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Storage\AssetStore;
use App\Storage\Film;
use App\Storage\Reading;
use App\Storage\YardFiles;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PlateMaker;

/** Takes a film file apart into the pictures of a plate. */
final class ReadFilm implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    /** Seconds after which it looks again whether another film is done. */
    private const PATIENCE = 2;

    private const TELL_EVERY = 0.4;

    public function __construct(private readonly string $key, private readonly string $name)
    {
    }

    public function lock(): string
    {
        return 'film-'.$this->key;
    }

    public function handle(AssetStore $store): void
    {
        $reading = new Reading($this->key);
        if (! $reading->isWanted()) {
            return;
        }
        // One worker at most is busy with films, so that bakes go on.
        $turn = YardFiles::lock('films');
        if (! flock($turn, LOCK_EX | LOCK_NB)) {
            $reading->tell('Another film is being read before this one', null);
            self::dispatch($this->key, $this->name)->delay(self::PATIENCE);

            return;
        }
        try {
            $this->read($reading, $store);
        } catch (Problem $e) {
            if ($e->kind !== 'cancelled') {
                $reading->fail($e);
            }
        } finally {
            fclose($turn);
        }
    }

    public function failed(?Throwable $e): void
    {
        (new Reading($this->key))->fail($e instanceof Problem ? $e : Film::unreadable($this->name));
    }

    private function read(Reading $reading, AssetStore $store): void
    {
        $film = Film::at($reading->path(), $this->name);
        $reading->tell($film->said(), 0.0);
        $told = microtime(true);
        $pictures = $film->pictures(static function (int $count) use ($reading, $film, &$told): bool {
            Beating::gotOn();
            if (microtime(true) - $told > self::TELL_EVERY) {
                $told = microtime(true);
                if (! $reading->isWanted()) {
                    return false;
                }
                $reading->tell($film->said(), $film->frames === null ? null : min(1.0, $count / max(1, $film->frames)));
            }

            return true;
        });
        $files = [];
        foreach ($pictures as $k => $picture) {
            $name = sprintf('%s.%05d.jpg', pathinfo($this->name, PATHINFO_FILENAME), $k);
            $files[] = ['name' => $name, 'asset' => $store->keep([$picture, (string) hash_file('sha256', $picture), (int) filesize($picture)], $name)->hash];
            Beating::gotOn();
        }
        $made = PlateMaker::of($files, $store->located(...));
        $made['plate']['name'] = mb_substr($this->name, 0, 200);
        $reading->finish($made);
    }
}
