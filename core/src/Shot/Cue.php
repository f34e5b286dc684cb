<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Acts;

/** A moment with a name: a frame, the first touch of two props above a speed, or when so much of a prop has reached half of a weight map. */
final readonly class Cue
{
    /**
     * @param  float|null  $frame  null where what happens decides it
     * @param  string  $one  id of a prop
     * @param  string  $other  id of another, or `ground`
     * @param  float  $speed  m/s, the least at which it counts
     * @param  string  $map  id of a weight map
     * @param  float  $share  of its prop
     */
    public function __construct(
        public string $id,
        public string $name,
        public ?float $frame,
        public string $one = '',
        public string $other = '',
        public float $speed = 0.0,
        public string $map = '',
        public float $share = 1.0,
    ) {
    }

    /** @param  array<string, mixed>  $c  already of the schema's form */
    public static function of(array $c): self
    {
        return match ($c['at']['on']) {
            'frame' => new self($c['id'], $c['name'], (float) $c['at']['frame']),
            'reaching' => new self($c['id'], $c['name'], null, map: $c['at']['map'], share: (float) $c['at']['share']),
            default => new self($c['id'], $c['name'], null, $c['at']['one'], $c['at']['other'], (float) ($c['at']['speed'] ?? 0.0)),
        };
    }

    public function isTouch(): bool
    {
        return $this->frame === null && $this->map === '';
    }

    /** Whether what happens decides when it comes. */
    public function isFound(): bool
    {
        return $this->frame === null;
    }

    /** @param  bool  $unknown  whether it may come at any time and change what hangs on it, which nobody has looked for yet */
    public function acts(Acts $acts, bool $unknown): void
    {
        if (! $this->isFound()) {
            return;
        }
        $acts->of($this->id, '')->always('cue', [$this->one, $this->other, $this->speed, $this->map, $this->share], 'cue '.$this->name);
        if ($this->map !== '') {
            $acts->map($this->map, false);
        }
        if ($unknown) {
            $acts->unknown('coming of the cue');
        }
    }

    /** Whether it stands for these two meeting. */
    public function isOf(string $one, string $other): bool
    {
        return $this->one === $one && $this->other === $other || $this->one === $other && $this->other === $one;
    }
}
