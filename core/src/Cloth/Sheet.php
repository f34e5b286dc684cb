<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * Cloth that moves: places and speeds of its points.
 *
 * Each sub-step is one linearised implicit step of the second order (backward differentiation of places and speeds, as Choi & Ko 2002,
 * "Stable but responsive cloth"): from x̂ and v̂, made of now and the sub-step before, (M + α(α + β)K) Δ = α F(x̂ + α v̂) − αβ K v̂, v = v̂ + Δ,
 * x = x̂ + α v, with α the share of the sub-step that it counts for. It keeps swings and lets what vibrates fast die. What falls freely
 * falls exactly: each part begins with how it is pushed as a whole. What touches is part of the solve: its speed along the normal is set where
 * it is pressed; friction is Coulomb's, by how it was pressed in the sub-step before: what sticks
 * has all of its speed set. What is stopped at once has gone at its new speed before, too.
 */
final class Sheet
{
    /** m/s at most with which what is held again goes home. */
    public const HOME = 5.0;

    /** s in which partly held points come home. */
    private const HOLDS = 0.02;

    /** 1/s, the most of what holds partly. */
    private const STIFFEST = 400.0;

    /** Share from which a point is held outright. */
    public const HELD = 0.98;

    /** Times as long as the sub-step before it that one may be to go on from both. */
    private const LONGER = 2.0;

    /** Times a sub-step is solved at most, each with what the one before found to be pressed. */
    private const ANEW = 5;

    /** Times places are brought out that have points in common. */
    private const PASSES = 2;

    /** s of damping at least of small pieces of which any lies on something: stiff ones would rock on. */
    private const LIES = 0.03;

    /** s, damping of cloth at least that lies on cloth: points that are set apart after the solve would have it shiver. */
    private const FOLDED = 0.01;

    /** m/s by which what leaves a surface goes away from it at least. */
    private const TOUCHES = 1e-9;

    /** What of it is its state. */
    private const KEPT = ['x', 'y', 'z', 'vx', 'vy', 'vz', 'ox', 'oy', 'oz', 'px', 'py', 'pz'];

    /** @var list<float> m */
    public array $x;

    /** @var list<float> */
    public array $y;

    /** @var list<float> */
    public array $z;

    /** @var list<float> m/s */
    public array $vx;

    /** @var list<float> */
    public array $vy;

    /** @var list<float> */
    public array $vz;

    /** @var list<float> m/s with which points go through the sub-step */
    public array $gx = [];

    /** @var list<float> */
    public array $gy = [];

    /** @var list<float> */
    public array $gz = [];

    /** @var list<float> m, where points were a sub-step before */
    private array $ox;

    /** @var list<float> */
    private array $oy;

    /** @var list<float> */
    private array $oz;

    /** @var list<float> m/s then */
    private array $px;

    /** @var list<float> */
    private array $py;

    /** @var list<float> */
    private array $pz;

    /** s that sub-step lasted; 0 where there was none */
    private float $before = 0.0;

    /** @var list<float> m/s, speeds while they are solved for */
    private array $ux = [];

    /** @var list<float> */
    private array $uy = [];

    /** @var list<float> */
    private array $uz = [];

    /** @var array<int, true> points that end the sub-step exactly where they are held */
    private array $athome = [];

    private readonly Gradients $gradients;

    private readonly Matrix $matrix;

    public readonly Patches $patches;

    public readonly Stitches $stitches;

    /** @var array<int, float> N by contact that was pressed in the last sub-step */
    private array $pressed = [];

    /** @var array<int, array{float, float, float}> which way contacts are let slide along their surfaces, of those that stuck though friction could not hold them */
    private array $slid = [];

    /** Whether it was kept off cloth in the last sub-step. */
    public bool $folded = false;

    /** @var list<float>|null m³ of its parts as made */
    private ?array $made = null;

    /** @var list<float> kg */
    public readonly array $mass;

    /**
     * @param  float  $weight  kg/m²
     * @param  bool  $swings  whether it steps by the second order where it is free: what is small and cut anyhow would gain energy by it
     */
    public function __construct(public readonly Weave $weave, float $weight, private readonly bool $swings = true)
    {
        $levels = Levels::of($weave);
        $this->gradients = new Gradients($levels, $swings);
        $this->matrix = new Matrix($weave);
        $this->patches = Patches::of($weave, $levels);
        $this->stitches = new Stitches($weave);
        $this->x = $weave->x;
        $this->y = $weave->y;
        $this->z = $weave->z;
        $this->vx = $this->vy = $this->vz = $this->px = $this->py = $this->pz = $this->gx = $this->gy = $this->gz = array_fill(0, $weave->count(), 0.0);
        [$this->ox, $this->oy, $this->oz] = [$this->x, $this->y, $this->z];
        $this->mass = array_map(static fn (float $a): float => max(1e-9, $a * $weight), $weave->share);
    }

