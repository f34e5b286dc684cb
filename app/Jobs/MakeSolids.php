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
use YardBreak\Core\Shot\PropSpec;

/** Finds what the pieces of one prop collide as, in the background. */
final class MakeSolids implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds after which it may be asked for again although nobody has heard of it. */
    public int $uniqueFor = 3600;

    /**
     * @param  string  $key  of the shards
     * @param  string  $as  what they collide as, as of `Motion::collidesAs`
     */
    private function __construct(private readonly string $shotId, private readonly string $propId, private readonly string $key, private readonly string $as)
    {
    }

    /** Has it done. */
    public static function begin(string $shotId, PropSpec $prop): void
    {
        dispatch(new self($shotId, $prop->id, $prop->shardKey(), $prop->motion->collidesAs()));
    }

    public function uniqueId(): string
    {
        return 'solids-'.$this->key.'-'.$this->as;
    }

    /** Where it is said why what these pieces collide as could not be found. */
    public static function faultName(PropSpec $prop): string
    {
        return self::named($prop->shardKey(), $prop->motion->collidesAs());
    }

    private static function named(string $key, string $as): string
    {
        return 'shards/faults/solids-'.$key.'-'.$as.'.json';
    }

    public function handle(ShardStore $store): void
    {
        foreach (Shot::query()->find($this->shotId)?->spec()->props ?? [] as $prop) {
            if ($prop->id !== $this->propId || $prop->shardKey() !== $this->key || $prop->motion->collidesAs() !== $this->as) {
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
        Faults::keep(self::named($this->key, $this->as), $e instanceof Problem ? $e : new Problem(
            'internal',
            'What its pieces collide as could not be found: something went wrong inside Yard Break.',
            '',
            'Break it into fewer pieces, or let them collide as hulls.',
        ));
    }

    public function lock(): string
    {
        return $this->uniqueId();
    }
}
