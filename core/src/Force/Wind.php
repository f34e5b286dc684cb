<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Air that goes one way, or comes from a point or a line. Gusts travel with it. */
final readonly class Wind implements Force
{
    /** @param  float  $gusts  share of its speed by which it swells and abates */
    private function __construct(
        private bool $fromPoint,
        private bool $fromLine,
        private Vec3 $direction,
        private Vec3 $at,
        private float $speed,
        private float $reach,
        private float $gusts,
        private float $every,
        private int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Wind';
    }

    public static function meaning(): string
    {
        return 'Air that goes one way, or away from a point or a line';
    }

    public static function options(): array
    {
        return [
            new Option('from', 'Blows', 'One way everywhere, outwards from a point, or outwards from a line.', Choice::class, 'straight', choices: ['straight', 'outwards', 'from-a-line']),
            new Option('speed', 'Speed', 'Of the air; 10 m/s is a fresh breeze, 20 a gale.', NumberInTime::class, 8.0, -500.0, 500.0, 'm/s'),
            new Option('direction', 'Towards', 'Which way it goes; how long this is does not matter.', PointInTime::class, [1.0, 0.0, 0.0], -1000.0, 1000.0, with: 'from=straight'),
            new Option('along', 'Line along', 'Which way the line goes that it comes from.', PointInTime::class, [0.0, 1.0, 0.0], -1000.0, 1000.0, with: 'from=from-a-line'),
            new Option('at', 'From', 'The point it comes from, or one of the line.', PointInTime::class, [0.0, 0.5, 0.0], -100000.0, 100000.0, 'm', with: 'from=outwards|from=from-a-line'),
            Reach::option(),
            new Option('gusts', 'Gusts', 'By how much of its speed it swells and abates.', NumberInTime::class, 0.0, 0.0, 2.0, '%'),
            new Option('every', 'A gust every', 'How long one lasts, about.', NumberInTime::class, 1.5, 0.05, 1000.0, 's', with: 'gusts'),
            new Option('seed', 'Seed', 'Another number gives other gusts.', Whole::class, 1, 0, 999999, with: 'gusts'),
        ];
    }

    public static function of(array $values): self
    {
        $direction = Vec3::of($values['from'] === 'from-a-line' ? $values['along'] : $values['direction']);

        return new self(
            $values['from'] === 'outwards', $values['from'] === 'from-a-line', $direction->times(1.0 / max(1e-12, $direction->length())), Vec3::of($values['at']), $values['speed'],
            $values['reach'], $values['gusts'], $values['every'], $values['seed'],
        );
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        $effect->airy();
        $noise = $this->gusts > 0.0 ? new Noise(new SeededRandom($this->seed)) : null;
        $goes = max(0.5, abs($this->speed)) * $this->every;
        $around = $this->fromPoint || $this->fromLine || $this->reach > 0.0;
        [$lx, $ly, $lz] = $this->direction->toArray();
        [$wx, $wy, $wz] = $this->direction->toArray();
        [$ax, $ay, $az] = $this->at->toArray();
        foreach ($effect->x as $i => $x) {
            $dx = $x - $ax;
            $dy = $effect->y[$i] - $ay;
            $dz = $effect->z[$i] - $az;
            $speed = $this->speed * $amounts[$i];
            if ($around) {
                if ($this->fromLine) {
                    $along = $dx * $lx + $dy * $ly + $dz * $lz;
                    [$dx, $dy, $dz] = [$dx - $along * $lx, $dy - $along * $ly, $dz - $along * $lz];
                }
                $r = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                $speed *= Reach::share($r, $this->reach);
                if ($this->fromPoint || $this->fromLine) {
                    $k = 1.0 / max(1e-9, $r);
                    [$wx, $wy, $wz] = [$dx * $k, $dy * $k, $dz * $k];
                }
            }
            if ($noise !== null && $speed !== 0.0) {
                // Gusts come with the air: what is here now was a way upwind before.
                $speed *= 1.0 + $this->gusts * 2.0 * $noise->at($at->seconds() / $this->every - ($dx * $wx + $dy * $wy + $dz * $wz) / $goes, 0.37, 0.71);
            }
            $effect->ux[$i] += $speed * $wx;
            $effect->uy[$i] += $speed * $wy;
            $effect->uz[$i] += $speed * $wz;
        }
    }
}
