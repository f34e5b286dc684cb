<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Break\Shard;
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
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\WithoutBodies;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Values;

/** Moves the surface of a prop as cloth. */
final class ClothMover implements Mover
{
    use WithoutBodies;

    private const STATE = 'CLTH';

    private const STATE_VERSION = 4;

    /** How air presses on cloth, across it and along it (common practice). */
    private const ACROSS = 1.3;

    private const ALONG = 0.05;

    /** Share of the distance it keeps off that points of cloth which may come near go against each other in a sub-step at most. */
    private const TRAVEL = 0.45;

    /** Sub-steps of a step of the shot at most. */
    public const MOST_STEPS = 80;

    /** Share of its weight by which something at rest is woken. */
    private const WAKES = 0.5;

    /** m/s at which it has run away. */
    private const RUNS_AWAY = 1e5;

    /** m/s², standard gravity. */
    private const STANDARD = 9.80665;

    /** m/s on the mean below which some of many pieces come to rest together. */
    private const RESTS = 0.03;

    /** m/s below which cloth counts as at rest. */
    private const SLOW = 0.01;

    /** s spent since that was last told. */
    private float $spent = 0.0;

    /** @var list<Swatch> */
    private array $swatches = [];

    private readonly Folds $folds;

    /** @var array<int, list<array{int, int}>> pieces that have come apart since that was last told, by prop */
    private array $parted = [];

    /** @var array<int, array<int, true>> pieces that are let go, by prop */
    private array $released = [];

    private function __construct(private readonly Surroundings $around)
    {
        $this->folds = new Folds;
    }

    public static function label(): string
    {
        return 'Cloth';
    }

    public static function meaning(): string
    {
        return 'Its surface is fabric once released';
    }

    public static function options(): array
    {
        return ClothSettings::options();
    }

    public static function settings(Values $values): ClothSettings
    {
        return ClothSettings::of($values);
    }

    public static function streams(): array
    {
        return [StreamKind::Points];
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        $mover = new self($around);
        foreach ($cast->members as $prop => $member) {
            if ($member->settings instanceof ClothSettings) {
                $mover->take($prop, $member, ($cast->shards)($prop), $start);
            }
        }

        return $mover;
    }

    /** @param  list<Shard>  $shards */
    private function take(int $prop, Member $member, array $shards, Moment $start): void
    {
        $this->released[$prop] = [];
        $settings = $member->settings;
        assert($settings instanceof ClothSettings);
        $loose = $settings->seam === null && count($shards) > Swatch::MANY;
        $from = 0;
        foreach (array_chunk($shards, $loose ? Swatch::SOME : max(1, count($shards)), true) as $some) {
            $this->weave($prop, $member, $some, $start, $from, $loose);
            $from += array_sum(array_map(static fn (Shard $s): int => count($s->mesh->x), $some));
        }
    }

    /** @param  array<int, Shard>  $shards  by number of the piece */
    private function weave(int $prop, Member $member, array $shards, Moment $start, int $from, bool $loose): void
    {
        $settings = $member->settings;
        assert($settings instanceof ClothSettings);
        $cards = $loose ? Cards::of($shards, $settings->cells) : null;
        $weave = $cards === null ? Weave::ofPieces($shards, $settings->seam !== null) : Weave::of($cards->mesh, $cards->pieceOf);
        if ($weave->areas === []) {
            throw Problem::inMesh($member->name.' has no faces, so it cannot be cloth.', 'Give it a surface, or make it fixed.');
        }
        $sheet = new Sheet($weave, $settings->weight, ! $loose);
        $this->swatches[] = new Swatch($prop, $sheet, $from, $cards, $settings->seam?->differences(count($weave->stitches)) ?? []);
        if (! $loose) {
            $this->folds->add($sheet, $settings->meetsItself, $settings->closely);
        }
        $place = $member->place->at($start->frame);
        foreach ($weave->x as $i => $x) {
            [$sheet->x[$i], $sheet->y[$i], $sheet->z[$i]] = $place->point(new Vec3($x, $weave->y[$i], $weave->z[$i]))->toArray();
        }
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        if (! isset($this->released[$prop])) {
            return false;
        }
        $these = array_fill_keys($pieces, true);
        $this->released[$prop] += $these;
        foreach ($this->swatches as $swatch) {
            foreach ($swatch->prop === $prop ? $swatch->pieceOf : [] as $i => $piece) {
                if (isset($these[$piece])) {
                    $swatch->wake();
                    if (isset($sent[$piece])) {
                        [$vx, $vy, $vz] = $sent[$piece]->velocity->toArray();
                        $swatch->sheet->jump($i, $vx, $vy, $vz, 0.0, 0.0, 0.0);
                    }
                }
            }
        }

        return true;
    }