    /**
     * What speeds become over a sub-step, and how points go through it; where they are is not changed yet.
     *
     * @param  Pull  $pull  what acts on it over the sub-step
     */
    public function solve(float $h, ClothSettings $settings, Pull $pull): void
    {
        $this->athome = [];
        $held = $this->heldOutright($pull, $h);
        // Where it is pressed or folds, what was before says little of what comes: a step of the first order, which lets energy go.
        $free = $this->swings && $this->pressed === [] && ! $this->folded && array_filter($pull->touch, fn (Contact $at): bool => $at->least > $at->along($this->vx, $this->vy, $this->vz)) === [];
        $after = $free && $this->before > 0.0 && $h <= self::LONGER * $this->before ? $h / $this->before : 0.0;
        $share = $h * (1.0 + $after) / (1.0 + 2.0 * $after);
        $this->stopped($pull, $share);
        $this->hat($after);
        foreach ($held as $i => $_) {
            [$this->gx[$i], $this->gy[$i], $this->gz[$i]] = [$this->x[$i] + ($h - $share) * $this->vx[$i], $this->y[$i] + ($h - $share) * $this->vy[$i], $this->z[$i] + ($h - $share) * $this->vz[$i]];
            [$this->ux[$i], $this->uy[$i], $this->uz[$i]] = [$this->vx[$i], $this->vy[$i], $this->vz[$i]];
        }
        [$px, $py, $pz] = $this->ahead($share);
        $beta = max($pull->damping, $this->folded ? self::FOLDED : 0.0, ! $this->swings && $pull->touch !== [] ? self::LIES : 0.0);
        $this->folded = false;
        $scale = $share * ($share + $beta);
        [$fx, $fy, $fz] = Membrane::pull($this->weave, $this->matrix, $px, $py, $pz, $pull->fx, $pull->fy, $pull->fz, $scale, $settings->stretch, $settings->limit, $pull->growth);
        [$fx, $fy, $fz] = $this->stitches->pull($this->matrix, $px, $py, $pz, $fx, $fy, $fz, $scale, $settings->stretch);
        $own = $this->mass;
        foreach ($pull->slows as $i => $slow) {
            $own[$i] += $share * $slow;
        }
        [$drawn, $ax, $ay, $az] = $this->drawn($share, $pull, $px, $py, $pz);
        foreach ($drawn as $i => $kg) {
            $own[$i] += $kg;
        }
        [$fx, $fy, $fz] = Bending::pull($this->weave, $this->matrix, $px, $py, $pz, $fx, $fy, $fz, $own, $scale, $settings->bend, $settings->keeps);
        [$fx, $fy, $fz] = $pull->apart?->pull($this->matrix, $px, $py, $pz, $fx, $fy, $fz, $scale) ?? [$fx, $fy, $fz];
        if ($pull->filling !== null) {
            [$fx, $fy, $fz] = $this->filled($pull->filling, $px, $py, $pz, $fx, $fy, $fz, $scale);
        }
        foreach ($fx as $i => $f) {
            $fx[$i] = $share * $f;
            $fy[$i] *= $share;
            $fz[$i] *= $share;
        }
        foreach ($drawn as $i => $_) {
            $fx[$i] += $ax[$i];
            $fy[$i] += $ay[$i];
            $fz[$i] += $az[$i];
        }
        $this->gain($own, $fx, $fy, $fz, $h, $share, $beta, $pull, $held);
        // The way to where they end, as a speed.
        $k = 1.0 / $h;
        $gx = $gy = $gz = [];
        foreach ($this->x as $i => $x) {
            $gx[] = $k * ($this->gx[$i] + $share * $this->ux[$i] - $x);
            $gy[] = $k * ($this->gy[$i] + $share * $this->uy[$i] - $this->y[$i]);
            $gz[] = $k * ($this->gz[$i] + $share * $this->uz[$i] - $this->z[$i]);
        }
        [$this->gx, $this->gy, $this->gz] = [$gx, $gy, $gz];
        [$this->ox, $this->oy, $this->oz] = [$this->x, $this->y, $this->z];
        [$this->px, $this->py, $this->pz] = [$this->vx, $this->vy, $this->vz];
        [$this->vx, $this->vy, $this->vz] = [$this->ux, $this->uy, $this->uz];
        $this->before = $h;
        foreach ($pull->touch as $at) {
            // Pushed out it does not go on so.
            if ($at->solved && $at->out > 0.0) {
                $this->shove($at, -$at->out * $h / $share, 0.0);
            }
            $partner = $pull->partners[$at->prop][$at->piece] ?? null;
            if ($partner !== null) {
                $at->follow($partner->speedAt($this->middle($at->points, $at->weights)));
            }
        }
        $this->clear($pull->touch);
        foreach ($held as $i => $_) {
            [$this->px[$i], $this->py[$i], $this->pz[$i]] = [$this->vx[$i], $this->vy[$i], $this->vz[$i]];
        }
    }

