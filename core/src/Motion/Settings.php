<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Timing\Acts;

/** What is set of a prop for the mover that moves its pieces once they are let go. */
interface Settings
{
    /**
     * Says what of it acts on a bake, and when.
     *
     * @param  list<array{float, string, string}>  $moments  when pieces are let go, as far as that is known: frame, and name and words of what lets them go
     * @param  bool  $atAnyTime  whether pieces may also be let go at moments that are not known beforehand
     */
    public function acts(Acts $acts, array $moments, bool $atAnyTime): void;

    /** What pieces collide as: one of `Solid::SHAPES`, or `Solid::NONE`. */
    public function shape(): string;

    /** How large a ball is that a piece collides as, as a share of its size; 0 for one of like volume. */
    public function ball(): float;

    /** @return array<string, string> ids of the weight maps of its prop that it goes by, by the option that names each */
    public function maps(): array;

    /** Whether pieces that are not let go yet move all the same: as one. */
    public function movesHeld(): bool;
}
