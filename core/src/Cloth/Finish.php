<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** What becomes of a surface whose points move by themselves once it is baked: how finely it is divided, how thick it is, how it is shaded. */
final readonly class Finish
{
    /** Faces there may be of it. */
    public const MOST_FACES = 1_000_000;

    /**
     * @param  int  $times  that every face is divided into four, rounded
     * @param  float  $thickness  m, half of it to either side
     * @param  bool  $smooth  whether it is shaded as one surface, or face by face
     */
    public function __construct(public int $times = 0, public float $thickness = 0.0, public bool $smooth = true)
    {
    }

    /** @param  array<string, mixed>|null  $d  already of the schema's form */
    public static function of(?array $d): self
    {
        return new self($d['times'] ?? 0, (float) ($d['thickness'] ?? 0.0), ($d['shading'] ?? 'smooth') === 'smooth');
    }

    public function key(): string
    {
        return $this->times.'-'.$this->thickness.'-'.($this->smooth ? 'smooth' : 'flat');
    }

    /** Whether it has other points than were baked. */
    public function changes(): bool
    {
        return $this->times > 0 || $this->thickness > 0.0;
    }

    /** How many faces there are then of so many. */
    public function faces(int $of): int
    {
        return $of * 4 ** $this->times * ($this->thickness > 0.0 ? 2 : 1);
    }
}
