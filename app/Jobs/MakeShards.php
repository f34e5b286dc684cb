<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\ShardStore;
use App\Storage\YardFiles;
use App\Yard\Keeping;
use App\Yard\PropPicture;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Queue\MaxAttemptsExceededException;
use Throwable;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\SilentProgress;

/** Breaks one prop in the background, for previews that would hold up a request. */
final class MakeShards implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds after which it may be asked for again although nobody has heard of it. */
    public int $uniqueFor = 3600;

    public function __construct(private readonly string $shotId, private readonly string $propId, private readonly string $key)
    {
    }

    public function uniqueId(): string
    {
        return $this->key;
    }

    public static function faultName(string $key): string
    {
        return 'shards/faults/'.$key.'.json';
    }

    public static function firstName(string $key): string
    {
        return 'pictures/first/'.$key.'.bin';
    }

    public function handle(ShardStore $store, PropMaker $maker): void
    {
        $progress = new ShardProgress($this->shotId, $this->propId, $this->key);
        try {
            foreach (Shot::query()->find($this->shotId)?->spec()->props ?? [] as $prop) {
                if ($prop->id === $this->propId && $prop->shardKey() === $this->key) {
                    $this->showFirst($prop, $maker);
                    $store->of($prop, $progress);
                    if (! $store->isReady($prop)) {
                        // A bake is likely to come next, and finds it there.
                        MakeSolids::begin($this->shotId, $prop);
                    }
                }
            }
        } catch (Problem $e) {
            if ($e->kind !== 'cancelled') {
                $this->failed($e);
            }
        } finally {
            $progress->end();
            Keeping::look();
            @unlink(YardFiles::path(self::firstName($this->key)));
        }
    }

    /** What went wrong is remembered with the values that led there, and said whenever they are asked for again. */
    public function failed(?Throwable $e): void
    {
        $problem = match (true) {
            $e instanceof Problem && ! in_array($e->kind, Beating::KINDS, true) => $e,
            $e instanceof Problem => new Problem($e->kind, $e->getMessage(), '', $this->remedy()),
            $e instanceof MaxAttemptsExceededException => new Problem('stuck', 'Every worker that tried this break was stopped before its end.', '', $this->remedy()),
            default => new Problem('internal', 'This could not be broken: something went wrong inside Yard Break.', '', $this->remedy()),
        };
        Faults::keep(self::faultName($this->key), $problem);
    }

    /** Names the value to lower. */
    private function remedy(): string
    {
        $prop = array_column(Shot::query()->find($this->shotId)?->spec()->props ?? [], null, 'id')[$this->propId] ?? null;
        $amount = BreakCatalogue::amount($prop->break['pattern'] ?? '');

        return ($amount === null ? 'Lower the detail of its preparation' : 'Lower "'.$amount->label.'" on the Break stage').', or break a mesh of fewer faces.';
    }

    public function lock(): string
    {
        return 'shards-'.$this->key;
    }

    private function showFirst(PropSpec $prop, PropMaker $maker): void
    {
        $light = $prop->firstLook();
        if ($light === null) {
            return;
        }
        try {
            YardFiles::write(self::firstName($this->key), PropPicture::encode($light, $maker->shards($light, new SilentProgress), $maker, true));
        } catch (Problem) {
            // What is wrong is said by the whole break.
        }
    }
}
