<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Storage\AssetStore;
use App\Storage\Film;
use App\Storage\YardFiles;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PlateMaker;

/** Takes a film file apart into the pictures of a plate. */
final class ReadFilm implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    public function __construct(private readonly string $key, private readonly string $name)
    {
    }

    public function lock(): string
    {
        return 'film-'.$this->key;
    }

    public function handle(AssetStore $store): void
    {
        $path = YardFiles::path('incoming/'.$this->key);
        if (! is_file($path)) {
            return;
        }
        try {
            $pictures = Film::pictures($path, $this->name, new BeatingProgress);
            $files = [];
            foreach ($pictures as $k => $picture) {
                $name = sprintf('%s.%05d.jpg', pathinfo($this->name, PATHINFO_FILENAME), $k);
                $files[] = ['name' => $name, 'asset' => $store->keep([$picture, (string) hash_file('sha256', $picture), (int) filesize($picture)], $name)->hash];
                Middleware\Beating::gotOn();
            }
            $made = PlateMaker::of($files, $store->path(...));
            $made['plate']['name'] = mb_substr($this->name, 0, 200);
            YardFiles::write(ReadMesh::resultName($this->key), (string) json_encode($made));
            @unlink($path);
        } catch (Problem $e) {
            $this->failed($e);
        }
    }

    public function failed(?Throwable $e): void
    {
        @unlink(YardFiles::path('incoming/'.$this->key));
        $problem = $e instanceof Problem ? $e : Problem::inFile($this->name.' could not be read.', 'Save it as another kind of film, or bring it in as numbered pictures.');
        YardFiles::write(ReadMesh::resultName($this->key), (string) json_encode($problem->toArray()));
    }
}
