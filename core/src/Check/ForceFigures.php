<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Force\Blast;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Quantity;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\Rigid\Sail;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What the forces of a shot do to one prop, in words and figures, before anything is baked. */
final readonly class ForceFigures
{
    /** Speeds of air of the strip, from none to as fast as carries nearly all of it. */
    private const STEPS = 40;

    /** s about a moment that take in all others. */
    private const EVER = 1e9;

    /**
     * @param  list<string>  $words  what they do to it, in sentences
     * @param  float  $wind  m/s, of the air at its pieces on average
     * @param  float  $fastest  m/s, where the strip ends
     * @param  list<float>  $strip  share of its pieces carried off by air of a speed, in even steps from 0 to the fastest
     */
    private function __construct(public array $words, public float $wind, public float $fastest, public array $strip)
    {
    }

    /**
     * @param  list<Solid>  $solids  the pieces of the prop
     * @param  float  $frame  at which
     * @param  \Closure(string): list<float>  $weights  of the pieces of a map's prop then
     */
    public static function of(ShotSpec $shot, PropSpec $prop, array $solids, float $frame, \Closure $weights): self
    {
        $idle = match (true) {
            $shot->forcesOn($prop) === [] => 'No force acts on '.$prop->name.'.',
            ! $prop->motion->letsGo() => $prop->name.' is not let go to physics, so forces do nothing to it.',
            default => null,
        };
        if ($idle !== null) {
            return new self([$idle], 0.0, 0.0, []);
        }
        $place = $prop->place->at($frame);
        $at = array_map(static fn (Solid $s): Vec3 => $place->point($s->centre), $solids);
        $effect = $shot->effect(
            $prop, array_keys($solids), array_map(static fn (Vec3 $p): float => $p->x, $at), array_map(static fn (Vec3 $p): float => $p->y, $at),
            array_map(static fn (Vec3 $p): float => $p->z, $at), $frame, 0.0, $weights,
        );
        $density = $prop->material->density;
        $drag = $prop->motion->settings instanceof RigidSettings ? $prop->motion->settings->drag : 1.0;
        $gravity = $shot->gravity->at($frame)->length();
        $weight = $gravity * (1.0 - array_sum($effect->density) / count($solids) / $density);
        $terminal = $winds = $masses = $pulls = [];
        foreach ($solids as $k => $solid) {
            $masses[] = $mass = $solid->mass->volume * $density;
            $area = $solid->hulls === [] ? 0.0 : Sail::of(array_map(static fn (Hull $h): array => [$h, Vec3::zero()], $solid->hulls))->meanArea();
            $half = 0.5 * $effect->density[$k] * $drag;
            $terminal[] = $half * $area > 0.0 ? sqrt($mass * $gravity * abs(1.0 - $effect->density[$k] / $density) / $half / $area) : INF;
            $winds[] = sqrt($effect->ux[$k] ** 2 + $effect->uy[$k] ** 2 + $effect->uz[$k] ** 2);
            $pulls[] = sqrt($effect->ax[$k] ** 2 + $effect->ay[$k] ** 2 + $effect->az[$k] ** 2);
        }

        return self::told(
            $prop, $effect, $terminal, $winds, $masses, $pulls, $weight, $prop->material->friction->at($frame), self::thrown($shot, $prop, $solids, $at, $masses, $gravity),
        );
    }

    /**
     * What blasts throw, each whenever its front passes.
     *
     * @param  list<Solid>  $solids
     * @param  list<Vec3>  $at  m, where pieces are
     * @param  list<float>  $masses  kg
     * @return list<string>
     */
    private static function thrown(ShotSpec $shot, PropSpec $prop, array $solids, array $at, array $masses, float $gravity): array
    {
        $words = [];
        foreach ($shot->forcesOn($prop) as $force) {
            if ($force->class !== Blast::class) {
                continue;
            }
            $effect = new Effect(array_column($at, 'x'), array_column($at, 'y'), array_column($at, 'z'));
            $force->on($effect, $shot->instant((float) $shot->first, self::EVER));
            $best = null;
            foreach ($effect->strikes as $k => $by) {
                $area = $solids[$k]->hulls === [] ? 0.0 : Sail::of(array_map(static fn (Hull $h): array => [$h, Vec3::zero()], $solids[$k]->hulls))->meanArea();
                $speed = $by->times($area / max(1e-12, $masses[$k]));
                if ($best === null || $by->length() > $best[0]) {
                    $best = [$by->length(), $speed];
                }
            }
            if ($best !== null) {
                $high = $gravity > 0.0 && $best[1]->y > 0.0 ? ', '.Quantity::show($best[1]->y ** 2 / 2.0 / $gravity, 'm').' high' : '';
                $words[] = $force->name.' throws '.(count($solids) === 1 ? 'it' : 'the nearest piece').' at '.Quantity::show($best[1]->length(), 'm/s').$high.'.';
            }
        }

        return $words;
    }

    /**
     * @param  list<string>  $thrown  what blasts do, in sentences
     * @param  list<float>  $terminal
     * @param  list<float>  $winds
     * @param  list<float>  $masses
     * @param  list<float>  $pulls
     */
    private static function told(PropSpec $prop, Effect $effect, array $terminal, array $winds, array $masses, array $pulls, float $weight, float $friction, array $thrown): self
    {
        $n = count($masses);
        $words = [];
        $wind = array_sum($winds) / $n;
        $density = array_sum($effect->density) / $n;
        if ($density > 0.0) {
            $carried = array_filter(array_keys($masses), static fn (int $k): bool => $winds[$k] >= $terminal[$k]);
            // ½ρC_dAu² against friction: both go by the terminal speed.
            $slid = array_filter(array_keys($masses), static fn (int $k): bool => $winds[$k] >= sqrt($friction) * $terminal[$k]);
            if ($wind > 0.0) {
                $heaviest = $carried === [] ? '' : ', up to '.Quantity::show(max(array_map(static fn (int $k): float => $masses[$k], $carried)), 'kg');
                $words[] = 'Air at '.Quantity::show($wind, 'm/s').($n === 1
                    ? ($carried === [] ? ' does not carry it off' : ' carries it off').($slid === [] ? ', nor does it push it along on the ground.' : '; on the ground it pushes it along.')
                    : ' carries off '.self::many(count($carried), $n).$heaviest.'; on the ground it pushes '.self::many(count($slid), $n).' along.');
            }
            sort($terminal);
            $middle = $terminal[intdiv($n, 2)];
            $words[] = 'Let fall, '.($n === 1 ? 'it reaches ' : 'its median piece reaches ').(is_finite($middle) ? Quantity::show($middle, 'm/s') : 'any speed').' at most'.($density > $prop->material->density ? ', upwards: it floats' : '').'.';
        }
        $pull = array_sum($pulls) / $n;
        if ($pull > 0.0) {
            $words[] = 'Pulled by '.Quantity::show($pull, 'm/s²').' on average'.($weight > 0.0 ? ', '.trim(Quantity::show($pull / $weight, '')).' times its weight' : '').'.';
        }
        $slowing = array_sum($effect->slowing) / $n;
        if ($slowing > 0.0) {
            $push = $prop->motion->settings instanceof RigidSettings ? $prop->motion->settings->push(0.0)->length() : 0.0;
            $words[] = 'Loses half of its speed in '.Quantity::show(log(2.0) / $slowing, 's').($push > 0.0 ? '; pushed as it is let go, it stops after '.Quantity::show($push / $slowing, 'm') : '').'.';
        }
        array_push($words, ...$thrown);
        $fastest = $density > 0.0 && is_finite($terminal[(int) (0.95 * ($n - 1))]) ? 1.3 * max($terminal[(int) (0.95 * ($n - 1))], $wind) : 0.0;
        $strip = [];
        for ($k = 0; $fastest > 0.0 && $k <= self::STEPS; $k++) {
            $strip[] = count(array_filter($terminal, static fn (float $t): bool => $t <= $fastest * $k / self::STEPS)) / $n;
        }

        return new self($words === [] ? ['At this frame no force does anything to '.$prop->name.'.'] : $words, $wind, $fastest, $strip);
    }

    private static function many(int $count, int $all): string
    {
        return $count === $all ? 'all '.$all.' pieces' : ($count === 0 ? 'none of its pieces' : $count.' of '.$all.' pieces');
    }
}
