<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\MomentKind;
use YardBreak\Core\Timing\PointInTime;

/**
 * A front that runs out from a point and gives whatever it passes one push: so much impulse for each square metre turned towards it,
 * falling as 1/r, as the specific impulse of a blast wave in the open does beyond its near field (Kinney & Graham 1985, "Explosive
 * shocks in air").
 */
final readonly class Blast implements Force
{
    /** Metres within which it grows no stronger. */
    private const NEAREST = 0.1;

    private function __construct(private Vec3 $at, private float $frame, private float $impulse, private float $speed, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Blast';
    }

    public static function meaning(): string
    {
        return 'A front that runs out from a point and gives one push as it passes';
    }

    public static function options(): array
    {
        return [
            new Option('at', 'At', 'The point it runs out from.', PointInTime::class, [0.0, 0.2, 0.0], -100000.0, 100000.0, 'm'),
            new Option('frame', 'Goes off', 'At a frame, or at a cue.', MomentKind::class, 0.0, -100000.0, 200000.0),
            new Option('impulse', 'Impulse at 1 m', 'For each square metre turned towards it; half as much at 2 m. A firecracker has about 5, a kilogram of TNT 200.', Number::class, 40.0, -100000.0, 100000.0, 'N·s/m²'),
            new Option('speed', 'Front', 'How fast it runs out; sound does so at 340 m/s.', Number::class, 340.0, 0.1, 10000.0, 'm/s'),
            Reach::option(),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['at']), (float) $values['frame'], (float) $values['impulse'], (float) $values['speed'], $values['reach']);
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        foreach ($effect->x as $i => $x) {
            $off = new Vec3($x - $this->at->x, $effect->y[$i] - $this->at->y, $effect->z[$i] - $this->at->z);
            $r = $off->length();
            if ($at->takesIn($this->frame, $r / $this->speed)) {
                $share = Reach::share($r, $this->reach) * $amounts[$i];
                $effect->strike($i, $off->times($this->impulse * $share / max($r, self::NEAREST) / max($r, 1e-9)));
            }
        }
    }
}
