<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/**
 * Where a prop stands over frames: position, turn and size. Turns are degrees about x, then y, then z of the fixed frame.
 * Each axis runs by itself, so that 0 to 360 is one full turn; or the turn as a whole takes the shortest way from key to
 * key (Shoemake 1985, "Animating rotation with quaternion curves"), with the ease of that key, and outside them holds,
 * repeats or swings as the first of its axes that has keys does.
 *
 * Its keys may follow a pace: then they are come to as that lets time pass.
 */
final readonly class PlaceTrack
{
    /** @var list<Quaternion> where turns take the shortest way: the turn at each key of any axis */
    private array $stations;

    /** Counts those stations; null where each axis runs by itself. */
    private ?Track $between;

    private bool $moves;

    public function __construct(public Track3 $position, public Track3 $turn, public Track $size, public bool $shortest = false, private ?Pace $pace = null)
    {
        $this->moves = ! $position->isConstant() || ! $turn->isConstant() || ! $size->isConstant();
        $knots = [];
        foreach ($shortest ? $turn->axes() : [] as $axis) {
            foreach ($axis->isConstant() ? [] : $axis->knots() as [$frame, $ease]) {
                $knots[(string) $frame] ??= [$frame, $ease];
            }
        }
        usort($knots, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $stations = [];
        $between = null;
        if (count($knots) > 1) {
            $stations = array_map(static fn (array $knot): Quaternion => self::turned($turn->at($knot[0])), $knots);
            $moving = array_values(array_filter($turn->axes(), static fn (Track $axis): bool => ! $axis->isConstant()));
            $between = Track::counting(array_column($knots, 0), array_column($knots, 1), ...$moving[0]->outside());
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

    /** @return list<string> ids of the cues its keys are tied to */
    public function ties(): array
    {
        return [...$this->position->ties(), ...$this->turn->ties(), ...$this->size->ties()];
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
        $frame = $this->own($frame);

        return new Placement($this->position->at($frame), $this->turnBy($frame), $this->size->isConstant() ? 1.0 : $this->size->at($frame) / $this->fullSize());
    }

    public function turnAt(float $frame): Quaternion
    {
        return $this->turnBy($this->own($frame));
    }

    /** The frame its keys have come to at a frame that is shown. */
    private function own(float $frame): float
    {
        return $this->pace === null ? $frame : $this->pace->first + $this->pace->scene($frame);
    }

    private function turnBy(float $frame): Quaternion
    {
        if ($this->between === null) {
            return self::turned($this->turn->at($frame));
        }
        [$k, $share] = $this->between->progress($frame);

        return $this->stations[$k]->towards($this->stations[$k + 1], $share);
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
        [$frame, $until] = [$this->own($frame), $this->own($frame + $ahead)];
        $ahead = $until - $frame;
        $short = $this->turnBy($frame)->rotationTo($this->turnBy($until));
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

    public function acts(Acts $acts): void
    {
        $this->position->acts($acts, 'position');
        $acts->values('size', $this->size);
        // A share of the full size is what counts.
        $acts->always('full size', $this->fullSize());
        if ($this->between === null) {
            $this->turn->acts($acts, 'turn');
        } else {
            $turns = array_map(static fn (Quaternion $q): string => json_encode($q->toArray(), JSON_THROW_ON_ERROR), $this->stations);
            $acts->values('turn', [[-INF, $turns[0]], ...$this->between->actsBy($turns)]);
        }
    }

    private static function turned(Vec3 $degrees): Quaternion
    {
        return Quaternion::fromEuler($degrees->times(M_PI / 180.0));
    }
}
