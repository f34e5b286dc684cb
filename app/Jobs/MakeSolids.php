<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Yard\Keeping;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Problem;

/** Finds what the pieces of one prop collide as, in the background. */
final class MakeSolids implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds after which it may be asked for again although nobody has heard of it. */
    public int $uniqueFor = 3600;

    public function __construct(private readonly string $shotId, private readonly string $propId, private readonly string $key)
    {
    }

    public function uniqueId(): string
    {
        return 'solids-'.$this->key;
    }

    public static function faultName(string $key): string
    {
        return 'shards/faults/solids-'.$key.'.json';
    }

    public function handle(ShardStore $store): void
    {
        foreach (Shot::query()->find($this->shotId)?->spec()->props ?? [] as $prop) {
            if ($prop->id !== $this->propId || $prop->shardKey() !== $this->key) {
                continue;
            }
            $progress = new ShardProgress($this->shotId, $this->propId, $this->key);
            try {
                $store->solids($prop, $progress);
            } catch (Problem $e) {
                if ($e->kind !== 'cancelled') {
                    $this->failed($e);
                }
            } finally {
                $progress->end();
                Keeping::look();
            }
        }
    }

    public function failed(?Throwable $e): void
    {
        Faults::keep(self::faultName($this->key), $e instanceof Problem ? $e : new Problem(
            'internal',
            'What its pieces collide as could not be found: something went wrong inside Yard Break.',
            '',
            'Break it into fewer pieces, or let them collide as hulls.',
        ));
    }

    public function lock(): string
    {
        return 'solids-'.$this->key;
    }
}
