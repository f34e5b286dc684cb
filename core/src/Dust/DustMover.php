<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\Figures;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Member;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\PlainSettings;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\WithoutBodies;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Values;

/** Dust that props give off: grains without shape, in air that drags them. */
final class DustMover implements Mover
{
    use WithoutBodies;

    private const STATE = 'DUST';

    private const STATE_VERSION = 1;

    /** So many grains are asked for one by one what forces do; more by a grid. */
    private const ONE_BY_ONE = 6000;

    /** @var array<int, Grains> by prop that gives any off */
    private array $grains = [];

    /** @var array<int, list<Birthplace>> by prop and number of its dust */
    private array $born = [];

    /** @var array<int, Skin> by prop, and by whether only what was outside counts */
    private array $skins = [];

    private ?float $at = null;

    /** What is born at present: read once, for there may be half a million. */
    private ?Grain $bearing = null;

    private function __construct(private readonly Cast $cast, private readonly Surroundings $around, private readonly ?Ground $ground)
    {
        foreach ($cast->members as $prop => $member) {
            foreach (self::dustOf($member) as $number => $dust) {
                $this->grains[$prop] ??= new Grains;
                $outer = $dust->source !== Born\FromTrail::class;
                $this->born[$prop][] = new Birthplace(
                    $prop, $around, fn (): Skin => $this->skins[2 * $prop + ($outer ? 1 : 0)] ??= new Skin(($this->cast->shards)($prop), $outer),
                    function (int $piece, Vec3 $at, Vec3 $out) use ($prop, $number): void {
                        $this->add($prop, $number, $piece, $at, $out);
                    },
                    function (int $piece, Vec3 $at, Vec3 $out) use ($prop, $number): void {
                        $this->add($prop, $number, $piece, $this->centre($prop, $piece)->plus($at), $out);
                    },
                    0.0, 0.0, new SeededRandom(1), $dust->grain(0.0)->seed,
                );
            }
        }
    }

    /** @return list<Dust> what a prop gives off */
    private static function dustOf(Member $member): array
    {
        /** @var list<Dust> */
        return $member->beside[self::class] ?? [];
    }

    public static function label(): string
    {
        return 'Dust';
    }

    public static function meaning(): string
    {
        return 'Grains without shape, in air';
    }

    public static function options(): array
    {
        return [];
    }

    public static function settings(Values $values): PlainSettings
    {
        return new PlainSettings($values);
    }

    public static function streams(): array
    {
        return [StreamKind::Grains];
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        return new self($cast, $around, $cast->ground);
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        return false;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        $h = $from->secondsTo($to);
        $middle = 0.5 * ($from->frame + $to->frame);
        foreach ($this->grains as $prop => $grains) {
            if ($grains->count() > 0) {
                $this->move($prop, $grains, $middle, $h);
                $grains->age();
            }
        }
    }

    private function move(int $prop, Grains $grains, float $frame, float $h): void
    {
        $kinds = array_map(static fn (Dust $d): Grain => $d->grain($frame), self::dustOf($this->around->member($prop)));
        $density = array_map(static fn (Grain $g): float => $g->density, $kinds);
        $gravity = $this->around->gravity($frame);
        $friction = $this->around->groundFriction($frame);
        [$ux, $uy, $uz, $ax, $ay, $az, $air, $slowing] = $this->effect($prop, $grains, $density, $frame, $h);
        $grains->lift($ux, $uy, $uz, $density, $air, $gravity->length(), $friction);
        $grains->move($h, $ux, $uy, $uz, $ax, $ay, $az, $gravity, $density, $air, $slowing);
        if ($this->ground !== null) {
            $grains->land($this->ground, $kinds, $friction, $gravity->length() * $h);
        }
        if (array_filter($kinds, static fn (Grain $g): bool => $g->meets === 'everything') !== []) {
            $this->collide($grains, $kinds, $friction, $gravity->length() * $h);
        }
    }