    /** Where it pushes something free, both know of each other in every sub-step: told more rarely, they would gain energy. */
    public function exchanges(Moment $from): int
    {
        $steps = 1;
        foreach ($this->swatches as $swatch) {
            $settings = $this->settingsOf($swatch->prop);
            if ($settings->pushes && $settings->steps > $steps && ! $this->isLeft($swatch) && $this->meetsFree($swatch->sheet, $settings->thickness, $from)) {
                $steps = $settings->steps;
            }
        }

        return $steps;
    }

    private function meetsFree(Sheet $sheet, float $thickness, Moment $from): bool
    {
        $colliders = $this->around->colliders();
        $found = $colliders->nearest($sheet->x, $sheet->y, $sheet->z, Touches::reach($sheet, $colliders, $thickness, $from->frameTime, $this->around->gravity($from->frame)->length()));
        $met = [];
        foreach ($found->prop as $i => $prop) {
            if ($prop >= 0 && ! isset($met[$prop][$found->piece[$i]])) {
                $met[$prop][$found->piece[$i]] = true;
                if (is_finite($this->around->body($prop, $found->piece[$i])->mass ?? INF)) {
                    return true;
                }
            }
        }

        return false;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        if ($this->swatches === []) {
            return;
        }
        $clock = $around->clock();
        $begun = $clock === null ? 0.0 : $clock();
        $seconds = $from->secondsTo($to);
        $needed = (int) ceil($this->folds->begin($seconds) * $seconds / self::TRAVEL);
        $steps = max(1, min(self::MOST_STEPS, $needed));
        $air = $go = [];
        foreach ($this->swatches as $s => $swatch) {
            [$prop, $sheet] = [$swatch->prop, $swatch->sheet];
            if ($swatch->rests() && $this->isStirred($swatch, $from, $seconds)) {
                $swatch->wake();
            }
            if ($this->isLeft($swatch)) {
                $this->follow($swatch, $from->frame, $to->frame, $seconds);

                continue;
            }
            $settings = $this->settingsOf($prop);
            // As many as of a whole frame, however short this is.
            $steps = max(1, $steps, (int) ceil($settings->steps * $seconds / $from->frameTime - 1e-9));
            $air[$s] = $around->isPushed($prop) ? $around->forces($prop, $swatch->pieceOf, $sheet->x, $sheet->y, $sheet->z, 0.5 * ($from->frame + $to->frame), $seconds) : null;
            $swatch->touches->look($around->colliders(), $settings->thickness, $seconds, $around->gravity($from->frame)->length());
            $go[$s] = $swatch;
        }
        $h = $seconds / $steps;
        for ($k = 0; $k < $steps; $k++) {
            $this->step($go, $from->plus(($to->frame - $from->frame) * $k / $steps), ($to->frame - $from->frame) / $steps, $h, $seconds * $k / $steps, $seconds * ($steps - $k) / $steps, $air);
        }
        foreach ($go as $swatch) {
            if ($swatch->loose) {
                $swatch->passed($seconds, $this->mayRest($swatch) && $swatch->sheet->meanSpeed() < self::RESTS);
            }
        }
        $this->spent += $clock === null ? 0.0 : $clock() - $begun;
    }

