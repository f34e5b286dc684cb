<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Shot;
use App\Storage\MapStore;
use App\Storage\YardFiles;
use App\Yard\Foresight;
use App\Yard\StoredParts;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Throwable;
use YardBreak\Core\Check\MapCheck;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;

/** Works out the weights of a map at all frames of a shot, those somebody looks at first. */
final class MakeMap implements LastsLong, ShouldBeUnique, ShouldQueue
{
    use RunsInQueue;

    /** Seconds between looks whether the map is still wanted as it is. */
    private const LOOKS = 0.3;

    /** Every so manieth frame comes before those between. */
    private const STRIDE = 8;

    public int $uniqueFor = 600;

    /** @param  string  $key  of all of its frames together */
    public function __construct(private readonly string $shotId, private readonly string $map, private readonly string $kind, private readonly string $key, private readonly int $frame)
    {
    }

    /** @param  list<string>  $keys  of its frames */
    public static function keyOf(array $keys): string
    {
        return hash('xxh128', implode($keys));
    }

    public static function faultName(string $key): string
    {
        return 'maps/faults/'.$key.'.json';
    }

    public static function findingsName(string $key): string
    {
        return 'maps/findings/'.$key.'.json';
    }

    public function uniqueId(): string
    {
        return $this->key;
    }

    public function handle(StoredParts $parts, Foresight $foresight): void
    {
        $shot = Shot::query()->find($this->shotId)?->spec();
        if ($shot === null || $shot->map($this->map) === null) {
            return;
        }
        $shot = $foresight->of($shot, false);
        $run = new MapRun($shot, $parts);
        try {
            $keys = $run->keys($this->map, $this->kind);
            if (self::keyOf($keys) !== $this->key) {
                return;
            }
            $looked = microtime(true);
            foreach ($this->order($run, $keys) as $number) {
                if (! MapStore::has($keys[$number])) {
                    MapStore::put($keys[$number], $run->at($this->map, $this->kind, $shot->first + $number));
                }
                Beating::gotOn();
                if (microtime(true) - $looked > self::LOOKS) {
                    $looked = microtime(true);
                    if (! $this->isWanted($parts)) {
                        return;
                    }
                }
            }
            if ($this->kind === MapRun::SURFACE) {
                YardFiles::write(self::findingsName($this->key), (string) json_encode(MapCheck::of($run, $this->map, array_map(MapStore::coverage(...), $keys))));
            }
        } catch (Problem $e) {
            $this->failed($e);
        }
    }

    public function failed(?Throwable $e): void
    {
        $problem = $e instanceof Problem ? $e : new Problem('internal', 'This map could not be worked out: something went wrong inside Yard Break.', '', 'Change one of its values, then try again.');
        YardFiles::write(self::faultName($this->key), (string) json_encode($problem->toArray()));
    }

    public function lock(): string
    {
        return 'map-'.$this->key;
    }

    /**
     * @param  list<string>  $keys
     * @return list<int> numbers of the frames, from 0
     */
    private function order(MapRun $run, array $keys): array
    {
        $all = array_keys($keys);
        if ($run->remembers($this->map)) {
            return $all;
        }
        $first = max(0, min(count($keys) - 1, $this->frame - $run->shot->first));

        return array_values(array_unique([$first, ...array_filter($all, static fn (int $k): bool => $k % self::STRIDE === 0), count($keys) - 1, ...$all]));
    }

    private function isWanted(StoredParts $parts): bool
    {
        $shot = Shot::query()->find($this->shotId)?->spec();
        try {
            return $shot?->map($this->map) !== null && self::keyOf((new MapRun(Foresight::known($shot), $parts))->keys($this->map, $this->kind)) === $this->key;
        } catch (Problem) {
            return false;
        }
    }
}
