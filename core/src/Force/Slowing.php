<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Plain damping: whatever is there loses a share of its speed a second. */
final readonly class Slowing implements Force
{
    private function __construct(private float $share, private Vec3 $at, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Drag';
    }

    public static function meaning(): string
    {
        return 'Slows whatever moves, light or heavy alike';
    }

    public static function options(): array
    {
        return [
            new Option('share', 'Slows by', 'So much of its speed is lost a second; 5 stops nearly everything within one.', NumberInTime::class, 2.0, 0.0, 1000.0, '1/s'),
            new Option('at', 'Middle', 'Of where it does so.', PointInTime::class, [0.0, 0.0, 0.0], -100000.0, 100000.0, 'm', with: 'reach>0'),
            Reach::option(),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['share'], Vec3::of($values['at']), $values['reach']);
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        foreach ($effect->x as $i => $x) {
            $r = (new Vec3($x, $effect->y[$i], $effect->z[$i]))->minus($this->at)->length();
            $effect->slowing[$i] += $this->share * Reach::share($r, $this->reach) * $amounts[$i];
        }
    }
}
