<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Vec3;

/** What a piece is given as it is let go. */
final readonly class Sent
{
    /**
     * @param  Vec3  $velocity  m/s
     * @param  Vec3  $spin  rad/s
     */
    public function __construct(public Vec3 $velocity, public Vec3 $spin)
    {
    }

    public static function nothing(): self
    {
        return new self(Vec3::zero(), Vec3::zero());
    }

    public function plus(self $other, float $amount = 1.0): self
    {
        return new self($this->velocity->plus($other->velocity->times($amount)), $this->spin->plus($other->spin->times($amount)));
    }
}
