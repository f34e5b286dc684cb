<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\MomentKind;
use YardBreak\Core\Timing\PointInTime;

/**
 * A front that runs out from a point and gives whatever it passes one push: so much impulse for each square metre turned towards it,
 * falling as 1/r, as the specific impulse of a blast wave in the open does beyond its near field (Kinney & Graham 1985, "Explosive
 * shocks in air").
 */
final readonly class Blast implements Force, LetsGo
{
    private const NOTHING = 'nothing';

    private const PROP = 'a-prop';

    /** Metres within which it grows no stronger. */
    private const NEAREST = 0.1;

    /** @param  string|null  $shade  id of the prop that keeps it off; empty for all that stands or is keyed, null for nothing */
    private function __construct(private Vec3 $at, private float $frame, private float $impulse, private float $speed, private float $reach, private ?string $shade, private float $frees)
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
            new Option('shade', 'Shaded by', 'What keeps it off whatever stands behind.', Choice::class, self::NOTHING, choices: [self::NOTHING, 'what-stands', self::PROP]),
            new Option('prop', 'That prop', 'Behind which it does nothing.', MeshKind::class, '', with: 'shade='.self::PROP),
            new Option('frees', 'Lets go', 'Pieces that are held go as its front reaches them, where it brings as much as this for each square metre; 0 for none.', Number::class, 0.0, 0.0, 100000.0, 'N·s/m²'),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Vec3::of($values['at']), (float) $values['frame'], (float) $values['impulse'], (float) $values['speed'], $values['reach'], $values['shade'] === self::NOTHING ? null : ($values['shade'] === self::PROP ? $values['prop'] : ''), $values['frees']);
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        $reached = [];
        foreach ($effect->x as $i => $x) {
            $off = new Vec3($x - $this->at->x, $effect->y[$i] - $this->at->y, $effect->z[$i] - $this->at->z);
            $r = $off->length();
            if ($at->takesIn($this->frame, $r / $this->speed)) {
                $share = Reach::share($r, $this->reach) * $amounts[$i];
                $reached[$i] = $off->times($this->impulse * $share / max($r, self::NEAREST) / max($r, 1e-9));
            }
        }
        foreach ($reached === [] ? [] : array_diff_key($reached, $this->shaded($effect, $at, array_keys($reached))) as $i => $by) {
            $effect->strike($i, $by);
        }
    }

    /**
     * @param  list<int>  $places
     * @return array<int, true> those of them behind what keeps it off
     */
    private function shaded(Effect $effect, Instant $at, array $places): array
    {
        if ($this->shade === null || $at->obstacles === null) {
            return [];
        }
        $of = static fn (array $all): array => array_map(static fn (int $i): float => $all[$i], $places);
        $hidden = $at->obstacles->hidden($this->shade, $at->of, $this->at, $of($effect->x), $of($effect->y), $of($effect->z));

        return array_fill_keys(array_map(static fn (int $k): int => $places[$k], array_keys(array_filter($hidden))), true);
    }

    public function frees(Instant $at, array $x, array $y, array $z): array
    {
        if ($this->frees <= 0.0) {
            return [];
        }
        $effect = new Effect($x, $y, $z);
        $this->on($effect, $at, array_fill(0, count($x), 1.0));

        return array_keys(array_filter($effect->strikes, fn (Vec3 $by): bool => $by->length() >= $this->frees));
    }
}