    /**
     * How fast cloth comes upon cloth at most with so many sub-steps: faster, it takes more.
     *
     * @param  float  $longest  m, its longest edge
     * @param  float  $frameTime  s
     * @return float m/s
     */
    public static function fastest(int $steps, float $longest, bool $closely, float $frameTime): float
    {
        return self::TRAVEL * Folds::apart($longest, $closely) * $steps / $frameTime;
    }

    /** Whether nothing of it is worked out: some of many pieces that are all held, or lie still. */
    private function isLeft(Swatch $swatch): bool
    {
        return $swatch->loose && ($swatch->rests() || array_intersect_key($swatch->pieces, $this->released[$swatch->prop]) === []);
    }

    /** Whether it may be left where it lies: nothing holds part of it, and nothing of it changes with time. */
    private function mayRest(Swatch $swatch): bool
    {
        $settings = $this->settingsOf($swatch->prop);

        return $settings->hold === '' && $settings->growth->isConstant() && $settings->pressure->isConstant()
            && array_diff_key($swatch->pieces, $this->released[$swatch->prop]) === [];
    }

    /** Whether what rests is to be looked at again: air that could lift it, or something that moves near it. One point of each piece is asked. */
    private function isStirred(Swatch $swatch, Moment $at, float $seconds): bool
    {
        $settings = $this->settingsOf($swatch->prop);
        $sheet = $swatch->sheet;
        [$pieces, $points] = [array_keys($swatch->pieces), array_values($swatch->pieces)];
        $pick = static fn (array $axis): array => array_map(static fn (int $i): float => $axis[$i], $points);
        [$x, $y, $z] = [$pick($sheet->x), $pick($sheet->y), $pick($sheet->z)];
        if ($this->around->isPushed($swatch->prop)) {
            $air = $this->around->forces($swatch->prop, $pieces, $x, $y, $z, $at->frame, $seconds);
            foreach ($points as $k => $_) {
                $pull = ($air->ax[$k] ?? 0.0) ** 2 + ($air->ay[$k] ?? 0.0) ** 2 + ($air->az[$k] ?? 0.0) ** 2;
                $blows = 0.5 * self::ACROSS * $air->density[$k] * ($air->ux[$k] ** 2 + $air->uy[$k] ** 2 + $air->uz[$k] ** 2) / $settings->weight;
                if ($pull > (self::WAKES * self::STANDARD) ** 2 || $blows > self::WAKES * self::STANDARD) {
                    return true;
                }
            }
        }
        $colliders = $this->around->colliders();
        $found = $colliders->nearest($x, $y, $z, $settings->thickness + 2.0 * $sheet->weave->longest + $seconds * $colliders->fastest());
        [$vx, $vy, $vz] = $colliders->velocities($x, $y, $z, $found);
        foreach ($vx as $k => $v) {
            if (is_finite($found->distance[$k]) && $v ** 2 + $vy[$k] ** 2 + $vz[$k] ** 2 > self::SLOW ** 2) {
                return true;
            }
        }

        return false;
    }

    /** What is held goes where its prop does. */
    private function follow(Swatch $swatch, float $from, float $frame, float $seconds): void
    {
        if ($swatch->rests()) {
            return;
        }
        $then = $this->homes($swatch, $frame);
        $now = $this->homes($swatch, $from);
        $sheet = $swatch->sheet;
        foreach ($swatch->pieceOf as $i => $_) {
            $home = $then($i);
            $goes = $home->minus($now($i))->times(1.0 / $seconds);
            [$sheet->x[$i], $sheet->y[$i], $sheet->z[$i]] = $home->toArray();
            $sheet->goes($i, $goes->x, $goes->y, $goes->z);
        }
    }

    private function settingsOf(int $prop): ClothSettings
    {
        $settings = $this->around->member($prop)->settings;
        assert($settings instanceof ClothSettings);

        return $settings;
    }

