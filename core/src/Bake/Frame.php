<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/** One computed frame. */
final readonly class Frame
{
    /** Bytes a piece: eight float32 — position (3), state (0 held, 1 moving, 2 resting), turn (x, y, z, w). */
    public const STRIDE = 32;

    /**
     * @param  string  $records  packed, pieces in the order of the bake
     * @param  array{released: int, moving: int, resting: int, energy: float, overlap: float, seconds: float}  $figures  energy in J, overlap in metres, seconds it took as far as that is known
     * @param  list<array{frame: int, prop: string, other: string, speed: float, at: array{float, float, float}}>  $marks  contacts that released something
     */
    public function __construct(public int $number, public string $records, public array $figures, public array $marks)
    {
    }

    /** The same, having taken so many seconds. */
    public function took(float $seconds): self
    {
        return new self($this->number, $this->records, ['seconds' => $seconds] + $this->figures, $this->marks);
    }
}