    /**
     * A point has another speed from one moment to the next, as if it had gone so all along: what acts on it all the time is not disturbed by that.
     *
     * @param  float  $x  m/s
     * @param  float  $gx  m/s, by how much it goes otherwise through the sub-step that is under way
     */
    public function jump(int $i, float $x, float $y, float $z, float $gx, float $gy, float $gz): void
    {
        $h = $this->before;
        $this->vx[$i] += $x;
        $this->vy[$i] += $y;
        $this->vz[$i] += $z;
        $this->px[$i] += $x;
        $this->py[$i] += $y;
        $this->pz[$i] += $z;
        $this->gx[$i] += $gx;
        $this->gy[$i] += $gy;
        $this->gz[$i] += $gz;
        $this->ox[$i] += $h * ($gx - $x);
        $this->oy[$i] += $h * ($gy - $y);
        $this->oz[$i] += $h * ($gz - $z);
    }

    /**
     * The place of a contact goes faster along its normal.
     *
     * @param  float  $faster  m/s
     * @param  float  $farther  m/s, through the sub-step that is under way
     */
    private function shove(Contact $at, float $faster, float $farther): void
    {
        foreach ($at->points as $k => $i) {
            $w = $at->weights[$k] / $at->square;
            $v = $w * $faster;
            $g = $w * $farther;
            $this->jump($i, $v * $at->nx, $v * $at->ny, $v * $at->nz, $g * $at->nx, $g * $at->ny, $g * $at->nz);
        }
        if ($faster > 0.0) {
            $at->give(-$faster / $this->light($at));
        }
    }

    /**
     * What is too near is brought out, and what comes near is stopped where the solve has not done so.
     *
     * @param  array<int, Contact>  $touch
     * @param  bool  $all  those of the solve too, for something has moved it since
     */
    public function clear(array $touch, bool $all = false): void
    {
        for ($pass = 0; $pass < self::PASSES; $pass++) {
            foreach ($touch as $at) {
                if ($at->solved && ! $all || $pass > 0 && count($at->points) === 1) {
                    continue;
                }
                $faster = max(0.0, $at->least - $at->along($this->vx, $this->vy, $this->vz));
                $farther = max(0.0, $at->least + $at->out - $at->along($this->gx, $this->gy, $this->gz));
                if ($faster + $farther > 0.0) {
                    $this->shove($at, $faster, $farther);
                }
            }
        }
    }

    /** Points go as far as a sub-step takes them; what is held is exactly where it is held. */
    public function move(float $h, Pull $pull): void
    {
        for ($i = 0, $n = $this->weave->count(); $i < $n; $i++) {
            $this->x[$i] += $h * $this->gx[$i];
            $this->y[$i] += $h * $this->gy[$i];
            $this->z[$i] += $h * $this->gz[$i];
        }
        foreach ($this->athome as $i => $_) {
            [$this->x[$i], $this->y[$i], $this->z[$i]] = $pull->home[$i];
        }
    }

    /**
     * Points that are held outright have the speed that brings them home.
     *
     * @return array<int, true>
     */
    private function heldOutright(Pull $pull, float $h): array
    {
        $held = [];
        foreach ($pull->hold as $i => $hold) {
            if ($hold >= self::HELD) {
                $held[$i] = true;
                [$hx, $hy, $hz] = $pull->home[$i];
                [$gx, $gy, $gz] = $pull->go[$i];
                $dx = $hx - $this->x[$i];
                $dy = $hy - $this->y[$i];
                $dz = $hz - $this->z[$i];
                $off = ($dx - $h * $gx) ** 2 + ($dy - $h * $gy) ** 2 + ($dz - $h * $gz) ** 2;
                if ($off <= (self::HOME * $h) ** 2) {
                    $this->athome[$i] = true;
                    [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$dx / $h, $dy / $h, $dz / $h];
                } else {
                    $k = self::HOME / sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                    [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$gx + $k * $dx, $gy + $k * $dy, $gz + $k * $dz];
                }
            }
        }

        return $held;
    }

