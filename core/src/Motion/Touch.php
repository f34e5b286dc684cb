<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;

/** A piece of one prop touches another prop. */
final readonly class Touch
{
    /** m/s from which a touch is a hit. */
    public const HIT = 0.3;

    /**
     * @param  int  $prop  number of a prop
     * @param  int  $piece  number within it
     * @param  int  $other  number of the other prop; −1 is the ground
     * @param  int  $otherPiece  number within that; −1 for the ground
     * @param  float  $speed  m/s, approach along the normal
     * @param  float  $frame  when: real, within the frame that is computed
     * @param  float  $impulse  N·s that ends this approach, where nothing else bears on the two; INF where both are held or driven
     * @param  bool  $asOne  whether the piece moves as one with others
     * @param  bool  $otherAsOne  likewise of the other
     */
    public function __construct(
        public int $prop,
        public int $piece,
        public int $other,
        public int $otherPiece,
        public Vec3 $at,
        public float $speed,
        public float $frame,
        public float $impulse,
        public bool $asOne = false,
        public bool $otherAsOne = false,
    ) {
    }

    /** The same as the other one feels it. */
    public function turned(): self
    {
        return new self($this->other, $this->otherPiece, $this->prop, $this->piece, $this->at, $this->speed, $this->frame, $this->impulse, $this->otherAsOne, $this->asOne);
    }
}
