<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\CameraSolve;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;

/** The shot's camera over frames: where it stands, what it looks at, and how wide it sees. */
final readonly class Camera
{
    /** Metres from the camera to what it looks at, along one axis at least. */
    private const NEAREST = 1e-6;

    /**
     * @param  Track  $focal  millimetres
     * @param  Track  $film  width of what catches the picture, millimetres
     * @param  array{int, int}  $shape  width and height of the picture, pixels
     * @param  Track  $roll  degrees by which it leans to the right
     * @param  list<array{prop: string, at: array{float, float, float}, on: array{float, float}, to?: array{float, float, float}, onTo?: array{float, float}}>  $matches  places in their
     *   prop's coordinates, and where in the picture they are seen
     */
    public function __construct(public Track3 $position, public Track3 $target, public Track $focal, public Track $film, public array $shape, public Track $roll, public array $matches = [])
    {
    }

    /**
     * @param  array<string, mixed>  $c  already of the schema's form
     * @param  array{int, int}  $frames  the shot's first and last
     *
     * @throws Problem where it stands in what it looks at in one of them
     */
    public static function of(array $c, Cues $cues, array $frames): self
    {
        Reading::check(Settings::camera(), $c, 'camera');

        $position = Reading::point($c['position'], $cues, 'camera.position');
        $target = Reading::point($c['target'], $cues, 'camera.target');
        $lost = self::meeting($position, $target, $frames);
        if ($lost !== null) {
            $rests = $position->isConstant() && $target->isConstant();
            throw Problem::inValue(
                'camera.target',
                ($rests ? 'The' : 'At frame '.$lost.' the').' camera looks at the very place it stands in, so it looks nowhere.',
                $rests ? 'Move one of the two.' : 'Move one of the two there, so that it passes beside what it looks at.',
            );
        }

        return new self(
            $position, $target,
            Reading::number($c['focal'], $cues, 'camera.focal'), Reading::number($c['film'], $cues, 'camera.film'), [$c['shape'][0], $c['shape'][1]],
            Reading::number($c['roll'] ?? 0, $cues, 'camera.roll'), $c['matches'] ?? [],
        );
    }

    /**
     * The first of the frames at which the two are in one place.
     *
     * @param  array{int, int}  $frames
     */
    private static function meeting(Track3 $position, Track3 $target, array $frames): ?int
    {
        [$first, $last] = $frames;
        $axes = [];
        foreach ([[$position->x, $target->x], [$position->y, $target->y], [$position->z, $target->z]] as [$a, $b]) {
            if (! $a->isConstant() || ! $b->isConstant()) {
                $axes[] = [$a, $b];
            } elseif (abs($a->at(0.0) - $b->at(0.0)) >= self::NEAREST) {
                return null;
            }
        }
        for ($frame = $first; $frame <= ($axes === [] ? $first : $last); $frame++) {
            foreach ($axes as [$a, $b]) {
                if (abs($a->at($frame) - $b->at($frame)) >= self::NEAREST) {
                    continue 2;
                }
            }

            return $frame;
        }

        return null;
    }

    /**
     * The camera that sees at a frame what it is matched to.
     *
     * @param  \Closure(string): (Placement|null)  $place  where a prop stands then; null where it is not there
     * @return array{position: array{float, float, float}, target: array{float, float, float}, focal: float, roll: float, residual: float, left: list<float|null>, sure: float} focal
     *   in millimetres of its film, residual in pixels, and by match pixels it is off: null where its prop is gone
     *
     * @throws Problem where the matches do not tell
     */
    public function linedUp(float $frame, \Closure $place): array
    {
        $matches = $numbers = [];
        foreach ($this->matches as $k => $m) {
            $of = $place($m['prop']);
            if ($of === null) {
                continue;
            }
            $numbers[] = $k;
            $line = isset($m['to'], $m['onTo']);
            $matches[] = [$of->point(new Vec3(...$m['at'])), [(float) $m['on'][0], (float) $m['on'][1]], ...($line ? [$of->point(new Vec3(...$m['to'])), [(float) $m['onTo'][0], (float) $m['onTo'][1]]] : [])];
        }
        $found = CameraSolve::of($matches, $this->shape);
        $focal = $found->focal * $this->film->at($frame);
        [$least, $most] = array_map(static fn (string $end): float => array_column(Settings::camera(), $end, 'name')['focal'], ['least', 'most']);
        if ($focal < $least || $focal > $most) {
            throw Problem::inValue('matches', sprintf('Only a lens of %.2g mm would see these places there.', $focal), 'Look whether two of them are matched the wrong way round, and match more.');
        }
        $ahead = $found->turn->turn(new Vec3(0.0, 0.0, -1.0));
        // It looks at where its line of sight passes the middle of what it is matched to.
        $middle = array_reduce($matches, static fn (Vec3 $sum, array $m): Vec3 => $sum->plus($m[0]), Vec3::zero())->times(1.0 / count($matches));
        $target = $found->position->plus($ahead->times(max(0.01, $middle->minus($found->position)->dot($ahead))));
        $level = (new self(Track3::of($found->position->toArray()), Track3::of($target->toArray()), $this->focal, $this->film, $this->shape, Track::of(0.0)))->turn($frame);
        $leans = $level->inverse()->after($found->turn);

        return [
            'position' => $found->position->toArray(), 'target' => $target->toArray(), 'focal' => $focal,
            'roll' => -rad2deg(2.0 * ($leans->w < 0.0 ? atan2(-$leans->z, -$leans->w) : atan2($leans->z, $leans->w))), 'residual' => $found->residual,
            'left' => array_map(static fn (int $k): ?float => ($at = array_search($k, $numbers, true)) === false ? null : $found->left[$at], array_keys($this->matches)), 'sure' => $found->sure,
        ];
    }

    public function aspect(): float
    {
        return $this->shape[0] / $this->shape[1];
    }

    /** The angle from the lower to the upper edge of the picture, radians: tan of its half is half the film's height by the focal length. */
    public function fieldOfView(float $frame): float
    {
        return 2.0 * atan(0.5 * $this->film->at($frame) / $this->aspect() / $this->focal->at($frame));
    }

    /** Its turn from looking along −z with y up; where it looks straight up or down, z decides what is up. */
    public function turn(float $frame): Quaternion
    {
        $back = $this->position->at($frame)->minus($this->target->at($frame));
        $back = $back->length() > 1e-12 ? $back->unit() : new Vec3(0.0, 0.0, 1.0);
        $right = (new Vec3(0.0, 1.0, 0.0))->cross($back);
        $right = $right->length() > 1e-9 ? $right->unit() : new Vec3(1.0, 0.0, 0.0);

        return Quaternion::fromAxes($right, $back->cross($right), $back)->after(Quaternion::aboutAxis(new Vec3(0.0, 0.0, 1.0), -deg2rad($this->roll->at($frame))));
    }
}