    /**
     * All that are not left by a sub-step.
     *
     * @param  array<int, Swatch>  $go
     * @param  float  $frames  that it lasts
     * @param  float  $h  s, likewise
     * @param  float  $since  s since what they meet was looked at
     * @param  float  $left  s until it is again
     * @param  array<int, Effect|null>  $air  likewise
     */
    private function step(array $go, Moment $at, float $frames, float $h, float $since, float $left, array $air): void
    {
        $frame = $at->frame + $frames;
        $pulls = $holds = $frictions = [];
        $aparts = $this->folds->before($h, $left);
        foreach ($go as $s => $swatch) {
            $sheet = $swatch->sheet;
            $settings = $this->settingsOf($swatch->prop);
            $pulls[$s] = $pull = $this->pull($swatch, $settings, $at->frame, $frame, $h, $air[$s]);
            $friction = $this->around->member($swatch->prop)->friction->at($frame);
            $pull->touch = $swatch->touches->now($this->around->colliders(), $settings->thickness, $pull->hold, $h, $since, $friction, $this->around->gravity($frame)->length());
            if ($settings->pushes) {
                $pull->partners = $this->partners($sheet, $pull->touch, $this->around->gravity($frame)->times($h));
            }
            $pull->apart = $swatch->loose ? null : $aparts[count($holds)];
            $limits = $swatch->limits($pull, $h);
            $sheet->solve($h, $settings, $pull);
            $sheet->limit($limits);
            $swatch->even($pull, $h, $this->around->gravity($frame));
            $this->give($sheet, $pull->touch, $pull->partners);
            if (! $swatch->loose) {
                $holds[] = $pull->hold;
                $frictions[] = $friction;
            }
        }
        $this->folds->keepOff($h, $holds, $frictions, $aparts);
        foreach ($go as $s => $swatch) {
            if ($swatch->sheet->folded) {
                $swatch->sheet->clear($pulls[$s]->touch, true);
            }
            $swatch->sheet->move($h, $pulls[$s]);
            $this->tear($swatch, $frame);
        }
        $this->throwIfRunAway($frame);
    }

    private function tear(Swatch $swatch, float $frame): void
    {
        $settings = $this->settingsOf($swatch->prop);
        $seam = $settings->seam;
        if ($seam !== null && $swatch->sheet->weave->stitches !== []) {
            $bears = $seam->bears($swatch->sheet->weave, $swatch->differences, $frame, $seam->map === '' ? null : $this->weights($swatch, $seam->map, $frame));
            $this->parted[$swatch->prop] = [...$this->parted[$swatch->prop] ?? [], ...$swatch->sheet->tear($settings->stretch, $bears)];
        }
    }

    /**
     * What is free that it touches. What lies still is left alone until it is pressed by more than a share of its weight.
     *
     * @param  array<int, Contact>  $touch
     * @param  Vec3  $falls  m/s that anything gains by its weight in the sub-step
     * @return array<int, array<int, Partner>> by prop and piece
     */
    private function partners(Sheet $sheet, array $touch, Vec3 $falls): array
    {
        $out = $pressed = [];
        foreach ($touch as $key => $at) {
            if ($at->prop >= 0) {
                $pressed[$at->prop][$at->piece] = ($pressed[$at->prop][$at->piece] ?? 0.0) + ($sheet->pressed()[$key] ?? 0.0);
            }
        }
        foreach ($pressed as $prop => $pieces) {
            foreach ($pieces as $piece => $force) {
                $body = $this->around->body($prop, $piece);
                if ($body === null || is_infinite($body->mass)) {
                    continue;
                }
                $rests = $this->around->poseOf($prop, $piece)->state === Pose::RESTING;
                if (! $rests || $force > self::WAKES * $body->mass * self::STANDARD) {
                    $out[$prop][$piece] = new Partner($body, $falls);
                }
            }
        }
        foreach ($touch as $at) {
            $partner = $out[$at->prop][$at->piece] ?? null;
            if ($partner !== null) {
                $at->follow($partner->speedAt($sheet->middle($at->points, $at->weights)));
            }
        }

        return $out;
    }

