<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Course;
use YardBreak\Core\Kinds\Path;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\PointInTime;

/** Draws towards a point, a line or a surface, along a path or one way, or drives away, whatever the weight. */
final readonly class Pull implements Force
{
    private const POWERS = ['even' => 0, '1/r' => 1, '1/r²' => 2];

    private const OWN = 'own';

    private const PATH = 'path';

    private const SURFACE = 'surface';

    /**
     * @param  list<Vec3>  $path  m
     * @param  string  $prop  id of the prop to whose surface it draws
     * @param  int  $power  of the distance by which it is less
     * @param  list<array{float, float}>  $course  of its own, by the share of its reach; none where it goes by that power
     */
    private function __construct(
        private string $to,
        private Vec3 $at,
        private Vec3 $along,
        private array $path,
        private string $prop,
        private float $strength,
        private int $power,
        private float $core,
        private float $reach,
        private array $course,
    ) {
    }

    public static function label(): string
    {
        return 'Pull';
    }

    public static function meaning(): string
    {
        return 'Draws to a point, a line or a surface, along a path or one way, or drives away';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'To', 'A point, a line through it, one way everywhere as gravity does, along a path, or to the surface of a prop.', Choice::class, 'point', choices: ['point', 'line', 'way', 'path', 'surface']),
            new Option('at', 'At', 'The point.', PointInTime::class, [0.0, 0.5, 0.0], -100000.0, 100000.0, 'm', with: 'to=point|to=line|reach>0'),
            new Option('along', 'Along', 'Which way it pulls, or the line goes; how long this is does not matter.', PointInTime::class, [0.0, 1.0, 0.0], -1000.0, 1000.0, with: 'to=line|to=way'),
            new Option('path', 'Path', 'Points it leads along, drawn to the way as well as on.', Path::class, [[0.0, 0.5, 0.0], [1.0, 0.5, 0.0]], -100000.0, 100000.0, 'm', with: 'to=path'),
            new Option('prop', 'Prop', 'To whose surface it draws.', MeshKind::class, '', with: 'to=surface'),
            new Option('strength', 'Strength', 'At 1 m; below 0 it drives away. Gravity is 9.8.', NumberInTime::class, 20.0, -100000.0, 100000.0, 'm/s²'),
            new Option('law', 'Less with distance', 'As strong everywhere, or weaker the farther away.', Choice::class, '1/r', choices: [...array_keys(self::POWERS), self::OWN], with: 'to=point|to=line|to=path|to=surface'),
            new Option('core', 'Core', 'Nearer than this it dies away, so that nothing is flung.', NumberInTime::class, 0.1, 0.001, 10000.0, 'm', with: 'to=point|to=line|to=path|to=surface'),
            Reach::option(),
            new Option('course', 'Own curve', 'How strong from its middle to where there is none, as a share.', Course::class, [[0.0, 1.0], [1.0, 0.0]], -1.0, 1.0, with: 'law='.self::OWN),
        ];
    }

    public static function of(array $values): self
    {
        $along = Vec3::of($values['along']);

        return new self(
            $values['to'], Vec3::of($values['at']), $along->times(1.0 / max(1e-12, $along->length())),
            $values['to'] === self::PATH ? array_map(static fn (array $p): Vec3 => Vec3::of(array_map(floatval(...), $p)), $values['path']) : [], $values['prop'],
            $values['strength'], self::POWERS[$values['law']] ?? 0, $values['core'], $values['reach'], $values['law'] === self::OWN ? $values['course'] : [],
        );
    }

    public function on(Effect $effect, Instant $at, array $amounts): void
    {
        if ($this->to === self::SURFACE) {
            [$sx, $sy, $sz] = $at->obstacles?->ways($this->prop, $effect->x, $effect->y, $effect->z) ?? [[], [], []];
            foreach ($sx as $i => $x) {
                $this->draw($effect, $i, new Vec3($x, $sy[$i], $sz[$i]), $amounts[$i]);
            }

            return;
        }
        foreach ($effect->x as $i => $x) {
            $place = new Vec3($x, $effect->y[$i], $effect->z[$i]);
            $off = $this->at->minus($place);
            if ($this->to === 'line') {
                $off = $off->minus($this->along->times($off->dot($this->along)));
            }
            if ($this->to === 'way') {
                $strength = $this->strength * $this->share($off->length()) * $amounts[$i];
                $effect->ax[$i] += $strength * $this->along->x;
                $effect->ay[$i] += $strength * $this->along->y;
                $effect->az[$i] += $strength * $this->along->z;
            } elseif ($this->to === self::PATH) {
                [$off, $on] = $this->path($place);
                // The farther off, the more towards the way; on it, along it.
                $r = $off->length();
                $k = $r / ($r + $this->core);
                $strength = $this->strength * $this->share($r) * $amounts[$i] / max(1.0, $r) ** $this->power;
                $a = $off->times($k / max(1e-9, $r))->plus($on->times(1.0 - $k))->times($strength);
                $effect->ax[$i] += $a->x;
                $effect->ay[$i] += $a->y;
                $effect->az[$i] += $a->z;
            } else {
                $this->draw($effect, $i, $off, $amounts[$i]);
            }
        }
    }

    /** In full from the core on, evenly less within it. */
    private function draw(Effect $effect, int $i, Vec3 $off, float $amount): void
    {
        $r = $off->length();
        $a = $off->times($this->strength * $this->share($r) * $amount * min(1.0, $r / $this->core) / max(1e-9, $r) / max($r, $this->core) ** $this->power);
        $effect->ax[$i] += $a->x;
        $effect->ay[$i] += $a->y;
        $effect->az[$i] += $a->z;
    }

    /** How much of it there is so far from its middle, beside its law. */
    private function share(float $distance): float
    {
        if ($this->course === []) {
            return Reach::share($distance, $this->reach);
        }

        return $this->reach > 0.0 && $distance >= $this->reach ? 0.0 : Course::at($this->course, $this->reach > 0.0 ? $distance / $this->reach : 0.0);
    }

    /** @return array{Vec3, Vec3} the way to the nearest place of the path, and which way it leads on there; nothing at its end */
    private function path(Vec3 $place): array
    {
        $best = [Vec3::zero(), Vec3::zero()];
        $least = INF;
        foreach ($this->path as $k => $from) {
            $to = $this->path[$k + 1] ?? null;
            if ($to === null) {
                break;
            }
            $way = $to->minus($from);
            $square = $way->dot($way);
            $share = $square > 0.0 ? max(0.0, min(1.0, $place->minus($from)->dot($way) / $square)) : 0.0;
            $off = $from->plus($way->times($share))->minus($place);
            if ($off->length() < $least) {
                $least = $off->length();
                $best = [$off, $share >= 1.0 && ! isset($this->path[$k + 2]) || $square <= 0.0 ? Vec3::zero() : $way->unit()];
            }
        }

        return $best;
    }
}
