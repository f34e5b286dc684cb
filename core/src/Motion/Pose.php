<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** Where a piece is: its middle, its turn, its size as a share of the full one, and what it does. */
final readonly class Pose
{
    /** Bytes a piece takes in a stream of poses. */
    public const BYTES = 32;

    /** Numbers a piece takes in such a stream: position (3), state, turn (x, y, z, w). */
    public const NUMBERS = 8;

    public const HELD = 0;

    public const MOVING = 1;

    public const RESTING = 2;

    /** @param  self::*  $state */
    public function __construct(public Vec3 $at, public Quaternion $turn, public float $size = 1.0, public int $state = self::HELD)
    {
    }

    /** As it follows its prop. */
    public static function standing(Placement $place, Vec3 $middle): self
    {
        return new self($place->point($middle), $place->turn, $place->size);
    }

    /**
     * One of many that are given as numbers.
     *
     * @param  list<float>  $numbers  of all pieces
     * @param  list<float>  $sizes  of all pieces; none where all have their full size
     */
    public static function of(array $numbers, array $sizes, int $piece): self
    {
        $k = self::NUMBERS * $piece;

        return new self(
            new Vec3($numbers[$k], $numbers[$k + 1], $numbers[$k + 2]), new Quaternion($numbers[$k + 4], $numbers[$k + 5], $numbers[$k + 6], $numbers[$k + 7]),
            $sizes[$piece] ?? 1.0, match ($numbers[$k + 3]) {
                1.0 => self::MOVING,
                2.0 => self::RESTING,
                default => self::HELD,
            },
        );
    }

    /**
     * All of a prop's, as a frame has them; turns are brought to length 1 again, which single precision leaves a little off.
     *
     * @param  string  $poses  bytes of a stream of poses
     * @param  string  $sizes  likewise; none where all have their full size
     * @return list<self>
     */
    public static function ofStream(string $poses, string $sizes): array
    {
        $numbers = array_values(unpack('g*', $poses) ?: []);
        $shares = array_values(unpack('g*', $sizes) ?: []);
        $out = [];
        for ($piece = 0, $n = intdiv(count($numbers), self::NUMBERS); $piece < $n; $piece++) {
            $pose = self::of($numbers, $shares, $piece);
            $out[] = new self($pose->at, $pose->turn->unit(), $pose->size, $pose->state);
        }

        return $out;
    }

    /** As a stream of poses has it. */
    public function bytes(): string
    {
        return pack('g8', $this->at->x, $this->at->y, $this->at->z, (float) $this->state, $this->turn->x, $this->turn->y, $this->turn->z, $this->turn->w);
    }

    /** From the prop's own coordinates, in which the piece has its middle there, to the scene. */
    public function placement(Vec3 $middle): Placement
    {
        return Placement::about($middle, $this->at, $this->turn, $this->size);
    }
}
