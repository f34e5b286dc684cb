<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/**
 * Where a prop stands over frames: position, turn and size. Turns are degrees about x, then y, then z of the fixed frame.
 * Each axis runs by itself, so that 0 to 360 is one full turn; or the turn as a whole takes the shortest way from key to
 * key, and holds outside them (Shoemake 1985, "Animating rotation with quaternion curves").
 */
final readonly class PlaceTrack
{
    /** @var list<Quaternion> where turns take the shortest way: the turn at each key of any axis */
    private array $stations;

    /** Counts those stations; null where each axis runs by itself. */
    private ?Track $between;

    private bool $moves;

    public function __construct(public Track3 $position, public Track3 $turn, public Track $size, public bool $shortest = false)
    {
        $this->moves = ! $position->isConstant() || ! $turn->isConstant() || ! $size->isConstant();
        $stations = [];
        $between = null;
        if ($shortest && ! $turn->isConstant()) {
            $frames = array_unique(array_merge($turn->x->frames, $turn->y->frames, $turn->z->frames));
            sort($frames);
            $keys = [];
            foreach ($frames as $k => $frame) {
                $stations[] = self::turned($turn->at($frame));
                $keys[] = ['frame' => $frame, 'value' => $k];
            }
            $between = Track::of(['keys' => $keys]);
        }
        $this->stations = $stations;
        $this->between = $between;
    }

    public static function still(Vec3 $position, Vec3 $degrees, float $size): self
    {
        return new self(Track3::constant($position), Track3::constant($degrees), Track::constant($size));
    }

    /** The same, stopped as it is at a frame. */
    public function stoppedAt(float $frame): self
    {
        return $this->moves ? self::still($this->position->at($frame), $this->turn->at($frame), $this->size->largest()) : $this;
    }

    /** Whether it has keys. */
    public function moves(): bool
    {
        return $this->moves;
    }

    /** Whether it waits for cues to be anchored. */
    public function waits(): bool
    {
        return $this->position->waits() || $this->turn->waits() || $this->size->waits();
    }

    /** The size its mesh is made at: the largest it is keyed to, so that it can be keyed to nothing. */
    public function fullSize(): float
    {
        return $this->size->largest();
    }

    /** @return Placement whose size is a share of the full one */
    public function at(float $frame): Placement
    {
        return new Placement($this->position->at($frame), $this->turnAt($frame), $this->size->isConstant() ? 1.0 : $this->size->at($frame) / $this->fullSize());
    }

    public function turnAt(float $frame): Quaternion
    {
        if ($this->between === null) {
            return self::turned($this->turn->at($frame));
        }
        $at = $this->between->at($frame);
        $k = max(0, min((int) floor($at), count($this->stations) - 2));

        return $this->stations[$k]->towards($this->stations[$k + 1], $at - $k);
    }

    /**
     * The rotation that leads on from a frame, as axis × angle: whole turns count, where the axes say that there are any.
     *
     * @param  float  $ahead  frames; below zero for back
     * @return Vec3 radians
     */
    public function rotation(float $frame, float $ahead): Vec3
    {
        if ($this->turn->isConstant()) {
            return Vec3::zero();
        }
        $short = $this->turnAt($frame)->rotationTo($this->turnAt($frame + $ahead));
        $angle = $short->length();
        if ($this->between !== null || $angle < 1e-12) {
            return $short;
        }
        // About the axes as they stand half way: z of the world, y turned by z, x turned by both.
        $half = $frame + 0.5 * $ahead;
        $degrees = $this->turn->at($half);
        $rate = $this->turn->slope($half)->times(M_PI / 180.0 * $ahead);
        $z = Quaternion::aboutAxis(new Vec3(0, 0, 1), deg2rad($degrees->z));
        $zy = $z->after(Quaternion::aboutAxis(new Vec3(0, 1, 0), deg2rad($degrees->y)));
        $guess = (new Vec3(0, 0, $rate->z))->plus($z->turn(new Vec3(0, $rate->y, 0)))->plus($zy->turn(new Vec3($rate->x, 0, 0)));
        $axis = $short->times(1.0 / $angle);
        $turns = round(($guess->dot($axis) - $angle) / (2.0 * M_PI));

        return $axis->times($angle + 2.0 * M_PI * $turns);
    }

    /** @return array<string, Track> by name of the value */
    public function tracks(): array
    {
        return [
            'position x' => $this->position->x, 'position y' => $this->position->y, 'position z' => $this->position->z,
            'turn x' => $this->turn->x, 'turn y' => $this->turn->y, 'turn z' => $this->turn->z, 'size' => $this->size,
        ];
    }

    private static function turned(Vec3 $degrees): Quaternion
    {
        return Quaternion::fromEuler($degrees->times(M_PI / 180.0));
    }
}
