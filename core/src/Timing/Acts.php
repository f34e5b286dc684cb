<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

/**
 * What a bake depends on, as each part of a shot says it of itself: what acts always, what leads a value on from a frame, what
 * happens at a frame, and the weight maps that are looked at. Two shots of which all parts say the same up to a frame have
 * that frame in common.
 */
final class Acts
{
    /** @var array<string, string> by name: what acts from the start */
    private array $always = [];

    /** @var array<int, array<string, string>> by the first frame that takes it in, and name */
    private array $events = [];

    /** @var array<string, array{map: string, ofPieces: bool, before: bool}> by name */
    private array $maps = [];

    /** @var list<string> names of what may act at any time, so that all else counts */
    private array $unknown = [];

    /** @var array<string, string> what names stand for */
    private array $words = [];

    private string $of = '';

    private string $whose = '';

    /** @param  int  $first  the first frame of the shot */
    public function __construct(public readonly int $first)
    {
    }

    /** What is said from now on is said of this: its id, and what it is called. */
    public function of(string $id, string $name): self
    {
        [$this->of, $this->whose] = [$id === '' ? '' : ' '.$id, $name === '' ? '' : ' of '.$name];

        return $this;
    }

    /** Acts from the start, and never changes. */
    public function always(string $name, mixed $what, ?string $words = null): void
    {
        $this->always[$this->named($name, $words)] = json_encode($what, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
    }

    /**
     * Values over frames.
     *
     * @param  Track|list<array{float, string}>  $acts  as of `Track::acts`
     */
    public function values(string $name, Track|array $acts, ?string $words = null): void
    {
        $key = $this->named($name, $words);
        foreach ($acts instanceof Track ? $acts->acts() : $acts as [$after, $what]) {
            if ($after < $this->first) {
                $this->always[$key] = ($this->always[$key] ?? '').$what.'|';
            } else {
                $frame = (int) floor($after) + 1;
                $this->events[$frame][$key] = ($this->events[$frame][$key] ?? '').$what.'|';
            }
        }
    }

    /** The frame that takes in what happens at a moment; the first, where that was before. */
    public function frameOf(float $moment): int
    {
        return max($this->first, (int) ceil($moment));
    }

    /** Happens in a frame. */
    public function at(int $frame, string $name, mixed $what, ?string $words = null): void
    {
        $this->events[$frame][$this->named($name, $words)] = json_encode($what, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);
    }

    /**
     * The weights of a map, frame by frame.
     *
     * @param  bool  $ofPieces  of the pieces of its prop, not of the points of its mesh
     * @param  bool  $before  also what they were before the first frame
     */
    public function map(string $id, bool $ofPieces, bool $before = false): void
    {
        $name = 'map '.$id.($ofPieces ? '' : ' points');
        $this->maps[$name] = ['map' => $id, 'ofPieces' => $ofPieces, 'before' => $before || ($this->maps[$name]['before'] ?? false)];
    }

    /** May come at any time and change what is tied to it, which nobody has looked for yet. */
    public function unknown(string $name): void
    {
        $this->unknown[] = $this->named($name, null);
    }

    /** @return array<string, array{map: string, ofPieces: bool, before: bool}> by name */
    public function maps(): array
    {
        return $this->maps;
    }

    /**
     * What the weights of a map depend on.
     *
     * @param  list<string>  $keys  frame by frame from the first on
     * @param  string|null  $before  the same before that, where it counts
     */
    public function weights(string $name, string $words, array $keys, ?string $before): void
    {
        $this->words[$name] = $words;
        if ($before !== null) {
            $this->always[$name] = $before;
        }
        $last = '';
        foreach ($keys as $k => $key) {
            if ($key !== $last) {
                $this->events[$this->first + $k][$name] = $last = $key;
            }
        }
    }

    /**
     * @return array{array<string, string>, array<int, array<string, string>>, array<string, string>} what acts always, what comes to act in computing each
     * frame, and what their names stand for
     */
    public function told(): array
    {
        ksort($this->events);
        $always = $this->always;
        foreach ($this->unknown as $name) {
            $always[$name] = hash('xxh128', serialize([$this->always, $this->events]));
        }

        return [$always, $this->events, $this->words];
    }

    private function named(string $name, ?string $words): string
    {
        $this->words[$name.$this->of] = ($words ?? $name).$this->whose;

        return $name.$this->of;
    }
}