    /**
     * What it touches gets what it gave.
     *
     * @param  array<int, Contact>  $touch
     * @param  array<int, array<int, Partner>>  $partners
     */
    private function give(Sheet $sheet, array $touch, array $partners): void
    {
        foreach ($touch as $at) {
            if (isset($partners[$at->prop][$at->piece]) && $at->given->length() > 0.0) {
                $this->around->push($at->prop, $at->piece, $sheet->middle($at->points, $at->weights), $at->given);
            }
        }
        foreach ($partners as $prop => $pieces) {
            foreach ($pieces as $piece => $partner) {
                [$along, $about] = $partner->got();
                $middle = $partner->middle();
                $this->around->push($prop, $piece, $middle, $along);
                // A moment is two pushes against each other.
                $across = $about->cross(abs($about->x) < abs($about->y) ? new Vec3(1.0, 0.0, 0.0) : new Vec3(0.0, 1.0, 0.0));
                if ($across->length() > 0.0) {
                    $arm = $across->unit();
                    $this->around->push($prop, $piece, $middle->plus($arm->times(0.5)), $about->cross($arm));
                    $this->around->push($prop, $piece, $middle->minus($arm->times(0.5)), $about->cross($arm)->times(-1.0));
                }
            }
        }
    }

    /** What acts on a sheet from one moment to another. */
    private function pull(Swatch $swatch, ClothSettings $settings, float $from, float $frame, float $h, ?Effect $air): Pull
    {
        $sheet = $swatch->sheet;
        $hold = $this->hold($swatch, $settings, $frame);
        $homes = $goes = [];
        if ($hold !== []) {
            $then = $this->homes($swatch, $frame);
            $now = $this->homes($swatch, $from);
            foreach ($hold as $i => $_) {
                $home = $then($i);
                $homes[$i] = $home->toArray();
                $goes[$i] = $home->minus($now($i))->times(1.0 / $h)->toArray();
            }
        }
        [$fx, $fy, $fz, $slows] = $this->pushed($swatch, $settings, $frame, $air);
        $swatch->grown = $grows = $settings->grown($frame, $sheet->weave->count(), fn (string $map): array => $this->weights($swatch, $map, $frame));

        return new Pull($fx, $fy, $fz, $slows, $hold, $homes, $goes, $grows, $settings->damping->at($frame), $settings->filling($frame));
    }

    /** @return \Closure(int): Vec3 where its prop has a point at a moment */
    private function homes(Swatch $swatch, float $frame): \Closure
    {
        $weave = $swatch->sheet->weave;
        $blended = $swatch->loose ? null : $this->around->blended($swatch->prop, $frame);
        if ($blended === null) {
            $place = $this->around->member($swatch->prop)->place->at($frame);

            return static fn (int $i): Vec3 => $place->point(new Vec3($weave->x[$i], $weave->y[$i], $weave->z[$i]));
        }
        [$x, $y, $z] = $blended;
        $vertexOf = array_flip($weave->pointOf);

        return static fn (int $i): Vec3 => new Vec3($x[$vertexOf[$i]], $y[$vertexOf[$i]], $z[$vertexOf[$i]]);
    }

    /** @return array<int, float> how much points are held that are */
    private function hold(Swatch $swatch, ClothSettings $settings, float $frame): array
    {
        $map = $settings->hold === '' ? null : $this->weights($swatch, $settings->hold, $frame);
        $released = $this->released[$swatch->prop];
        $out = [];
        foreach ($swatch->pieceOf as $i => $piece) {
            $share = isset($released[$piece]) ? ($map[$i] ?? 0.0) : 1.0;
            if ($share > 0.0) {
                $out[$i] = $share;
            }
        }

        return $out;
    }

    /** @return list<float> of a map, by point */
    private function weights(Swatch $swatch, string $map, float $frame): array
    {
        return $swatch->weights($this->around->onSurface($map, $frame));
    }

