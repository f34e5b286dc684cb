<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;

/** What a mover may know of the rest of the shot while it moves on. */
interface Surroundings
{
    /** The prop as it is from this moment on: cues that are anchored change its tracks. */
    public function member(int $prop): Member;

    /**
     * Where the pieces of a prop that drifts are at a moment.
     *
     * @return array{list<float>, list<float>} eight numbers a piece as in a stream of poses, and the share of its full size each has
     */
    public function drifted(int $prop, float $frame): array;

    /**
     * The weights of a map of a prop at a moment: what says where cloth is held, how much a fabric grows, where pressure acts.
     *
     * @param  bool  $ofPieces  of its pieces, not of the points of its mesh
     * @return list<float> 0…1
     */
    public function weights(string $map, bool $ofPieces, float $frame): array;

    /** m/s². */
    public function gravity(float $frame): Vec3;

    public function groundFriction(float $frame): float;

    public function groundBounce(float $frame): float;

    /** Whether a touch of anything held of this prop is to be told. */
    public function waits(int $prop): bool;

    /**
     * Two props touch, or are about to.
     *
     * @return bool whether something was let go by it
     */
    public function touched(Touch $touch): bool;

    /** Whether the touches of these two are still of interest; −1 is the ground. */
    public function heeds(int $one, int $other): bool;

    /** What stands and moves as it is now. */
    public function surfaces(): Surfaces;

    /** Called several times a frame, for whoever watches that it gets on. */
    public function stillAtWork(): void;
}