    /** What would go into what it touches is stopped there, and what friction can hold along it. */
    private function stopped(Pull $pull, float $share): void
    {
        foreach ($pull->touch as $key => $at) {
            $lacks = $at->least - $at->along($this->vx, $this->vy, $this->vz);
            if ($lacks > 0.0) {
                $this->shove($at, $lacks, 0.0);
            }
            // As it was pressed in the sub-step before.
            $at->holds = $share * $at->friction * ($this->pressed[$key] ?? 0.0);
            if ($at->holds <= 0.0) {
                continue;
            }
            [$x, $y, $z] = $this->slides($at);
            $slid = $this->slid[$key] ?? null;
            if ($slid === null ? sqrt($x * $x + $y * $y + $z * $z) > $at->holds * $this->light($at) : $x * $slid[0] + $y * $slid[1] + $z * $slid[2] >= 0.0) {
                continue;
            }
            $at->sticks = true;
            foreach ($at->points as $k => $i) {
                $w = -$at->weights[$k] / $at->square;
                $this->jump($i, $w * $x, $w * $y, $w * $z, 0.0, 0.0, 0.0);
            }
            $at->given = $at->given->plus((new Vec3($x, $y, $z))->times(1.0 / $this->light($at)));
        }
    }

    /** m/s that the place of a contact gains of a N·s, 1/kg. */
    private function light(Contact $at): float
    {
        $light = 0.0;
        foreach ($at->points as $k => $i) {
            $light += $at->weights[$k] * $at->weights[$k] / $this->mass[$i];
        }

        return $light;
    }

    /**
     * Places and speeds from which a step of the second order goes on, of those now and before.
     *
     * @param  float  $after  times as long as the sub-step before it; 0 where there was none
     */
    private function hat(float $after): void
    {
        [$this->gx, $this->gy, $this->gz, $this->ux, $this->uy, $this->uz] = [$this->x, $this->y, $this->z, $this->vx, $this->vy, $this->vz];
        if ($after === 0.0) {
            return;
        }
        $k = $after * $after / (1.0 + 2.0 * $after);
        foreach ($this->ox as $i => $x) {
            $this->gx[$i] += $k * ($this->gx[$i] - $x);
            $this->gy[$i] += $k * ($this->gy[$i] - $this->oy[$i]);
            $this->gz[$i] += $k * ($this->gz[$i] - $this->oz[$i]);
            $this->ux[$i] += $k * ($this->ux[$i] - $this->px[$i]);
            $this->uy[$i] += $k * ($this->uy[$i] - $this->py[$i]);
            $this->uz[$i] += $k * ($this->uz[$i] - $this->pz[$i]);
        }
    }

    /** @return array{list<float>, list<float>, list<float>} where points would come to from there */
    private function ahead(float $seconds): array
    {
        $px = $py = $pz = [];
        foreach ($this->gx as $i => $x) {
            $px[] = $x + $seconds * $this->ux[$i];
            $py[] = $this->gy[$i] + $seconds * $this->uy[$i];
            $pz[] = $this->gz[$i] + $seconds * $this->uz[$i];
        }

        return [$px, $py, $pz];
    }

    /**
     * What its parts are filled with presses them outwards, by how large they are.
     *
     * @param  list<float>  $px  m, where points would come to
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @param  list<float>  $fx  N so far
     * @param  list<float>  $fy
     * @param  list<float>  $fz
     * @return array{list<float>, list<float>, list<float>} N with it; the matrix is told how it resists
     */
    private function filled(Filling $filling, array $px, array $py, array $pz, array $fx, array $fy, array $fz, float $scale): array
    {
        $parts = $this->stitches->parts;
        $this->made ??= Filling::volumes($this->weave, $parts, $this->weave->x, $this->weave->y, $this->weave->z)[0];
        [$volumes, $gx, $gy, $gz] = Filling::volumes($this->weave, $parts, $px, $py, $pz);
        $pressures = $this->matrix->fills = [];
        foreach ($volumes as $part => $volume) {
            [$pressures[], $falls] = $this->stitches->keeps($part) ? $filling->at($volume, $this->made[$part]) : [0.0, 0.0];
            $this->matrix->fills[] = $scale * $falls;
        }
        [$this->matrix->grows, $this->matrix->parts] = [[$gx, $gy, $gz], $parts];
        foreach ($parts as $i => $part) {
            $fx[$i] += $pressures[$part] * $gx[$i];
            $fy[$i] += $pressures[$part] * $gy[$i];
            $fz[$i] += $pressures[$part] * $gz[$i];
        }

        return [$fx, $fy, $fz];
    }

