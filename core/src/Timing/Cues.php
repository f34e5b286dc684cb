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
     * @param  array<string, float|null>  $frames  by id; null where it is not anchored yet
     * @param  array<string, true>  $late  those that only what happens decides
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

    /** @return array<string, float> where those stand that happened */
    public function happened(): array
    {
        return array_filter(array_intersect_key($this->frames, $this->late), static fn (?float $frame): bool => $frame !== null);
    }

    /** The same, with one more known beforehand. */
    public function known(string $id, float $frame): self
    {
        return new self([...$this->frames, $id => $frame], $this->late);
    }

    /** The same, with one more that has happened. */
    public function anchored(string $id, float $frame): self
    {
        return new self([...$this->frames, $id => $frame], [...$this->late, $id => true]);
    }

    /** The same, as if one of those had not happened yet. */
    public function before(string $id): self
    {
        return new self([...$this->frames, $id => null], $this->late);
    }
}