    /**
     * What forces do to grains of a prop.
     *
     * @param  list<float>  $density  of grains, by number of the dust
     * @return array{list<float>, list<float>, list<float>, list<float>|null, list<float>|null, list<float>|null, float, float} the air's speed, what pulls
     *   (null for nothing), kg/m³ of the air, and the share of speed lost a second
     */
    private function effect(int $prop, Grains $grains, array $density, float $frame, float $h): array
    {
        $n = $grains->count();
        if (! $this->around->isPushed($prop)) {
            $none = array_fill(0, $n, 0.0);

            return [$none, $none, $none, null, null, null, Effect::AIR, 0.0];
        }
        $one = $n <= self::ONE_BY_ONE;
        $grid = $one ? null : AirGrid::round($grains->x, $grains->y, $grains->z);
        [$x, $y, $z] = $grid === null ? [$grains->x, $grains->y, $grains->z] : $grid->nodes();
        $effect = $this->around->forces($prop, array_fill(0, count($x), 0), $x, $y, $z, $frame, $h);
        $read = static fn (array $a, array $b, array $c): array => $grid === null ? [$a, $b, $c] : $grid->read($a, $b, $c, $grains->x, $grains->y, $grains->z);
        [$ux, $uy, $uz] = $read($effect->ux, $effect->uy, $effect->uz);
        $pulls = null;
        if (max(0.0, ...array_map(abs(...), $effect->ax)) + max(0.0, ...array_map(abs(...), $effect->ay)) + max(0.0, ...array_map(abs(...), $effect->az)) > 0.0) {
            $pulls = $read($effect->ax, $effect->ay, $effect->az);
        }
        if ($effect->strikes !== []) {
            $pulls = self::struck($effect, $pulls ?? array_fill(0, 3, array_fill(0, $n, 0.0)), $read, $grains, $density, $h);
        }
        $air = max($effect->density);

        return [$ux, $uy, $uz, $pulls[0] ?? null, $pulls[1] ?? null, $pulls[2] ?? null, $air > 0.0 ? $air : Effect::AIR, array_sum($effect->slowing) / count($effect->slowing)];
    }

    /**
     * A blast pushes a ball with what meets its face, i·πd²/4 over ρπd³/6: as a pull over the step.
     *
     * @param  array{list<float>, list<float>, list<float>}  $pulls
     * @param  \Closure(list<float>, list<float>, list<float>): array{list<float>, list<float>, list<float>}  $read
     * @param  list<float>  $density
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function struck(Effect $effect, array $pulls, \Closure $read, Grains $grains, array $density, float $h): array
    {
        $x = $y = $z = array_fill(0, count($effect->x), 0.0);
        foreach ($effect->strikes as $k => $by) {
            [$x[$k], $y[$k], $z[$k]] = $by->toArray();
        }
        [$x, $y, $z] = $read($x, $y, $z);
        foreach ($grains->of as $i => $of) {
            $k = 1.5 / ($density[$of] * $grains->sizeOf($i) * $h);
            $pulls[0][$i] += $k * $x[$i];
            $pulls[1][$i] += $k * $y[$i];
            $pulls[2][$i] += $k * $z[$i];
        }

        return $pulls;
    }

    /**
     * Grains that have come into something are put back on it.
     *
     * @param  list<Grain>  $kinds
     */
    private function collide(Grains $grains, array $kinds, float $friction, float $fall): void
    {
        $ids = $x = $y = $z = [];
        $reach = 0.0;
        foreach ($grains->of as $i => $of) {
            if ($kinds[$of]->meets === 'everything' && ! $grains->isLying($i)) {
                $ids[] = $i;
                $x[] = $grains->x[$i];
                $y[] = $grains->y[$i];
                $z[] = $grains->z[$i];
                $reach = max($reach, 0.5 * $grains->sizeOf($i));
            }
        }
        if ($ids === []) {
            return;
        }
        $colliders = $this->around->colliders();
        $found = $colliders->nearest($x, $y, $z, $reach);
        [$wx, $wy, $wz] = $colliders->velocities($x, $y, $z, $found);
        foreach ($ids as $k => $i) {
            $deep = 0.5 * $grains->sizeOf($i) - $found->distance[$k];
            if ($found->prop[$k] < 0 || $deep <= 0.0) {
                continue;
            }
            $grains->x[$i] += $deep * $found->nx[$k];
            $grains->y[$i] += $deep * $found->ny[$k];
            $grains->z[$i] += $deep * $found->nz[$k];
            $grains->meet($i, $found->nx[$k], $found->ny[$k], $found->nz[$k], $wx[$k], $wy[$k], $wz[$k], $kinds[$grains->of[$i]], $friction, $fall);
        }
    }

