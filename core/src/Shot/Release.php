<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\When;

/** What lets pieces go: a moment, a touch, a weight, or a shockwave. */
final readonly class Release
{
    /**
     * @param  'frame'|'cue'|'touch'|'weight'|'shockwave'  $on
     * @param  When|null  $when  the moment, or that at which a shockwave starts; null where a touch decides it
     * @param  float|null  $reach  metres round a touch, or as far as a shockwave goes; null for all
     * @param  list<string>  $by  ids of what touches count, or `ground`; none for any
     * @param  float  $speed  m/s, the least at which a touch counts
     * @param  string  $map  id
     * @param  Vec3|null  $from  where a shockwave starts, in the prop's own coordinates; null for the touch
     * @param  float  $wave  m/s
     * @param  float  $wait  seconds each piece waits at most, each a random while
     */
    private function __construct(
        public string $on,
        public ?When $when,
        public ?float $reach = null,
        public array $by = [],
        public float $speed = 0.0,
        public string $map = '',
        public float $level = 0.5,
        public ?Vec3 $from = null,
        public float $wave = 1.0,
        public float $wait = 0.0,
        public int $seed = 1,
    ) {
    }

    /**
     * @param  array<string, mixed>  $d  already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $d, Cues $cues, string $path): self
    {
        $started = $d['on'] === 'frame' || $d['on'] === 'cue' || $d['on'] === 'shockwave' && ($d['at'] ?? null) !== null;

        return new self(
            $d['on'], $started ? Reading::when($d, $cues, $path) : null,
            isset($d['reach']) ? (float) $d['reach'] : null, $d['by'] ?? [], (float) ($d['speed'] ?? 0.0), $d['map'] ?? '', (float) ($d['level'] ?? 0.5),
            isset($d['at']) ? Vec3::of(array_map(floatval(...), $d['at'])) : null, (float) ($d['wave'] ?? 1.0), (float) ($d['wait'] ?? 0.0), $d['seed'] ?? 1,
        );
    }

    /** One that only says how long pieces wait. */
    public static function waiting(float $wait, int $seed): self
    {
        return new self('frame', null, wait: $wait, seed: $seed);
    }

    /** Whether a touch decides when it begins. */
    public function waitsForTouch(): bool
    {
        return $this->on === 'touch' || $this->on === 'shockwave' && $this->when === null;
    }

    /** Whether a touch of this one, at this speed, counts. */
    public function counts(string $other, float $speed): bool
    {
        return $this->waitsForTouch() && $speed >= $this->speed && ($this->by === [] || in_array($other, $this->by, true));
    }

    /**
     * @param  int  $pieces  how many the prop has
     * @return list<float> seconds each waits
     */
    public function waits(int $pieces): array
    {
        $random = new SeededRandom($this->seed);
        $out = [];
        for ($k = 0; $k < $pieces; $k++) {
            $out[] = $this->wait > 0.0 ? $random->between(0.0, $this->wait) : 0.0;
        }

        return $out;
    }

    /** Whether what it lets go leaves at the moment it says, all at once: no wait, no wave, nothing that must be found. */
    public function isAtItsMoment(): bool
    {
        return $this->when !== null && $this->on !== 'shockwave' && $this->wait === 0.0;
    }

    /**
     * @param  string  $words  what it is called
     * @return float|null the frame at which it begins, as far as that is known
     */
    public function acts(Acts $acts, string $name, string $words, Cues $cues): ?float
    {
        $acts->always(
            $name,
            [$this->on, $this->reach, $this->by, $this->speed, $this->map, $this->level, $this->from?->toArray(), $this->wave, $this->wait, $this->seed],
            $words,
        );
        if ($this->map !== '') {
            $acts->map($this->map, true);
        }

        return $this->when?->at($cues);
    }
}