    /**
     * Weight, pulls, wind and pressure, in N on each point.
     *
     * @return array{list<float>, list<float>, list<float>, list<float>} the last N·s/m by which each is braked
     */
    private function pushed(Swatch $swatch, ClothSettings $settings, float $frame, ?Effect $air): array
    {
        $sheet = $swatch->sheet;
        $g = $this->around->gravity($frame);
        $fx = $fy = $fz = $slows = [];
        foreach ($air === null ? $sheet->mass : [] as $m) {
            $fx[] = $m * $g->x;
            $fy[] = $m * $g->y;
            $fz[] = $m * $g->z;
        }
        foreach ($air === null ? [] : $sheet->mass as $i => $m) {
            $fx[] = $m * ($g->x + ($air->ax[$i] ?? 0.0) - ($air->slowing[$i] ?? 0.0) * $sheet->vx[$i]);
            $fy[] = $m * ($g->y + ($air->ay[$i] ?? 0.0) - ($air->slowing[$i] ?? 0.0) * $sheet->vy[$i]);
            $fz[] = $m * ($g->z + ($air->az[$i] ?? 0.0) - ($air->slowing[$i] ?? 0.0) * $sheet->vz[$i]);
            $slows[] = $m * ($air->slowing[$i] ?? 0.0);
        }
        $pressure = $settings->filled === Filling::PRESSURE ? $settings->pressure->at($frame) : 0.0;
        $windy = $air !== null && max($air->density) > 0.0;
        if ($pressure === 0.0 && ! $windy) {
            return [$fx, $fy, $fz, $slows];
        }
        $where = $pressure === 0.0 || $settings->pressureMap === '' ? null : $this->weights($swatch, $settings->pressureMap, $frame);
        $faces = $sheet->weave->faces;
        for ($k = 0, $n = count($faces); $k < $n; $k += 3) {
            $a = $faces[$k];
            $b = $faces[$k + 1];
            $c = $faces[$k + 2];
            $ux = $sheet->x[$b] - $sheet->x[$a];
            $uy = $sheet->y[$b] - $sheet->y[$a];
            $uz = $sheet->z[$b] - $sheet->z[$a];
            $wx = $sheet->x[$c] - $sheet->x[$a];
            $wy = $sheet->y[$c] - $sheet->y[$a];
            $wz = $sheet->z[$c] - $sheet->z[$a];
            // Half the cross product: the area along its normal.
            $nx = 0.5 * ($uy * $wz - $uz * $wy);
            $ny = 0.5 * ($uz * $wx - $ux * $wz);
            $nz = 0.5 * ($ux * $wy - $uy * $wx);
            $third = $where === null ? $pressure / 3.0 : $pressure * ($where[$a] + $where[$b] + $where[$c]) / 9.0;
            $px = $third * $nx;
            $py = $third * $ny;
            $pz = $third * $nz;
            if ($windy) {
                $area = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $k3 = 1.0 / 3.0;
                $rx = $k3 * ($air->ux[$a] + $air->ux[$b] + $air->ux[$c] - $sheet->vx[$a] - $sheet->vx[$b] - $sheet->vx[$c]);
                $ry = $k3 * ($air->uy[$a] + $air->uy[$b] + $air->uy[$c] - $sheet->vy[$a] - $sheet->vy[$b] - $sheet->vy[$c]);
                $rz = $k3 * ($air->uz[$a] + $air->uz[$b] + $air->uz[$c] - $sheet->vz[$a] - $sheet->vz[$b] - $sheet->vz[$c]);
                $across = $area > 1e-18 ? ($rx * $nx + $ry * $ny + $rz * $nz) / $area : 0.0;
                $ax = $area > 1e-18 ? $across * $nx / $area : 0.0;
                $ay = $area > 1e-18 ? $across * $ny / $area : 0.0;
                $az = $area > 1e-18 ? $across * $nz / $area : 0.0;
                $along = sqrt(max(0.0, $rx * $rx + $ry * $ry + $rz * $rz - $across * $across));
                $half = 0.5 * ($air->density[$a] + $air->density[$b] + $air->density[$c]) * $k3 * $area * $k3;
                $cn = self::ACROSS * abs($across) * $half;
                $ct = self::ALONG * $along * $half;
                $px += $cn * $ax + $ct * ($rx - $ax);
                $py += $cn * $ay + $ct * ($ry - $ay);
                $pz += $cn * $az + $ct * ($rz - $az);
                // Its derivative: what keeps a gust from being overshot.
                $slow = 2.0 * $cn + $ct;
                $slows[$a] += $slow;
                $slows[$b] += $slow;
                $slows[$c] += $slow;
            }
            $fx[$a] += $px;
            $fy[$a] += $py;
            $fz[$a] += $pz;
            $fx[$b] += $px;
            $fy[$b] += $py;
            $fz[$b] += $pz;
            $fx[$c] += $px;
            $fy[$c] += $py;
            $fz[$c] += $pz;
        }

        return [$fx, $fy, $fz, $slows];
    }

