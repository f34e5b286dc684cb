<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Push\Sent;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Values;

/**
 * What moves pieces in one way: as rigid bodies, say. Movers do not know each other; what one wants of another it asks of its
 * surroundings. A mover is a class and a line in the catalogue.
 */
interface Mover
{
    /** A word for how it moves things. */
    public static function label(): string;

    /** What that means, in a line. */
    public static function meaning(): string;

    /** @return list<Option> what can be set of a prop whose pieces it moves */
    public static function options(): array;

    /** @return list<StreamKind> what it writes of such a prop besides poses and sizes of its pieces */
    public static function streams(): array;

    /** What is set of such a prop. */
    public static function settings(Values $values): Settings;

    /** Whether only what encloses a volume, and so has mass, can be moved by it. */
    public static function needsMass(): bool;

    /**
     * As it is at the start of a shot.
     *
     * @throws Problem where something of the cast cannot be moved by it
     */
    public static function begin(Cast $cast, Moment $start, Surroundings $around): self;

    /** Whether it is this mover that says where a piece is. */
    public function has(int $prop, int $piece): bool;

    /**
     * Lets pieces go: from now on they are free.
     *
     * @param  int  $prop  its number
     * @param  list<int>  $pieces  their numbers within it, held so far
     * @param  array<int, Sent>  $sent  by piece: what it is sent off with besides what its prop gives all of them
     * @return bool whether it moves any of them
     */
    public function release(int $prop, array $pieces, Moment $at, array $sent): bool;

    /** How many exchange steps the coming frame needs at least; what comes of each is known to all movers before the next. */
    public function exchanges(Moment $from): int;

    /** Moves on by one exchange step; how often it steps in between is its own business. */
    public function advance(Moment $from, Moment $to, Surroundings $around): void;

    /** Has arrived at a frame: what is driven stands where it belongs, before anything is let go or written. */
    public function arrive(Moment $at, Surroundings $around): void;

    /**
     * Where a piece it has is now.
     *
     * @param  float  $back  seconds before that, on the way gone last
     */
    public function pose(int $prop, int $piece, float $back = 0.0): Pose;

    /** m/s, of a place on a piece it has. */
    public function velocityOf(int $prop, int $piece, Vec3 $at): Vec3;

    /** A piece it has, as one body, or all that moves with it; null where it is none. */
    public function body(int $prop, int $piece): ?Body;

    /** Something pushes a piece it has: an impulse in N·s at a place of it. */
    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void;

    /** Touches of these two props are of no more interest; −1 is the ground. */
    public function settle(int $one, int $other): void;

    /** Puts its streams into a frame on the way that was gone last; poses and sizes of the pieces it has are written for it. */
    public function write(FrameWriter $frame): void;

    /** @return list<Joint> what parted between pieces of a prop on the way to the frame that is being reached, where it lies in the prop */
    public function openings(int $prop): array;

    /** Of the frame that was reached. */
    public function figures(): Figures;

    /** The state alone: nothing the document says, nothing that can be worked out again. */
    public function pack(): string;

    /** @throws Problem where the state is not one it knows */
    public function unpack(string $state): void;
}