    /** What is born on the way to a frame is there when it is reached. */
    public function arrive(Moment $at, Surroundings $around): void
    {
        if ($this->at !== null && $at->frame <= $this->at) {
            return;
        }
        $seconds = $this->at === null ? 0.0 : ($at->frame - $this->at) * $at->frameTime;
        $this->at = $at->frame;
        foreach ($this->born as $prop => $places) {
            foreach ($places as $number => $place) {
                $place->reach($at->frame, $seconds);
                $dust = self::dustOf($this->around->member($prop))[$number];
                $this->bearing = $dust->grain($at->frame);
                $dust->from($at->frame)->bear($place);
            }
        }
    }

    private function add(int $prop, int $number, int $piece, Vec3 $at, Vec3 $out): void
    {
        $grains = $this->grains[$prop];
        $grain = $this->bearing;
        if ($grain === null || $grains->count() >= Birthplace::MOST) {
            return;
        }
        $place = $this->born[$prop][$number];
        $pose = $this->around->poseOf($prop, $piece);
        $here = $pose->placement($this->centre($prop, $piece))->point($at);
        $own = $this->around->body($prop, $piece)?->velocityAt($here) ?? Vec3::zero();
        $velocity = $own->times($grain->keeps)->plus($this->off($pose->turn->turn($out), $grain->spread, $place)->times($grain->speed * $place->between(0.5, 1.5)));
        $differs = $place->between(1.0 - 0.9 * $grain->varies, 1.0 + $grain->varies);
        $grains->add($here, $velocity, $grain->size * $differs, $grain->life * $place->between(1.0 - 0.9 * $grain->varies, 1.0 + $grain->varies), $number,
            // Some time on the way to the frame.
            $place->between(0.0, $place->seconds),
        );
    }

    private function centre(int $prop, int $piece): Vec3
    {
        return $this->cast->solids[$prop][$piece]->centre;
    }

    /** A way within a cone about another, evenly over its cap. */
    private function off(Vec3 $way, float $spread, Birthplace $place): Vec3
    {
        $cos = $place->between(cos($spread), 1.0);
        $sin = sqrt(max(0.0, 1.0 - $cos * $cos));
        $turn = $place->between(0.0, 2.0 * M_PI);
        $u = $way->across();

        return $way->times($cos)->plus($u->times($sin * cos($turn)))->plus($way->cross($u)->times($sin * sin($turn)));
    }

    public function write(FrameWriter $frame): void
    {
        foreach ($this->grains as $prop => $grains) {
            $frame->put($prop, StreamKind::Grains, $grains->bytes());
        }
    }

    public function figures(): Figures
    {
        return new Figures(grains: array_sum(array_map(static fn (Grains $g): int => $g->count(), $this->grains)));
    }

    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        $out->floats($this->at === null ? [] : [$this->at]);
        foreach ($this->grains as $prop => $grains) {
            $grains->pack($out);
            foreach ($this->born[$prop] as $place) {
                $out->packed($place->gone);
            }
        }

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        $this->at = $in->floats()[0] ?? null;
        foreach ($this->grains as $prop => $grains) {
            $grains->unpack($in);
            foreach ($this->born[$prop] as $place) {
                $place->gone = $in->packed();
            }
        }
        $in->end();
    }
}
