<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** What a mover tells of a frame. */
final readonly class Figures
{
    /**
     * @param  int  $moving  pieces
     * @param  int  $resting  pieces
     * @param  float  $energy  J, kinetic
     * @param  float  $overlap  metres, the deepest
     * @param  array<int, list<array{int, int}>>  $cracks  pairs of pieces that were bonded until this frame, by number of their prop
     * @param  int  $grains  of dust in the air or lying
     * @param  int  $twitching  pieces that have been slow for a while and do not rest
     * @param  int  $limited  pieces that a limit of speed held back on the way to this frame
     * @param  int  $gone  pieces
     * @param  float  $stretch  share of its length by which soft surfaces are drawn, where most
     * @param  float  $volume  m³ that closed ones enclose
     * @param  array<string, float>  $work  seconds by what they were spent on, in words
     */
    public function __construct(
        public int $moving = 0,
        public int $resting = 0,
        public float $energy = 0.0,
        public float $overlap = 0.0,
        public array $work = [],
        public array $cracks = [],
        public int $grains = 0,
        public int $twitching = 0,
        public int $limited = 0,
        public int $gone = 0,
        public float $stretch = 0.0,
        public float $volume = 0.0,
    ) {
    }

    /** The same once more time has passed: what was counted on the way is added up. */
    public function then(self $later): self
    {
        $work = $this->work;
        foreach ($later->work as $what => $seconds) {
            $work[$what] = ($work[$what] ?? 0.0) + $seconds;
        }
        $cracks = $this->cracks;
        foreach ($later->cracks as $prop => $pairs) {
            $cracks[$prop] = [...$cracks[$prop] ?? [], ...$pairs];
        }

        return new self(
            $later->moving, $later->resting, $later->energy, max($this->overlap, $later->overlap), $work, $cracks, $later->grains, $later->twitching, max($this->limited, $later->limited),
            $later->gone, max($this->stretch, $later->stretch), $later->volume,
        );
    }

    /** The same but for what broke and what was spent on it. */
    public function still(): self
    {
        return new self($this->moving, $this->resting, $this->energy, $this->overlap, [], [], $this->grains, $this->twitching, 0, $this->gone, $this->stretch, $this->volume);
    }

    public function with(self $other): self
    {
        $work = $this->work;
        foreach ($other->work as $what => $seconds) {
            $work[$what] = ($work[$what] ?? 0.0) + $seconds;
        }

        return new self(
            $this->moving + $other->moving, $this->resting + $other->resting, $this->energy + $other->energy, max($this->overlap, $other->overlap), $work,
            $this->cracks + $other->cracks, $this->grains + $other->grains, $this->twitching + $other->twitching, $this->limited + $other->limited, $this->gone + $other->gone, max($this->stretch, $other->stretch), $this->volume + $other->volume,
        );
    }

    /** @return array{moving: int, resting: int, energy: float, overlap: float, grains: int, twitching: int, limited: int, gone: int, stretch: float, volume: float, work: array<string, float>} all but its cracks */
    public function toArray(): array
    {
        return ['moving' => $this->moving, 'resting' => $this->resting, 'energy' => $this->energy, 'overlap' => $this->overlap, 'grains' => $this->grains, 'twitching' => $this->twitching, 'limited' => $this->limited, 'gone' => $this->gone, 'stretch' => $this->stretch, 'volume' => $this->volume, 'work' => $this->work];
    }
}