    /**
     * Critically damped springs towards home, as far as points are held (implicit).
     *
     * @param  list<float>  $px  m, where points would come to
     * @param  list<float>  $py
     * @param  list<float>  $pz
     * @return array{array<int, float>, array<int, float>, array<int, float>, array<int, float>} by point that is held partly: kg by which that makes it heavier, and N·s
     */
    private function drawn(float $h, Pull $pull, array $px, array $py, array $pz): array
    {
        $heavier = $bx = $by = $bz = [];
        foreach ($pull->hold as $i => $hold) {
            if ($hold >= self::HELD) {
                continue;
            }
            $omega = min(self::STIFFEST, $hold / (1.0 - $hold) / self::HOLDS);
            $k = $this->mass[$i] * $omega * $omega;
            $c = 2.0 * $this->mass[$i] * $omega;
            [$hx, $hy, $hz] = $pull->home[$i];
            [$gx, $gy, $gz] = $pull->go[$i];
            $dx = $hx - $px[$i];
            $dy = $hy - $py[$i];
            $dz = $hz - $pz[$i];
            // From far off it comes no faster than it may.
            $far = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            $most = 2.0 * self::HOME / $omega;
            $share = $far > $most ? $most / $far : 1.0;
            $bx[$i] = $h * ($k * $share * $dx + $c * ($gx - $this->ux[$i]));
            $by[$i] = $h * ($k * $share * $dy + $c * ($gy - $this->uy[$i]));
            $bz[$i] = $h * ($k * $share * $dz + $c * ($gz - $this->uz[$i]));
            $heavier[$i] = $h * ($h * $k + $c);
        }

        return [$heavier, $bx, $by, $bz];
    }