    /** @throws Problem saying which point it is */
    private function throwIfRunAway(float $frame): void
    {
        foreach ($this->swatches as $swatch) {
            $sheet = $swatch->sheet;
            $fastest = $sheet->fastest();
            if (is_finite(array_sum($sheet->x) + array_sum($sheet->y) + array_sum($sheet->z)) && $fastest < self::RUNS_AWAY) {
                continue;
            }
            foreach ($sheet->vx as $i => $x) {
                $speed = sqrt($x * $x + $sheet->vy[$i] ** 2 + $sheet->vz[$i] ** 2);
                if (! ($speed < self::RUNS_AWAY)) {
                    $member = $this->around->member($swatch->prop);
                    throw new Problem(
                        'solver', 'The cloth ran away at frame '.(int) $frame.': point '.($i + 1).' of '.$member->name.' goes faster than anything can.', $member->path,
                        'Give it more sub-steps, a softer fabric, or less force.',
                    );
                }
            }
        }
    }

    public function write(FrameWriter $frame): void
    {
        $all = [];
        foreach ($this->swatches as $swatch) {
            $all[$swatch->prop] = ($all[$swatch->prop] ?? '').$swatch->points($frame->back);
        }
        foreach ($all as $prop => $out) {
            $frame->put($prop, StreamKind::Points, $out);
        }
    }

    public function figures(): Figures
    {
        $moving = $resting = 0;
        $energy = 0.0;
        foreach ($this->swatches as $swatch) {
            $sheet = $swatch->sheet;
            $fastest = array_fill_keys(array_keys(array_intersect_key($this->released[$swatch->prop], $swatch->pieces)), 0.0);
            foreach ($swatch->pieceOf as $i => $piece) {
                if (isset($fastest[$piece])) {
                    $squared = $sheet->vx[$i] ** 2 + $sheet->vy[$i] ** 2 + $sheet->vz[$i] ** 2;
                    $energy += 0.5 * $sheet->mass[$i] * $squared;
                    $fastest[$piece] = max($fastest[$piece], $squared);
                }
            }
            $slow = array_filter($fastest, static fn (float $squared): bool => $squared < self::SLOW ** 2);
            $resting += count($slow);
            $moving += count($fastest) - count($slow);
        }

        $stretch = $volume = 0.0;
        $deepest = 0.0;
        foreach ($this->swatches as $swatch) {
            $sheet = $swatch->sheet;
            $drawn = Stretch::of($sheet->weave, $sheet->x, $sheet->y, $sheet->z, $swatch->grown);
            $stretch = max($stretch, $drawn === [] ? 0.0 : $drawn[Stretch::most($sheet->weave, $drawn)]);
            $volume += $sheet->volume();
            $deepest = max($deepest, $swatch->touches->deepest);
            $swatch->touches->deepest = 0.0;
        }
        $told = new Figures($moving, $resting, $energy, $deepest, $this->spent > 0.0 ? ['cloth' => $this->spent] : [], array_filter($this->parted), stretch: max(0.0, $stretch), volume: $volume);
        $this->spent = 0.0;
        $this->parted = [];

        return $told;
    }

    public function pack(): string
    {
        $out = new PackWriter(self::STATE, self::STATE_VERSION);
        foreach ($this->released as $pieces) {
            $out->small(array_keys($pieces));
        }
        foreach ($this->swatches as $swatch) {
            $swatch->pack($out);
        }

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, self::STATE, self::STATE_VERSION);
        foreach ($this->released as $prop => $_) {
            $this->released[$prop] = array_fill_keys($in->small(), true);
        }
        foreach ($this->swatches as $swatch) {
            $swatch->unpack($in);
        }
        $in->end();
    }
}
