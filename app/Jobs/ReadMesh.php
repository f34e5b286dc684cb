<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Storage\MeshIntake;
use App\Storage\Reading;
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

    public function lock(): string
    {
        return 'read-'.$this->key;
    }

    public function handle(MeshIntake $intake): void
    {
        $reading = new Reading($this->key);
        if (! $reading->isWanted()) {
            return;
        }
        try {
            $reading->finish($intake->take([$reading->path(), $this->hash, $this->bytes], $this->name));
        } catch (Problem $e) {
            $reading->fail($e);
        }
    }

    public function failed(?Throwable $e): void
    {
        (new Reading($this->key))->fail($e instanceof Problem ? $e : Problem::inFile($this->name.' could not be read: it is too large or too involved.', 'Reduce the mesh before bringing it in.'));
    }
}