    /**
     * Speeds after the sub-step; what is held or touches is set.
     *
     * @param  list<float>  $own  kg, by point
     * @param  list<float>  $bx  N·s
     * @param  list<float>  $by
     * @param  list<float>  $bz
     * @param  float  $h  s, the sub-step
     * @param  float  $share  s of it that it counts for
     * @param  float  $beta  s, damping
     * @param  array<int, true>  $held
     */
    private function gain(array $own, array $bx, array $by, array $bz, float $h, float $share, float $beta, Pull $pull, array $held): void
    {
        $vx = $this->ux;
        $vy = $this->uy;
        $vz = $this->uz;
        $touch = array_filter($pull->touch, static fn (Contact $at): bool => ! $at->shares);
        $this->rub($touch, $bx, $by, $bz);
        [$sx, $sy, $sz] = $this->asWhole($own, $bx, $by, $bz, $pull->hold);
        $dx = $dy = $dz = [];
        foreach ($this->stitches->parts as $part) {
            $dx[] = $sx[$part];
            $dy[] = $sy[$part];
            $dz[] = $sz[$part];
        }
        $partners = $touching = [];
        foreach ($touch as $at) {
            foreach ($at->points as $i) {
                $touching[$i] = true;
            }
            $partner = $pull->partners[$at->prop][$at->piece] ?? null;
            if ($partner !== null) {
                $partner->join($at, $this->middle($at->points, $at->weights));
                $partners[spl_object_id($partner)] = $partner;
            }
        }
        // Damping slows what moves against each other, not the mass of it.
        $lag = $beta / ($share + $beta);
        [$ax, $ay, $az] = $this->matrix->times(...array_map(static fn (array $all): array => array_map(static fn (float $v): float => $lag * $v, $all), [$vx, $vy, $vz]));
        foreach ($own as $i => $m) {
            $m *= $lag;
            $ax[$i] = $bx[$i] + $m * $vx[$i] - $ax[$i];
            $ay[$i] = $by[$i] + $m * $vy[$i] - $ay[$i];
            $az[$i] = $bz[$i] + $m * $vz[$i] - $az[$i];
        }
        if ($held !== []) {
            $this->matrix->without($held);
        }
        $pairs = $partners === [] ? [] : $this->matrix->pairsAmong($touching);
        $active = array_filter($touch, fn (Contact $at): bool => $this->lacksAlong($at, $h, $share, $dx, $dy, $dz) > -self::TOUCHES);
        $inverses = $this->gradients->inverses($this->matrix);
        $first = 0.0;
        $last = $touch === [];
        for ($pass = 1; ; $pass++) {
            $last = $last || $pass === self::ANEW;
            $contacts = new Contacts($active);
            $contacts->set(fn (Contact $at): array => $this->lacks($at, $h, $share, $dx, $dy, $dz), $dx, $dy, $dz);
            [$rx, $ry, $rz] = $this->matrix->times($dx, $dy, $dz);
            foreach ($ax as $i => $x) {
                $rx[$i] = $x - $rx[$i];
                $ry[$i] = $ay[$i] - $ry[$i];
                $rz[$i] = $az[$i] - $rz[$i];
            }
            foreach ($partners as $partner) {
                $partner->begin($this->matrix, $contacts, $h / $share, $pairs);
            }
            [$dx, $dy, $dz] = $this->gradients->solved($this->matrix, $inverses, $rx, $ry, $rz, $dx, $dy, $dz, $held, $contacts, array_values($partners), $first, $last);
            if ($touch === [] || $pass === self::ANEW) {
                break;
            }
            // What is drawn is let go, what would pass is kept out, and solved once more.
            foreach ($touch as $at) {
                if ($at->partner !== null) {
                    $at->follow($at->partner->speedAt($this->middle($at->points, $at->weights)));
                }
            }
            $next = array_filter($touch, fn (Contact $at, int $key): bool => isset($active[$key]) ? $at->pressed() > 0.0 : $this->lacksAlong($at, $h, $share, $dx, $dy, $dz) > self::TOUCHES, ARRAY_FILTER_USE_BOTH);
            if (array_keys($next) === array_keys($active)) {
                if ($last) {
                    break;
                }
                $last = true;
            }
            foreach ($active as $at) {
                $at->px = $at->py = $at->pz = 0.0;
            }
            $active = $next;
        }
        foreach ($active as $at) {
            $at->solved = true;
        }
        $touch = $active;
        // What rounds have left undone must not be what moves a part as a whole.
        foreach ($own as $i => $m) {
            $bx[$i] -= $m * $dx[$i];
            $by[$i] -= $m * $dy[$i];
            $bz[$i] -= $m * $dz[$i];
        }
        [$sx, $sy, $sz] = $this->asWhole($own, $bx, $by, $bz, $pull->hold + $touching);
        foreach ($this->stitches->parts as $i => $part) {
            $dx[$i] += $sx[$part];
            $dy[$i] += $sy[$part];
            $dz[$i] += $sz[$part];
        }
        $this->borne($touch, $share);
        foreach ($dx as $i => $d) {
            $vx[$i] += $d;
            $vy[$i] += $dy[$i];
            $vz[$i] += $dz[$i];
        }
        [$this->ux, $this->uy, $this->uz] = [$vx, $vy, $vz];
    }

    /**
     * The same along its normal.
     *
     * @param  array<int, float>  $dx
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     */
    private function lacksAlong(Contact $at, float $h, float $share, array $dx, array $dy, array $dz): float
    {
        [$x, $y, $z] = $this->lacks($at, $h, $share, $dx, $dy, $dz);

        return $x * $at->nx + $y * $at->ny + $z * $at->nz;
    }

    /**
     * What the place of a contact is short of, to end the sub-step where it may.
     *
     * @param  array<int, float>  $dx  m/s that points gain
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     * @return array{float, float, float} m/s
     */
    private function lacks(Contact $at, float $h, float $share, array $dx, array $dy, array $dz): array
    {
        $x = $y = $z = $u = $v = $w = 0.0;
        foreach ($at->points as $k => $i) {
            $weight = $at->weights[$k];
            $x += $weight * ($this->gx[$i] - $this->x[$i]);
            $y += $weight * ($this->gy[$i] - $this->y[$i]);
            $z += $weight * ($this->gz[$i] - $this->z[$i]);
            $u += $weight * ($this->ux[$i] + $dx[$i]);
            $v += $weight * ($this->uy[$i] + $dy[$i]);
            $w += $weight * ($this->uz[$i] + $dz[$i]);
        }
        $lacks = ($h * ($at->least + $at->out) - $x * $at->nx - $y * $at->ny - $z * $at->nz) / $share - $u * $at->nx - $v * $at->ny - $w * $at->nz;
        [$u, $v, $w] = $at->sticks
            ? self::aside($at, ($h * $at->sx - $x) / $share - $u, ($h * $at->sy - $y) / $share - $v, ($h * $at->sz - $z) / $share - $w)
            : [0.0, 0.0, 0.0];

        return [$u + $lacks * $at->nx, $v + $lacks * $at->ny, $w + $lacks * $at->nz];
    }

