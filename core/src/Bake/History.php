<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\NoParts;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Timing\Acts;

/**
 * What a bake depends on, in the order of time. A frame's fingerprint takes in all that acts up to it; two shots share
 * frames up to where their fingerprints part.
 */
final readonly class History
{
    /**
     * @param  array<string, string>  $always  what acts from the start, by key
     * @param  array<int, array<string, string>>  $events  what comes to act in computing a frame, by key
     * @param  array<string, string>  $words  what the keys stand for
     */
    private function __construct(private ShotSpec $shot, private array $always, private array $events, private array $words)
    {
    }

    /** @param  array<array-key, float>  $anchored  cues by id as a bake found them: what is tied to them acts only from there on */
    public static function of(ShotSpec $shot, array $anchored = []): self
    {
        $shot = $anchored === [] ? $shot : $shot->with($shot->moments->allAnchored($anchored));
        $acts = new Acts($shot->first);
        $shot->acts($acts);
        $maps = new MapRun($shot, new NoParts);
        foreach ($acts->maps() as $name => ['map' => $map, 'ofPieces' => $ofPieces, 'before' => $before]) {
            $kind = $ofPieces ? MapRun::PIECES : MapRun::SURFACE;
            $acts->weights($name, 'weight map '.$shot->map($map)?->name, $maps->keys($map, $kind), $before ? $maps->keyBefore($map, $kind) : null);
        }

        return new self($shot, ...$acts->told());
    }

    /** @return list<string> 16 bytes for each frame from the first to the last */
    public function chain(): array
    {
        $hash = self::hash('', $this->always + ($this->events[$this->shot->first] ?? []));
        $out = [$hash];
        $last = $this->shot->pace->knownBy($this->shot->last);
        for ($frame = $this->shot->first + 1; $frame <= $last; $frame++) {
            $out[] = $hash = self::hash($hash, $this->events[$frame] ?? []);
        }
        if ($this->shot->pace->isEven()) {
            return $out;
        }

        // A frame within a step of physics hangs on all that acts in it.
        return array_map(fn (int $frame): string => $out[$this->shot->pace->knownBy($frame) - $this->shot->first], range($this->shot->first, $this->shot->last));
    }

    /** How many frames from the first on another shot shares, at most so many. */
    public function shares(self $other, int $most): int
    {
        [$one, $two] = [$this->chain(), $other->chain()];
        for ($same = 0, $most = min($most, count($one), count($two)); $same < $most && $one[$same] === $two[$same];) {
            $same++;
        }

        return $same;
    }

    /**
     * The first thing by which another shot differs.
     *
     * @return array{frame: int, what: string}|null the first frame that is another one, and what makes it so, in words
     */
    public function partsFrom(self $other): ?array
    {
        $words = $other->words + $this->words;
        $what = self::difference($this->always, $other->always);
        if ($what !== null) {
            return ['frame' => $this->shot->first, 'what' => $words[$what] ?? $what];
        }
        $frames = array_unique([...array_keys($this->events), ...array_keys($other->events)]);
        sort($frames);
        foreach ($frames as $frame) {
            $what = self::difference($this->events[$frame] ?? [], $other->events[$frame] ?? []);
            if ($what !== null) {
                return ['frame' => $frame, 'what' => $words[$what] ?? $what];
            }
        }

        return null;
    }

    /** @param  array<string, string>  $acts */
    private static function hash(string $before, array $acts): string
    {
        foreach ($acts as $key => $what) {
            $before .= "\0".$key.'='.$what;
        }

        return hash('xxh128', $before, true);
    }

    /**
     * @param  array<string, string>  $one
     * @param  array<string, string>  $other
     */
    private static function difference(array $one, array $other): ?string
    {
        foreach ($one + $other as $key => $_) {
            if (($one[$key] ?? null) !== ($other[$key] ?? null)) {
                return $key;
            }
        }

        return null;
    }
}
