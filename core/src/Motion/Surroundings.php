<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Vec3;

/** What a mover may know of the rest of the shot while it moves on. */
interface Surroundings
{
    /** The prop as it is from this moment on: cues that are anchored change its tracks. */
    public function member(int $prop): Member;

    /**
     * Where weight maps have the pieces of a prop at a moment.
     *
     * @return array{list<float>, list<float>} eight numbers a piece as in a stream of poses, and the share of its full size each has
     */
    public function byMaps(int $prop, float $frame): array;

    /**
     * Where pieces of a prop are at a moment that are not let go: as something leads them.
     *
     * @return array{list<float>, list<float>}|null likewise; null where they follow their prop
     */
    public function ledAt(int $prop, float $frame): ?array;

    /** What stands and moves as it is now, and the ground. */
    public function colliders(): Colliders;

    /** A piece of whatever moves it, as one body; null where it is none. Of what is driven the mass is INF. */
    public function body(int $prop, int $piece): ?Body;

    /** Pushes a piece of whatever moves it: an impulse in N·s at a place of it. What is held or driven does not feel it. */
    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void;

    /**
     * The weights of a map of a prop at a moment: what says where cloth is held, how much a fabric grows, where pressure acts.
     *
     * @param  bool  $ofPieces  of its pieces, not of the points of its mesh
     * @return list<float> 0…1
     */
    public function weights(string $map, bool $ofPieces, float $frame): array;

    /**
     * The weights of a map on all points of the pieces of its prop, one piece after the other.
     *
     * @return list<float> 0…1
     */
    public function onSurface(string $map, float $frame): array;

    /**
     * Where a prop has its points at a moment that blends into others.
     *
     * @return array{list<float>, list<float>, list<float>}|null points of all its pieces in the scene; null where they follow their prop
     */
    public function blended(int $prop, float $frame): ?array;

    /** @return list<Joint> what parted between pieces of a prop on the way to the frame that is being reached, where it lies in the prop */
    public function openings(int $prop): array;

    /** Whether hits on a prop are to be told, each of them. */
    public function hearsHits(int $prop): bool;

    /** @return list<Touch> hits on a prop on the way to the frame that is being reached, as far as they are told */
    public function hits(int $prop): array;

    /** Where a piece is now, whatever moves it. */
    public function poseOf(int $prop, int $piece): Pose;

    /** m/s², along each axis. */
    public function gravity(float $frame): Vec3;

    /** Whether any force acts on a prop. */
    public function isPushed(int $prop): bool;

    /**
     * What forces do at a moment to some pieces of a prop, and how the air goes there.
     *
     * @param  list<int>  $pieces
     * @param  list<float>  $x  metres, where each of them is
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  float  $span  seconds for which it holds, about that moment
     */
    public function forces(int $prop, array $pieces, array $x, array $y, array $z, float $frame, float $span): Effect;

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

    /** The frame that would show what a frame shows if time passed as on the clock. */
    public function onTheClock(float $frame): float;

    /** The moment from which the way to what is being reached is gone, as a frame. */
    public function since(): float;

    /** Whether frames show moments between those that are reached, so that the way to them is to be known. */
    public function isPaced(): bool;

    /** @return (\Closure(): float)|null seconds, by which work is measured; null where nobody wants to know what it was spent on */
    public function clock(): ?\Closure;

    /** Called several times a frame, for whoever watches that it gets on. */
    public function stillAtWork(): void;
}
