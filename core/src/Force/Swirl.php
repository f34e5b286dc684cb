<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Air that goes round an axis, fastest at the edge of a core: the vortex of Lamb and Oseen (Saffman 1992, "Vortex dynamics", §13.1). */
final readonly class Swirl implements Force
{
    /** Radius of the fastest ring, in core radii, and its speed in units of circulation over 2π core radii: where 1 − e^(−s²) = 2s²e^(−s²). */
    private const RING = 1.1209064227785;

    private const FASTEST = 0.6381726863389;

    private function __construct(private Vec3 $at, private Vec3 $axis, private float $speed, private float $radius, private float $inflow, private float $updraft, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Swirl';
    }

    public static function meaning(): string
    {
        return 'Air that goes round an axis, and in and up if wanted';
    }

    public static function options(): array
    {
        return [
            new Option('at', 'Middle', 'A point of its axis.', PointInTime::class, [0.0, 0.0, 0.0], -100000.0, 100000.0, 'm'),
            new Option('axis', 'Axis', 'What it goes round; how long this is does not matter.', PointInTime::class, [0.0, 1.0, 0.0], -1000.0, 1000.0),
            new Option('speed', 'Fastest', 'Of the air, at the edge of its core; below 0 the other way round.', NumberInTime::class, 10.0, -500.0, 500.0, 'm/s'),
            new Option('radius', 'Fastest at', 'How far from the axis that is.', NumberInTime::class, 0.5, 0.001, 10000.0, 'm'),
            new Option('inflow', 'Inflow', 'With which it draws in towards its axis, there.', NumberInTime::class, 0.0, -500.0, 500.0, 'm/s'),
            new Option('updraft', 'Updraft', 'Along its axis, in the core.', NumberInTime::class, 0.0, -500.0, 500.0, 'm/s'),
            Reach::option(),
        ];
    }

    public static function of(array $values): self
    {
        $axis = Vec3::of($values['axis']);

        return new self(
            Vec3::of($values['at']), $axis->times(1.0 / max(1e-12, $axis->length())), $values['speed'], $values['radius'], $values['inflow'], $values['updraft'],
            $values['reach'],
        );
    }

    /** m/s round the axis, so far from it. */
    public function roundAt(float $distance): float
    {
        $core = $this->radius / self::RING;
        $s = $distance / $core;

        return $s < 1e-6 ? $this->speed / self::FASTEST * $s : $this->speed / self::FASTEST * -expm1(-$s * $s) / $s;
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        $effect->airy();
        $axis = $this->axis;
        foreach ($effect->x as $i => $x) {
            $off = new Vec3($x - $this->at->x, $effect->y[$i] - $this->at->y, $effect->z[$i] - $this->at->z);
            $out = $off->minus($axis->times($off->dot($axis)));
            $r = $out->length();
            $share = Reach::share($r, $this->reach) * $amounts[$i];
            $round = $this->roundAt($r);
            // As fast in as round, in the same measure, so that it dies away towards the axis.
            $in = $this->speed === 0.0 ? $this->inflow * min(1.0, $r / $this->radius) : $this->inflow * $round / $this->speed;
            $up = $this->updraft * exp(-(($r / $this->radius) ** 2));
            $k = $r > 1e-9 ? 1.0 / $r : 0.0;
            $u = $axis->cross($out)->times($round * $k)->minus($out->times($in * $k))->plus($axis->times($up))->times($share);
            $effect->ux[$i] += $u->x;
            $effect->uy[$i] += $u->y;
            $effect->uz[$i] += $u->z;
        }
    }
}
