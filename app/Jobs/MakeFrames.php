<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Bake;
use App\Models\Shot;
use App\Storage\Faults;
use App\Storage\MapPath;
use App\Storage\Sealed;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use App\Yard\Keeping;
use App\Yard\Maps;
use App\Yard\Mending;
use App\Yard\StoredParts;
use Illuminate\Contracts\Bus\Dispatcher;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/**
 * Works out what is evaluated at all frames of a shot, those somebody looks at first, and keeps each by what it depends on.
 * Where other jobs wait it steps back after a while: whoever still looks asks for it again, and it goes on from there.
 */
abstract class MakeFrames implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds between looks whether it is still wanted as it is; longer where such a look takes long. */
    private const LOOKS = 0.3;

    private const LOOKS_SHARE = 10.0;

    /** Seconds after somebody last asked that nobody looks any more. */
    private const LOOKED_AT = 30;

    /** Every so manieth frame comes before those between. */
    private const STRIDE = 8;

    public int $uniqueFor = 600;

    /**
     * @param  string  $key  of all of its frames together
     * @param  int  $frame  the one looked at
     * @param  string|null  $bakeId  a bake of the shot: it is worked out of the shot as it was baked
     */
    public function __construct(protected string $shotId, protected string $key, protected int $frame, protected ?string $bakeId = null)
    {
    }

    /** @return array{Shot, ShotSpec}|null what it is worked out of, as long as that is there */
    private function source(): ?array
    {
        $of = Shot::query()->find($this->shotId);
        $shot = $this->bakeId === null ? $of?->spec() : Bake::query()->find($this->bakeId)?->spec();

        return $of === null || $shot === null || ! $this->isThere($shot) ? null : [$of, $shot];
    }

    /** @param  list<string>  $keys  of its frames */
    public static function keyOf(array $keys): string
    {
        return hash('xxh128', implode($keys));
    }

    /** Has it worked out, as long as somebody goes on asking. */
    public static function ask(self $job): void
    {
        YardFiles::write(self::askedName($job->key), '');
        app(Dispatcher::class)->dispatch($job);
    }

    private static function askedName(string $key): string
    {
        return 'maps/asked/'.$key;
    }

    public static function faultName(string $key): string
    {
        return 'maps/faults/'.$key.'.json';
    }

    public static function isMade(string $key): bool
    {
        return is_file(YardFiles::folder(MapPath::of($key)));
    }

    /** @return array<string, mixed>|null what went wrong with these frames */
    public static function fault(string $key): ?array
    {
        return Faults::of(self::faultName($key))?->toArray();
    }

    public function uniqueId(): string
    {
        return $this->key;
    }

    public function handle(StoredParts $parts, Foresight $foresight): void
    {
        $source = $this->source();
        if ($source === null) {
            return;
        }
        $of = $source[0];
        $shot = $foresight->of($source[1], false);
        $run = Maps::of($of, $shot, $parts->telling($this->watched($parts)));
        try {
            $keys = $this->keys($run);
            if (self::keyOf($keys) !== $this->key) {
                return;
            }
            $looked = microtime(true);
            // What has to be got ready before the first frame does not count: else a slice could end with one.
            $begun = null;
            $took = 0.0;
            $slice = (float) config('yard.frames_slice');
            $this->goOn($run);
            foreach ($this->order($run, count($keys)) as $number) {
                if (self::isMade($keys[$number])) {
                    continue;
                }
                YardFiles::write(MapPath::of($keys[$number]), Sealed::of($this->bytes($run, $shot->first + $number)));
                Beating::gotOn();
                $now = microtime(true);
                $begun ??= $now;
                if ($now - $looked > min(max(self::LOOKS, self::LOOKS_SHARE * $took), $slice)) {
                    $looked = $now;
                    if (! $this->isWanted($parts)) {
                        return;
                    }
                    $took = microtime(true) - $now;
                    if ($now - $begun > $slice && Turn::othersWait()) {
                        $this->keepState($run);

                        return;
                    }
                }
            }
            $this->finish($run, $keys);
            @unlink(YardFiles::folder($this->stateName()));
            Keeping::look();
        } catch (Problem $e) {
            if ($e->kind === 'cancelled') {
                return;
            }
            if ($e->kind === Problem::DAMAGED) {
                // Whoever looks asks again, and finds what holds.
                Mending::ofShot($of);
            } else {
                $this->failed($e);
            }
        }
    }

    public function failed(?Throwable $e): void
    {
        $problem = $e instanceof Problem ? $e : new Problem('internal', 'This could not be worked out: something went wrong inside Yard Break.', '', 'Change one of its values, then try again.');
        Faults::keep(self::faultName($this->key), $problem);
    }

    public function lock(): string
    {
        return 'frames-'.$this->key;
    }

    /** Whether what is to be made is part of the shot. */
    abstract protected function isThere(ShotSpec $shot): bool;

    /**
     * @return list<string> what each frame depends on
     *
     * @throws Problem
     */
    abstract protected function keys(MapRun $run): array;

    /** Whether a frame depends on those before it. */
    abstract protected function remembers(MapRun $run): bool;

    /** @throws Problem */
    abstract protected function bytes(MapRun $run, int $frame): string;

    /**
     * All frames are there.
     *
     * @param  list<string>  $keys
     */
    protected function finish(MapRun $run, array $keys): void
    {
    }

    /** @return list<int> numbers of the frames, from 0 */
    private function order(MapRun $run, int $count): array
    {
        $all = range(0, $count - 1);
        if ($this->remembers($run)) {
            return $all;
        }
        $first = max(0, min($count - 1, $this->frame - $run->shot->first));

        return array_values(array_unique([$first, ...array_filter($all, static fn (int $k): bool => $k % self::STRIDE === 0), $count - 1, ...$all]));
    }

    /** What frames before it made of a map is taken along. */
    private function keepState(MapRun $run): void
    {
        $state = $run->state();
        if ($state !== []) {
            YardFiles::write($this->stateName(), serialize($state));
        }
    }

    private function goOn(MapRun $run): void
    {
        $kept = @file_get_contents(YardFiles::folder($this->stateName()));
        $state = $kept === false ? false : @unserialize($kept, ['allowed_classes' => false]);
        if (is_array($state)) {
            $run->restore($state);
        }
    }

    private function stateName(): string
    {
        return 'maps/states/'.$this->key;
    }

    /** What takes long within a frame ends too when nobody wants it any more. */
    private function watched(StoredParts $parts): Progress
    {
        return new class(fn (): bool => $this->isWanted($parts), self::LOOKS, self::LOOKS_SHARE) implements Progress
        {
            private float $next;

            /** @param  \Closure(): bool  $wanted */
            public function __construct(private readonly \Closure $wanted, private readonly float $every, private readonly float $share)
            {
                $this->next = microtime(true) + $every;
            }

            public function report(float $share): void
            {
                Beating::gotOn();
                $now = microtime(true);
                if ($now < $this->next) {
                    return;
                }
                if (! ($this->wanted)()) {
                    throw Problem::cancelled();
                }
                $then = microtime(true);
                $this->next = $then + max($this->every, $this->share * ($then - $now));
            }
        };
    }

    private function isWanted(StoredParts $parts): bool
    {
        clearstatcache();
        if ((int) @filemtime(YardFiles::folder(self::askedName($this->key))) < time() - self::LOOKED_AT) {
            return false;
        }
        $source = $this->source();
        try {
            return $source !== null && self::keyOf($this->keys(Maps::of($source[0], Foresight::known($source[1]), $parts))) === $this->key;
        } catch (Problem) {
            return false;
        }
    }
}
