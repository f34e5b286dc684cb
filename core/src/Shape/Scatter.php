<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\SurfaceSampler;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Weight;
use YardBreak\Core\Weight\WeightKind;

/** Where copies of a prop are strewn over the surface of another: evenly by area, fewer where a weight is low. */
final readonly class Scatter
{
    /** Places tried in vain one after the other before it is said that there is no room. */
    private const TRIES = 5000;

    private function __construct(
        private int $number, private ?Weight $dense, private float $least, private float $most, private ?Weight $grow, private float $lean,
        private float $turn, private ?Weight $twist, private float $sink, private float $apart, private int $seed,
    ) {
    }

    /** @return list<Option> */
    public static function options(): array
    {
        return [
            new Option('number', 'Copies', 'How many.', Whole::class, 60, 1, 10000),
            new Option('dense', 'Denser by weight', 'Where this weight of the prop they are strewn over is 0 there are none.', WeightKind::class, null),
            new Option('least', 'Smallest', 'Times the size of what is copied.', Number::class, 0.7, 0.001, 1000),
            new Option('most', 'Largest', 'Times the size of what is copied.', Number::class, 1.2, 0.001, 1000),
            new Option(
                'grow',
                'Larger by weight',
                'The largest where this weight is 1, the smallest where it is 0; by chance without.',
                WeightKind::class,
                null,
            ),
            new Option('lean', 'Along the surface', '0: all upright; 1: each stands off the surface.', Number::class, 1.0, 0, 1),
            new Option('turn', 'Turned by chance', 'About the way it stands, up to so far.', Number::class, 180, 0, 180, '°'),
            new Option('twist', 'Turned by weight', 'Turned as far as this weight says instead of by chance.', WeightKind::class, null),
            new Option('sink', 'Sunk', 'How deep it sits in the surface.', Number::class, 0.0, -1000, 1000, 'm'),
            new Option('apart', 'Apart', 'No two origins are nearer than this.', Number::class, 0.0, 0, 1000, 'm'),
            new Option('seed', 'Seed', 'Another number strews them otherwise.', Whole::class, 1, 0, 999999),
        ];
    }

    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem
     */
    public static function of(array $values): self
    {
        $v = Option::resolve(self::options(), $values);
        if ($v['least'] > $v['most']) {
            throw Problem::inValue('least', 'The smallest copy is larger than the largest.', 'Give it a smaller number.');
        }

        return new self(
            $v['number'],
            $v['dense'] === null ? null : Weight::of($v['dense']),
            (float) $v['least'],
            (float) $v['most'],
            $v['grow'] === null ? null : Weight::of($v['grow']),
            (float) $v['lean'],
            deg2rad((float) $v['turn']),
            $v['twist'] === null ? null : Weight::of($v['twist']),
            (float) $v['sink'],
            (float) $v['apart'],
            $v['seed'],
        );
    }

    /**
     * @param  Mesh  $over  what they are strewn over; `y` is up
     * @return list<Placement> of each copy, in the coordinates of that mesh; the origin of what is copied lies on the surface
     *
     * @throws Problem where there is no room for so many
     */
    public function places(Mesh $over): array
    {
        $random = new SeededRandom($this->seed);
        $sampler = new SurfaceSampler($over, $random);
        $out = $cells = [];
        $vain = 0;
        while (count($out) < $this->number) {
            if (++$vain > self::TRIES) {
                throw Problem::inValue(
                    'number',
                    'There is room for '.count($out).' copies only, not for '.$this->number.'.',
                    'Strew fewer, let them stand closer, or widen the weight.',
                );
            }
            [$p, $n] = $sampler->point();
            if ($this->dense !== null && $random->share() >= $this->dense->at(...$p)) {
                continue;
            }
            $at = new Vec3(...$p);
            if ($this->apart > 0.0 && ! $this->isClear($at, $cells)) {
                continue;
            }
            $share = $this->grow === null ? $random->share() : $this->grow->at(...$p);
            $up = self::between(new Vec3(0.0, 1.0, 0.0), new Vec3(...$n), $this->lean);
            $turn = self::upright($up)->after(Quaternion::aboutAxis(
                new Vec3(0.0, 1.0, 0.0),
                $this->twist === null ? $random->between(-$this->turn, $this->turn) : $this->turn * $this->twist->at(...$p),
            ));
            $vain = 0;
            $out[] = new Placement($at->minus($up->times($this->sink)), $turn, $this->least + $share * ($this->most - $this->least));
        }

        return $out;
    }

    /** @param  array<int, list<Vec3>>  $cells  what stands already, by place */
    private function isClear(Vec3 $at, array &$cells): bool
    {
        // Places are packed into a number; what falls on one far away by chance is only looked at in vain.
        $cell = static fn (int $i, int $j, int $k): int => ($i * 73856093) ^ ($j * 19349663) ^ ($k * 83492791);
        [$i, $j, $k] = array_map(fn (float $c): int => (int) floor($c / $this->apart), $at->toArray());
        for ($n = 0; $n < 27; $n++) {
            foreach ($cells[$cell($i + $n % 3 - 1, $j + intdiv($n, 3) % 3 - 1, $k + intdiv($n, 9) - 1)] ?? [] as $other) {
                if ($other->minus($at)->length() < $this->apart) {
                    return false;
                }
            }
        }
        $cells[$cell($i, $j, $k)][] = $at;

        return true;
    }

    /** A direction so far from one to another. */
    private static function between(Vec3 $one, Vec3 $other, float $share): Vec3
    {
        $mid = $one->times(1.0 - $share)->plus($other->times($share));

        return $mid->length() > 1e-6 ? $mid->unit() : $other;
    }

    /** The shortest turn from upright. */
    private static function upright(Vec3 $up): Quaternion
    {
        $axis = (new Vec3(0.0, 1.0, 0.0))->cross($up);

        return $axis->length() < 1e-9
            ? ($up->y > 0.0 ? Quaternion::identity() : Quaternion::aboutAxis(new Vec3(1.0, 0.0, 0.0), M_PI))
            : Quaternion::aboutAxis($axis->unit(), atan2($axis->length(), $up->y));
    }
}
