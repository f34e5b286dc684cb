<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Body;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\Figures;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Leads;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\PlainSettings;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\Settings;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Timing\Values;

/** Leads pieces by a weight map: where they are follows from the moment alone, and nothing turns them aside. */
final class DriftMover implements Leads
{
    private const STATE = 'DRFT';

    private const STATE_VERSION = 2;

    /** Frames to either side of a moment by which speeds are told. */
    private const HALF = 0.05;

    private function __construct(private Moment $at, private readonly Surroundings $around)
    {
    }

    public static function label(): string
    {
        return 'Drift';
    }

    public static function meaning(): string
    {
        return 'Its pieces move by a weight map, without physics';
    }

    public static function options(): array
    {
        return [];
    }

    public static function settings(Values $values): Settings
    {
        return new PlainSettings($values);
    }

    public static function streams(): array
    {
        return [];
    }

    public static function needsMass(): bool
    {
        return false;
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        return new self($start, $around);
    }

    public function leads(int $prop): bool
    {
        return $this->around->member($prop)->ledBy === self::class;
    }

    public function ledAt(int $prop, float $frame): array
    {
        return $this->around->byMaps($prop, $frame);
    }

    public function has(int $prop, int $piece): bool
    {
        return $this->leads($prop);
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        return false;
    }

    public function exchanges(Moment $from): int
    {
        return 1;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        $this->at = $to;
    }

    public function arrive(Moment $at, Surroundings $around): void
    {
        $this->at = $at;
    }

    public function pose(int $prop, int $piece, float $back = 0.0): Pose
    {
        return $this->poseAt($prop, $piece, $this->at->frame);
    }

    private function poseAt(int $prop, int $piece, float $frame): Pose
    {
        [$poses, $sizes] = $this->ledAt($prop, $frame);

        return Pose::of($poses, $sizes, $piece);
    }

    public function velocityOf(int $prop, int $piece, Vec3 $at): Vec3
    {
        return $this->body($prop, $piece)->velocityAt($at);
    }

    public function body(int $prop, int $piece): Body
    {
        $now = $this->at->frame;

        return Body::driven(
            $this->poseAt($prop, $piece, $now - self::HALF),
            $this->poseAt($prop, $piece, $now),
            $this->poseAt($prop, $piece, $now + self::HALF),
            2.0 * self::HALF * $this->at->frameTime,
        );
    }

    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void
    {
    }

    public function settle(int $one, int $other): void
    {
    }

    public function write(FrameWriter $frame): void
    {
    }

    public function openings(int $prop): array
    {
        return [];
    }

    public function figures(): Figures
    {
        return new Figures;
    }

    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        $out->floats([$this->at->frame, $this->at->frameTime]);

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        [$frame, $frameTime] = $in->floats();
        $this->at = new Moment($frame, $frameTime);
        $in->end();
    }
}
