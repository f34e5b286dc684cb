<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Motion\StreamKind;

/** One computed frame: its streams, and what was seen on the way to it. */
final readonly class Frame
{
    /**
     * @param  array<int, array<int, string>>  $streams  bytes by number of the prop and kind of the stream
     * @param  array{released: array<string, int>, cracks: array<string, list<array{int, int}>>, moving: int, resting: int, energy: float, overlap: float, grains: int, twitching: int, limited: int, gone: int, work: array<string, float>, seconds: float}  $figures
     *   pieces let go so far by prop, energy in J, overlap in metres, seconds by what they were spent on, and all it took as far as that is known
     * @param  list<array{prop: string, other: string, speed: float, at: array{float, float, float}}>  $marks  first contacts between two props; other may
     *   be `ground`
     * @param  array<string, float>  $anchored  cues this frame anchored, with where they stand
     */
    public function __construct(public int $number, public array $streams, public array $figures, public array $marks, public array $anchored = [])
    {
    }

    /** The same, having taken so many seconds. */
    public function took(float $seconds): self
    {
        return new self($this->number, $this->streams, ['seconds' => $seconds] + $this->figures, $this->marks, $this->anchored);
    }

    /** The bytes of one stream; none where it is not there. */
    public function stream(int $prop, StreamKind $kind): string
    {
        return $this->streams[$prop][$kind->value] ?? '';
    }

    /** @return array<string, mixed> all but the streams */
    public function told(): array
    {
        return [
            'frame' => $this->number,
            ...$this->figures,
            'released' => (object) $this->figures['released'],
            'cracks' => (object) $this->figures['cracks'],
            'work' => (object) array_map(static fn (float $seconds): float => round($seconds, 5), $this->figures['work']),
            'marks' => $this->marks,
            'anchored' => (object) $this->anchored,
        ];
    }
}