    /** @return array{float, float, float} what of it goes along the surface */
    private static function aside(Contact $at, float $x, float $y, float $z): array
    {
        $along = $x * $at->nx + $y * $at->ny + $z * $at->nz;

        return [$x - $along * $at->nx, $y - $along * $at->ny, $z - $along * $at->nz];
    }

    /**
     * Friction of what slides, by how it was pressed in the sub-step before; no more than stops it, for that may have been a blow.
     *
     * @param  array<int, Contact>  $touch
     * @param  array<int, float>  $bx  N·s
     * @param  array<int, float>  $by
     * @param  array<int, float>  $bz
     */
    private function rub(array $touch, array &$bx, array &$by, array &$bz): void
    {
        foreach ($touch as $at) {
            [$x, $y, $z] = $this->slides($at);
            $speed = sqrt($x * $x + $y * $y + $z * $z);
            if ($at->sticks || $at->holds <= 0.0 || $speed <= 0.0) {
                continue;
            }
            $rubs = min($at->holds, $speed / $this->light($at)) / $speed;
            foreach ($at->points as $k => $i) {
                $w = $at->weights[$k] * $rubs;
                $bx[$i] -= $w * $x;
                $by[$i] -= $w * $y;
                $bz[$i] -= $w * $z;
            }
            $at->rubbed = (new Vec3($x, $y, $z))->times($rubs);
        }
    }

    /** @return array{float, float, float} m/s by which it slid along the surface as the sub-step began */
    private function slides(Contact $at): array
    {
        $x = -$at->sx;
        $y = -$at->sy;
        $z = -$at->sz;
        foreach ($at->points as $k => $i) {
            $w = $at->weights[$k];
            $x += $w * $this->vx[$i];
            $y += $w * $this->vy[$i];
            $z += $w * $this->vz[$i];
        }

        return self::aside($at, $x, $y, $z);
    }

    /**
     * What contacts have borne in the solve: the next sub-step goes by it.
     *
     * @param  array<int, Contact>  $touch
     */
    private function borne(array $touch, float $share): void
    {
        $this->pressed = $this->slid = [];
        foreach ($touch as $key => $at) {
            $pressed = $at->pressed();
            if ($pressed > 0.0) {
                $this->pressed[$key] = $pressed / $share;
                // What is drawn along by more than friction can bear slides that way.
                [$x, $y, $z] = self::aside($at, $at->px, $at->py, $at->pz);
                $drawn = sqrt($x * $x + $y * $y + $z * $z);
                if ($at->sticks && $drawn > $at->friction * $pressed) {
                    $this->slid[$key] = [$x / $drawn, $y / $drawn, $z / $drawn];
                }
            }
        }
    }

    /**
     * What pushes each part as a whole, where nothing holds it.
     *
     * @param  list<float>  $own
     * @param  list<float>  $bx
     * @param  list<float>  $by
     * @param  list<float>  $bz
     * @param  array<int, mixed>  $hold  points that are held, or touch something
     * @return array{list<float>, list<float>, list<float>} m/s, by part
     */
    private function asWhole(array $own, array $bx, array $by, array $bz, array $hold): array
    {
        $parts = $this->stitches->parts;
        $mass = $sx = $sy = $sz = array_fill(0, $parts === [] ? 0 : max($parts) + 1, 0.0);
        foreach ($parts as $i => $part) {
            $mass[$part] += $own[$i];
            $sx[$part] += $bx[$i];
            $sy[$part] += $by[$i];
            $sz[$part] += $bz[$i];
        }
        foreach ($hold as $i => $_) {
            $mass[$parts[$i]] = INF;
        }
        foreach ($mass as $part => $m) {
            $sx[$part] /= $m;
            $sy[$part] /= $m;
            $sz[$part] /= $m;
        }

        return [$sx, $sy, $sz];
    }

    /**
     * Tears what bears more than it can.
     *
     * @param  list<float>  $bears  N, by stitch
     * @return list<array{int, int}> pieces that nothing holds together any more
     */
    public function tear(float $stretch, array $bears): array
    {
        $parts = $this->stitches->parts;
        $parted = $this->stitches->tear($this->x, $this->y, $this->z, $stretch, $bears);
        if ($this->stitches->parts !== $parts) {
            $this->made = null;
        }

        return $parted;
    }

