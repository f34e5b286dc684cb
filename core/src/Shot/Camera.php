<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

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
     */
    public function __construct(public Track3 $position, public Track3 $target, public Track $focal, public Track $film, public array $shape)
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

        return Quaternion::fromAxes($right, $back->cross($right), $back);
    }
}
