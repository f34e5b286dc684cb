<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

/**
 * Where the named cues of a shot stand, as far as that is known. Some are known beforehand; others are anchored by what
 * happens, and can change nothing that was before.
 */
final readonly class Cues
{
    /**
     * @param  array<array-key, float|null>  $frames  by id; null where it is not anchored yet
     * @param  array<array-key, true>  $late  those that only what happens decides
     */
    public function __construct(public array $frames = [], private array $late = [])
    {
    }

    public function has(string $id): bool
    {
        return array_key_exists($id, $this->frames);
    }

    public function frame(string $id): ?float
    {
        return $this->frames[$id] ?? null;
    }

    public function isLate(string $id): bool
    {
        return isset($this->late[$id]);
    }

    /** @return array<array-key, float> where those stand that happened */
    public function happened(): array
    {
        return array_filter(array_intersect_key($this->frames, $this->late), static fn (?float $frame): bool => $frame !== null);
    }

    /** The same, with one more known beforehand. */
    public function known(string $id, float $frame): self
    {
        return new self(array_replace($this->frames, [$id => $frame]), $this->late);
    }

    /** The same, with one more that has happened. */
    public function anchored(string $id, float $frame): self
    {
        return $this->allAnchored([$id => $frame]);
    }

    /**
     * The same, with those of its cues that have happened.
     *
     * @param  array<array-key, float>  $frames  by id; one of digits is a number as a key
     */
    public function allAnchored(array $frames): self
    {
        $frames = array_intersect_key($frames, $this->frames);

        return new self(array_replace($this->frames, $frames), array_replace($this->late, array_map(static fn (): true => true, $frames)));
    }

    /** The same, as if one of those had not happened yet. */
    public function before(string $id): self
    {
        return new self(array_replace($this->frames, [$id => null]), $this->late);
    }
}
