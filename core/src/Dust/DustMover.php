<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Dust\Chip\Chips;
use YardBreak\Core\Dust\Chip\ChipShape;
use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Geometry\Mesh;
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
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Values;

/** Dust and chips that props give off, in air that drags them. */
final class DustMover implements Mover
{
    use WithoutBodies;

    private const STATE = 'DUST';

    private const STATE_VERSION = 2;

    /** So many grains are asked for one by one what forces do; more by a grid. */
    private const ONE_BY_ONE = 6000;

    /** @var array<int, Grains> by prop that gives any off */
    private array $grains = [];

    /** @var array<int, Chips> by prop that gives any off */
    private array $chips = [];

    /** @var array<int, array<int, ChipShape>> by prop and number of its dust, of those that are chips */
    private array $shapes = [];

    /** @var array<int, list<Birthplace>> by prop and number of its dust */
    private array $born = [];

    /** @var array<int, Skin> by prop, and by whether only what was outside counts */
    private array $skins = [];

    private ?float $at = null;

    /** s a frame lasts on the clock. */
    private float $clockTime = 1.0;

    /** What is born at present: read once, for there may be half a million. */
    private ?Grain $bearing = null;

    private function __construct(private readonly Cast $cast, private readonly Surroundings $around, private readonly ?Ground $ground)
    {
        foreach ($cast->members as $prop => $member) {
            foreach (self::dustOf($member) as $number => $dust) {
                $grain = $dust->grain(0.0);
                if ($grain->isChip()) {
                    $this->chips[$prop] ??= new Chips;
                    $this->shapes[$prop][$number] = $this->shapeOf($member, $number, $grain);
                } else {
                    $this->grains[$prop] ??= new Grains;
                }
                $outer = ! $dust->from(0.0)->countsCuts();
                $this->born[$prop][] = new Birthplace(
                    $prop, $around, fn (): Skin => $this->skins[2 * $prop + ($outer ? 1 : 0)] ??= new Skin(($this->cast->shards)($prop), $outer),
                    function (int $piece, Vec3 $at, Vec3 $out, ?float $share) use ($prop, $number): void {
                        $this->add($prop, $number, $piece, $at, $out, $share);
                    },
                    fn (int $piece): Vec3 => $this->centre($prop, $piece),
                    0.0, 0.0, new SeededRandom(1), $grain->seed,
                );
            }
        }
    }

