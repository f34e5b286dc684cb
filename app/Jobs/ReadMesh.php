<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Storage\MeshIntake;
use App\Storage\YardFiles;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Problem;

/** Reads a large mesh file that was received. */
final class ReadMesh implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    public function __construct(private readonly string $key, private readonly string $hash, private readonly int $bytes, private readonly string $name)
    {
    }

    public static function resultName(string $key): string
    {
        return 'incoming/'.basename($key).'.json';
    }

    public function lock(): string
    {
        return 'read-'.$this->key;
    }

    public function handle(MeshIntake $intake): void
    {
        $path = YardFiles::path('incoming/'.$this->key);
        if (! is_file($path)) {
            return;
        }
        try {
            YardFiles::write(self::resultName($this->key), (string) json_encode($intake->take([$path, $this->hash, $this->bytes], $this->name)));
        } catch (Problem $e) {
            $this->failed($e);
        }
    }

    public function failed(?Throwable $e): void
    {
        @unlink(YardFiles::path('incoming/'.$this->key));
        $problem = $e instanceof Problem ? $e : Problem::inFile($this->name.' could not be read: it is too large or too involved.', 'Reduce the mesh before bringing it in.');
        YardFiles::write(self::resultName($this->key), (string) json_encode($problem->toArray()));
    }
}
