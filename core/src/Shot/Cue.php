<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** A moment with a name: a frame, or the first touch of two props above a speed. */
final readonly class Cue
{
    /**
     * @param  float|null  $frame  null where a touch decides it
     * @param  string  $one  id of a prop
     * @param  string  $other  id of another, or `ground`
     * @param  float  $speed  m/s, the least at which it counts
     */
    public function __construct(public string $id, public string $name, public ?float $frame, public string $one = '', public string $other = '', public float $speed = 0.0)
    {
    }

    /** @param  array<string, mixed>  $c  already of the schema's form */
    public static function of(array $c): self
    {
        return $c['at']['on'] === 'frame'
            ? new self($c['id'], $c['name'], (float) $c['at']['frame'])
            : new self($c['id'], $c['name'], null, $c['at']['one'], $c['at']['other'], (float) ($c['at']['speed'] ?? 0.0));
    }

    public function isTouch(): bool
    {
        return $this->frame === null;
    }

    /** Whether it stands for these two meeting. */
    public function isOf(string $one, string $other): bool
    {
        return $this->one === $one && $this->other === $other || $this->one === $other && $this->other === $one;
    }
}