    /** @throws Problem where it is to be like a prop that is not there */
    private function shapeOf(Member $member, int $number, Grain $grain): ChipShape
    {
        if ($grain->shape !== ChipShapes::PROP) {
            return ChipShape::of(ChipShapes::mesh($grain->shape));
        }
        foreach ($this->cast->members as $other => $like) {
            if ($like->id === $grain->prop) {
                return ChipShape::of(Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, ($this->cast->shards)($other))));
            }
        }
        throw Problem::inValue(
            $member->path.'.dust['.$number.'].values.prop', 'The chips of '.$member->name.' are to be like a prop that is not there, or is hidden.', 'Choose another prop, or another shape.',
        );
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
        return [StreamKind::Grains, StreamKind::Chips];
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        $mover = new self($cast, $around, $cast->ground);
        $mover->clockTime = $start->frameTime;

        return $mover;
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
        foreach ($this->chips as $prop => $chips) {
            if ($chips->count() > 0) {
                $this->tumble($prop, $chips, $middle, $h);
                $chips->age();
            }
        }
    }

    private function tumble(int $prop, Chips $chips, float $frame, float $h): void
    {
        $kinds = array_map(static fn (Dust $d): Grain => $d->grain($frame), self::dustOf($this->around->member($prop)));
        $gravity = $this->around->gravity($frame);
        $friction = $this->around->groundFriction($frame);
        [$ux, $uy, $uz, $ax, $ay, $az, $air, $slowing] = $this->effect(
            $prop, $chips->x, $chips->y, $chips->z, static fn (int $i): float => $kinds[$chips->of[$i]]->density, $chips->sizeOf(...), $frame, $h,
        );
        $planes = $this->planes($chips, $kinds, $friction, $h);
        $chips->move(
            $h, $kinds, $this->shapes[$prop], $gravity, [$ux, $uy, $uz], $ax === null || $ay === null || $az === null ? null : [$ax, $ay, $az], $air, $slowing,
            static fn (int $i): array => $planes[$i] ?? [],
        );
    }

    /**
     * What each chip may fall on in a step, as planes.
     *
     * @param  list<Grain>  $kinds
     * @return array<int, list<array{float, float, float, float, float, float, float, float}>> as of `Chips::move`
     */
    private function planes(Chips $chips, array $kinds, float $friction, float $h): array
    {
        $out = $ids = $x = $y = $z = [];
        $reach = 0.0;
        foreach ($chips->of as $i => $of) {
            if ($kinds[$of]->meets === 'nothing') {
                continue;
            }
            if ($this->ground !== null) {
                [$sx, $sz] = $this->ground->isFlat() ? [0.0, 0.0] : $this->ground->slope($chips->x[$i], $chips->z[$i]);
                $high = $this->ground->isFlat() ? 0.0 : $this->ground->height($chips->x[$i], $chips->z[$i]);
                $l = 1.0 / sqrt(1.0 + $sx * $sx + $sz * $sz);
                $out[$i][] = [-$sx * $l, $l, -$sz * $l, $l * ($high - $sx * $chips->x[$i] - $sz * $chips->z[$i]), 0.0, 0.0, 0.0, $friction];
            }
            if ($kinds[$of]->meets === 'everything' && ! $chips->isLying($i)) {
                $ids[] = $i;
                $x[] = $chips->x[$i];
                $y[] = $chips->y[$i];
                $z[] = $chips->z[$i];
                $reach = max($reach, $chips->sizeOf($i) + $h * sqrt($chips->vx[$i] ** 2 + $chips->vy[$i] ** 2 + $chips->vz[$i] ** 2));
            }
        }
        if ($ids === []) {
            return $out;
        }
        $colliders = $this->around->colliders();
        $found = $colliders->nearest($x, $y, $z, $reach);
        [$wx, $wy, $wz] = $colliders->velocities($x, $y, $z, $found);
        foreach ($ids as $k => $i) {
            if ($found->prop[$k] >= 0 && $found->distance[$k] < $reach) {
                [$nx, $ny, $nz] = [$found->nx[$k], $found->ny[$k], $found->nz[$k]];
                $out[$i][] = [$nx, $ny, $nz, $nx * $x[$k] + $ny * $y[$k] + $nz * $z[$k] - $found->distance[$k], $wx[$k], $wy[$k], $wz[$k], $friction];
            }
        }

        return $out;
    }

    private function move(int $prop, Grains $grains, float $frame, float $h): void
    {
        $kinds = array_map(static fn (Dust $d): Grain => $d->grain($frame), self::dustOf($this->around->member($prop)));
        $density = array_map(static fn (Grain $g): float => $g->density, $kinds);
        $gravity = $this->around->gravity($frame);
        $friction = $this->around->groundFriction($frame);
        [$ux, $uy, $uz, $ax, $ay, $az, $air, $slowing] = $this->effect(
            $prop, $grains->x, $grains->y, $grains->z, fn (int $i): float => $density[$grains->of[$i]], $grains->sizeOf(...), $frame, $h,
        );
        $grains->lift($ux, $uy, $uz, $density, $air, $gravity->length(), $friction);
        $grains->move($h, $ux, $uy, $uz, $ax, $ay, $az, $gravity, $density, $air, $slowing);
        if ($this->ground !== null) {
            $grains->land($this->ground, $kinds, $friction, $gravity->length() * $h);
        }
        if (array_filter($kinds, static fn (Grain $g): bool => $g->meets === 'everything') !== []) {
            $this->collide($grains, $kinds, $friction, $gravity->length() * $h, $h);
        }
    }

    /**
     * What forces do to grains or chips of a prop.
     *
     * @param  list<float>  $gx  m, where each is
     * @param  list<float>  $gy
     * @param  list<float>  $gz
     * @param  \Closure(int): float  $density  kg/m³ of each
     * @param  \Closure(int): float  $size  m across, of each
     * @return array{list<float>, list<float>, list<float>, list<float>|null, list<float>|null, list<float>|null, float, float} the air's speed, what pulls
     *   (null for nothing), kg/m³ of the air, and the share of speed lost a second
     */
    private function effect(int $prop, array $gx, array $gy, array $gz, \Closure $density, \Closure $size, float $frame, float $h): array
    {
        $n = count($gx);
        if (! $this->around->isPushed($prop)) {
            $none = array_fill(0, $n, 0.0);

            return [$none, $none, $none, null, null, null, Effect::AIR, 0.0];
        }
        $one = $n <= self::ONE_BY_ONE;
        $grid = $one ? null : AirGrid::round($gx, $gy, $gz);
        [$x, $y, $z] = $grid === null ? [$gx, $gy, $gz] : $grid->nodes();
        $effect = $this->around->forces($prop, array_fill(0, count($x), 0), $x, $y, $z, $frame, $h);
        $read = static fn (array $a, array $b, array $c): array => $grid === null ? [$a, $b, $c] : $grid->read($a, $b, $c, $gx, $gy, $gz);
        [$ux, $uy, $uz] = $read($effect->ux, $effect->uy, $effect->uz);
        $pulls = null;
        if (max(0.0, ...array_map(abs(...), $effect->ax)) + max(0.0, ...array_map(abs(...), $effect->ay)) + max(0.0, ...array_map(abs(...), $effect->az)) > 0.0) {
            $pulls = $read($effect->ax, $effect->ay, $effect->az);
        }
        if ($effect->strikes !== []) {
            $pulls = self::struck($effect, $pulls ?? array_fill(0, 3, array_fill(0, $n, 0.0)), $read, $density, $size, $h);
        }
        $air = max($effect->density);

        return [$ux, $uy, $uz, $pulls[0] ?? null, $pulls[1] ?? null, $pulls[2] ?? null, $air > 0.0 ? $air : Effect::AIR, array_sum($effect->slowing) / count($effect->slowing)];
    }

    /**
     * A blast pushes a ball with what meets its face, i·πd²/4 over ρπd³/6: as a pull over the step.
     *
     * @param  array{list<float>, list<float>, list<float>}  $pulls
     * @param  \Closure(list<float>, list<float>, list<float>): array{list<float>, list<float>, list<float>}  $read
     * @param  \Closure(int): float  $density
     * @param  \Closure(int): float  $size
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function struck(Effect $effect, array $pulls, \Closure $read, \Closure $density, \Closure $size, float $h): array
    {
        $x = $y = $z = array_fill(0, count($effect->x), 0.0);
        foreach ($effect->strikes as $k => $by) {
            [$x[$k], $y[$k], $z[$k]] = $by->toArray();
        }
        [$x, $y, $z] = $read($x, $y, $z);
        foreach ($x as $i => $_) {
            $k = 1.5 / ($density($i) * $size($i) * $h);
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
    private function collide(Grains $grains, array $kinds, float $friction, float $fall, float $h): void
    {
        $ids = $x = $y = $z = $gx = $gy = $gz = [];
        $colliders = $this->around->colliders();
        $reach = 0.5 * $grains->largest();
        $meets = array_map(static fn (Grain $g): bool => $g->meets === 'everything', $kinds);
        foreach ($colliders->about($grains->x, $grains->y, $grains->z, $reach) as $i) {
            if ($meets[$grains->of[$i]] && ! $grains->isLying($i)) {
                $ids[] = $i;
                $x[] = $grains->x[$i];
                $y[] = $grains->y[$i];
                $z[] = $grains->z[$i];
                $gx[] = $h * $grains->vx[$i];
                $gy[] = $h * $grains->vy[$i];
                $gz[] = $h * $grains->vz[$i];
            }
        }
        if ($ids === []) {
            return;
        }
        $found = $colliders->nearest($x, $y, $z, $reach, [$gx, $gy, $gz]);
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
                $place->reach($at->frame, $seconds, $at->frameTime, $this->clockTime);
                $dust = self::dustOf($this->around->member($prop))[$number];
                $this->bearing = $dust->grain($at->frame);
                $dust->from($at->frame)->bear($place);
            }
        }
    }

    /** @param  float|null  $share  of its speed that it leaves with, straight away; null for about all of it, spread */
    private function add(int $prop, int $number, int $piece, Vec3 $at, Vec3 $out, ?float $share): void
    {
        $grain = $this->bearing;
        $born = $grain?->isChip() ?? false ? $this->chips[$prop] : $this->grains[$prop];
        if ($grain === null || $born->count() >= ($born instanceof Chips ? Chips::MOST : Birthplace::MOST)) {
            return;
        }
        $place = $this->born[$prop][$number];
        $pose = $this->around->poseOf($prop, $piece);
        $here = $pose->placement($this->centre($prop, $piece))->point($at);
        $own = $this->around->body($prop, $piece)?->velocityAt($here) ?? Vec3::zero();
        $way = $pose->turn->turn($out);
        $velocity = $own->times($grain->keeps)->plus(
            $share === null ? $this->off($way, $grain->spread, $place)->times($grain->speed * $place->between(0.5, 1.5)) : $way->times($grain->speed * $share),
        );
        $differs = $place->between(1.0 - 0.9 * $grain->varies, 1.0 + $grain->varies);
        $life = $grain->life * $place->between(1.0 - 0.9 * $grain->varies, 1.0 + $grain->varies);
        // Some time on the way to the frame.
        $ahead = $place->ahead ?? $place->between(0.0, $place->seconds);
        if ($born instanceof Chips) {
            $born->add($here, $velocity, self::anyTurn($place), $this->off(new Vec3(0.0, 1.0, 0.0), M_PI, $place)->times($grain->spin * $place->between(0.0, 1.0)), $grain->size * $differs, $life, $number, $ahead);
        } else {
            $born->add($here, $velocity, $grain->size * $differs, $life, $number, $ahead);
        }
    }

    /** @return array{float, float, float, float} any turn, all as likely (Shoemake 1992, "Uniform random rotations") */
    private static function anyTurn(Birthplace $place): array
    {
        $u = $place->between(0.0, 1.0);
        [$a, $b] = [$place->between(0.0, 2.0 * M_PI), $place->between(0.0, 2.0 * M_PI)];

        return [sqrt(1.0 - $u) * sin($a), sqrt(1.0 - $u) * cos($a), sqrt($u) * sin($b), sqrt($u) * cos($b)];
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
            $frame->put($prop, StreamKind::Grains, $grains->bytes($frame->back));
        }
        foreach ($this->chips as $prop => $chips) {
            $frame->put($prop, StreamKind::Chips, $chips->bytes($frame->back));
        }
    }

    public function figures(): Figures
    {
        return new Figures(grains: array_sum(array_map(static fn (Grains|Chips $g): int => $g->count(), [...$this->grains, ...$this->chips])));
    }

    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        $out->floats($this->at === null ? [] : [$this->at]);
        foreach ([...$this->grains, ...$this->chips] as $born) {
            $born->pack($out);
        }
        foreach (array_merge(...$this->born) as $place) {
            $out->packed($place->gone);
        }

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        $this->at = $in->floats()[0] ?? null;
        foreach ([...$this->grains, ...$this->chips] as $born) {
            $born->unpack($in);
        }
        foreach (array_merge(...$this->born) as $place) {
            $place->gone = $in->packed();
        }
        $in->end();
    }
}