    /** m³ that its closed parts enclose; 0 where it has none. */
    public function volume(): float
    {
        if (! $this->weave->isClosed) {
            return 0.0;
        }
        $all = Filling::volumes($this->weave, $this->stitches->parts, $this->x, $this->y, $this->z)[0];

        return array_sum(array_filter($all, $this->stitches->keeps(...), ARRAY_FILTER_USE_KEY));
    }

    /** @return array<int, float> N by contact that was pressed in the last sub-step */
    public function pressed(): array
    {
        return $this->pressed;
    }

    /**
     * No point goes faster than it may: what is faster by the solve is by its linear step alone, where something small is turned over at once.
     *
     * @param  list<float>  $most  m/s, by point
     */
    public function limit(array $most): void
    {
        foreach ($most as $i => $limit) {
            $v = sqrt($this->vx[$i] ** 2 + $this->vy[$i] ** 2 + $this->vz[$i] ** 2);
            $g = sqrt($this->gx[$i] ** 2 + $this->gy[$i] ** 2 + $this->gz[$i] ** 2);
            if ($v > $limit) {
                [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$this->vx[$i] * $limit / $v, $this->vy[$i] * $limit / $v, $this->vz[$i] * $limit / $v];
            }
            if ($g > $limit) {
                [$this->gx[$i], $this->gy[$i], $this->gz[$i]] = [$this->gx[$i] * $limit / $g, $this->gy[$i] * $limit / $g, $this->gz[$i] * $limit / $g];
            }
        }
    }

    /** A point keeps a share of its speed. */
    public function brake(int $i, float $share): void
    {
        [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$share * $this->vx[$i], $share * $this->vy[$i], $share * $this->vz[$i]];
    }

    /**
     * Points go otherwise through the sub-step that is under way.
     *
     * @param  list<int>  $points
     * @param  Vec3  $by  m/s
     */
    public function shift(array $points, Vec3 $by): void
    {
        foreach ($points as $i) {
            $this->gx[$i] += $by->x;
            $this->gy[$i] += $by->y;
            $this->gz[$i] += $by->z;
        }
    }

    /** Sets the speed of a point that something else has moved. */
    public function goes(int $i, float $vx, float $vy, float $vz): void
    {
        $this->before = 0.0;
        [$this->vx[$i], $this->vy[$i], $this->vz[$i]] = [$vx, $vy, $vz];
    }

    /** m/s, of all points on the mean (of their squares). */
    public function meanSpeed(): float
    {
        $sum = 0.0;
        foreach ($this->vx as $i => $v) {
            $sum += $v * $v + $this->vy[$i] ** 2 + $this->vz[$i] ** 2;
        }

        return sqrt($sum / max(1, count($this->vx)));
    }

    /** Brings all to a stand. */
    public function stop(): void
    {
        $this->vx = $this->vy = $this->vz = array_fill(0, $this->weave->count(), 0.0);
        $this->before = 0.0;
        $this->pressed = $this->slid = [];
    }

    /** m/s, of the fastest point. */
    public function fastest(): float
    {
        $most = 0.0;
        foreach ($this->vx as $i => $v) {
            $most = max($most, $v * $v + $this->vy[$i] ** 2 + $this->vz[$i] ** 2);
        }

        return sqrt($most);
    }

    /**
     * A place between points.
     *
     * @param  list<int>  $points
     * @param  list<float>  $weights
     */
    public function middle(array $points, array $weights): Vec3
    {
        $sum = Vec3::zero();
        foreach ($points as $k => $i) {
            $sum = $sum->plus((new Vec3($this->x[$i], $this->y[$i], $this->z[$i]))->times($weights[$k]));
        }

        return $sum;
    }

    public function pack(PackWriter $out): void
    {
        foreach (self::KEPT as $list) {
            $out->floats($this->$list);
        }
        $out->float($this->before);
        $out->small($this->folded ? [1] : []);
        $this->stitches->pack($out);
        $out->small(array_keys($this->pressed));
        $out->floats(array_values($this->pressed));
        $out->small(array_keys($this->slid));
        $out->floats(array_merge(...array_values($this->slid)));
    }

    public function unpack(PackReader $in): void
    {
        foreach (self::KEPT as $list) {
            $this->$list = $in->floats();
        }
        $this->before = $in->float();
        $this->folded = $in->small() !== [];
        $this->stitches->unpack($in);
        $this->pressed = array_combine($in->small(), $in->floats());
        $this->slid = array_combine($in->small(), array_chunk($in->floats(), 3));
    }
}
