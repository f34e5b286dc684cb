<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\Relief;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\FirstLook;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\SurfaceSampler;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Points;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Weight\Weight;
use YardBreak\Core\Weight\WeightKind;

/** Solid chunks: the Voronoi cells of seeds strewn inside the solid. */
final class Cells implements FirstLook, Pattern
{
    public const MOST = 10000;

    /** Pieces that take no longer than a moment, and those shown first where there are more. */
    private const BRIEF = 250;

    private const FIRST = 80;

    /** Share of the work done, about, when the seeds stand. */
    private const SEEDED = 0.25;

    /** Rounds of relaxing at full evenness, and random points a seed in each. */
    private const RELAXATIONS = 8;

    private const SAMPLES_A_SEED = 24;

    /** Random points tried for one that lies where seeds crowd. */
    private const TRIES = 400;

    /** Cells a ragged piece is put together from, at full raggedness. */
    private const GRAINS = 14;

    /**
     * @param  int  $count  seeds; a cell that the solid's shape divides gives several pieces
     * @param  float  $even  0 purely random … 1 evenly spaced
     * @param  list<Vec3>  $cluster  points seeds crowd round, in the prop's coordinates
     * @param  'points'|'line'  $crowding  whether they crowd round each point, or along the line through them
     * @param  Weight|null  $weight  where seeds crowd
     * @param  float  $crowd  0…1, share of the seeds that crowd
     * @param  float  $reach  metres, how far the crowd is spread
     * @param  float  $gather  0…1, share of the cells that join a neighbour
     * @param  float  $ragged  0 flat walls … 1 ragged ones, down to the crack line on the surface
     * @param  float  $relief  0…1, roughness of the walls that dies out at the crack line
     * @param  float  $shell  metres of crust that breaks; 0 breaks the solid through
     * @param  Vec3|null  $grain  direction cells are drawn out along; its length is how many times
     */
    public function __construct(
        private readonly int $count,
        private readonly int $seed = 1,
        private readonly float $even = 0.0,
        private readonly array $cluster = [],
        private readonly string $crowding = 'points',
        private readonly float $crowd = 0.0,
        private readonly float $reach = 0.1,
        private readonly float $gather = 0.0,
        private readonly float $ragged = 0.0,
        private readonly float $relief = 0.0,
        private readonly float $shell = 0.0,
        private readonly ?Vec3 $grain = null,
        private readonly ?Weight $weight = null,
    ) {
        if ($count < 1 || $count > self::MOST) {
            throw Problem::outOfRange('count', 'The number of cells', $count, 'between 1 and '.self::MOST);
        }
        if ($even < 0.0 || $even > 1.0) {
            throw Problem::outOfRange('even', 'Evenness', $even, 'between 0 and 1');
        }
        if ($crowd < 0.0 || $crowd > 1.0) {
            throw Problem::outOfRange('crowd', 'The crowd', $crowd, 'between 0 and 1');
        }
        if ($reach <= 0.0) {
            throw Problem::outOfRange('reach', 'The reach of the crowd', $reach, 'above 0 m');
        }
        if ($grain !== null && ($grain->length() < 0.05 || $grain->length() > 50.0)) {
            throw Problem::inValue('grain', 'The grain must be between 0.05 and 50 long: its length is how many times pieces are drawn out.');
        }
    }

    public static function label(): string
    {
        return 'Cells';
    }

    public static function meaning(): string
    {
        return 'Solid chunks, round seeds strewn through the prop';
    }

    /** @return list<Option> */
    public static function options(): array
    {
        return [
            new Option('count', 'Pieces', 'Number of seeds; each becomes a cell.', Whole::class, 60, 1, self::MOST),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', Whole::class, 1, 0, 999999),
            new Option('even', 'Even spacing', 'From random sizes (0) to even ones (1).', Number::class, 0.2, 0, 1),
            new Option('cluster', 'Crowd round', 'Points the pieces are smaller at: where it is struck.', Points::class, null, -1000, 1000, 'm'),
            new Option(
                'crowding',
                'Crowd',
                'Round each point, or along the line through them.',
                Choice::class,
                'points',
                choices: ['points', 'line'],
                with: 'cluster',
            ),
            new Option('reach', 'Reach', 'How far from there the crowd spreads.', Number::class, 0.1, 0.0001, 1000, 'm', with: 'cluster', share: 0.15),
            new Option('weight', 'Crowd by weight', 'Pieces are the smaller, the higher this weight.', WeightKind::class, null),
            new Option('crowd', 'Share that crowds', 'Share of the pieces that gather there.', Number::class, 0.5, 0, 1, with: 'cluster|weight'),
            new Option('gather', 'Varied sizes', 'Share of the pieces that join a neighbour: some large among many small.', Number::class, 0.0, 0, 0.95),
            new Option('ragged', 'Ragged', 'From straight cracks (0) to ragged ones (1).', Number::class, 0.0, 0, 1),
            new Option('relief', 'Relief', 'Roughness of the inner faces that dies out at the crack line.', Number::class, 0.0, 0, 1),
            new Option('shell', 'Crust', 'Only an outer layer this thick breaks, off a core that stays whole; 0 breaks all.', Number::class, 0.0, 0, 100, 'm'),
            new Option('grain', 'Grain', 'Direction pieces are drawn out along, as in wood; its length is how many times.', Direction::class, null, -50, 50),
        ];
    }

    public static function of(array $values): self
    {
        return new self(
            $values['count'],
            $values['seed'],
            $values['even'],
            array_map(Vec3::of(...), $values['cluster'] ?? []),
            $values['crowding'],
            $values['crowd'],
            $values['reach'],
            $values['gather'], $values['ragged'], $values['relief'], $values['shell'], Vec3::orNull($values['grain']),
            $values['weight'] === null ? null : Weight::of($values['weight']),
        );
    }

    /** As many pieces as come at once, with flat walls. */
    public static function firstLook(array $values): ?array
    {
        $count = (int) ($values['count'] ?? 0);
        if ($count <= self::BRIEF && ($values['ragged'] ?? 0) <= 0) {
            return null;
        }

        return ['count' => min($count, self::FIRST), 'ragged' => 0.0, 'relief' => 0.0] + $values;
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $random = new SeededRandom($this->seed);
        try {
            $seeds = $this->seeds($frame, $random, $progress);
        } catch (\UnexpectedValueException) {
            throw Problem::inMesh('The mesh encloses no volume, so there is nothing to break.', 'Close its holes, or give the sheet a thickness.');
        }

        $groups = $this->gather > 0.0 ? $this->clumps($seeds, $random) : null;
        if ($this->shell > 0.0) {
            [$seeds, $groups] = $this->crust($frame, $seeds, $groups ?? array_keys($seeds), $random);
        } elseif ($this->ragged > 0.0 && $this->count > 1) {
            [$seeds, $groups] = $this->grains($frame, $seeds, $groups ?? array_keys($seeds), $random);
        }
        $relief = $this->relief > 0.0
            ? Relief::of($this->relief, 1.6 * (8.0 * $frame->half->x * $frame->half->y * $frame->half->z / $this->count) ** (1 / 3), $random)
            : null;

        return Diagram::shards($frame, $seeds, $random, $progress, self::SEEDED, $groups, $this->grain, $relief);
    }

    /**
     * Pieces put together from many small cells, each with the nearest seed but for some chance, so that cracks run
     * ragged over the surface as well as within.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @param  list<int>  $groups
     * @return array{list<array{float, float, float}>, list<int>}
     */
    private function grains(UnitFrame $frame, array $seeds, array $groups, SeededRandom $random): array
    {
        $fine = min((int) round(count($seeds) * (2.0 + (self::GRAINS - 2) * $this->ragged)), max(self::MOST, count($seeds)));
        $sampler = new SolidSampler($frame->unit, $random);
        $nearest = new NearestSeed($seeds, $random);
        $step = 0.35 * (8.0 * $frame->half->x * $frame->half->y * $frame->half->z / $fine) ** (1 / 3);
        $out = $owners = [];
        foreach ($seeds as $i => $p) {
            $out[] = $p;
            $owners[] = $groups[$i];
        }
        $x = $y = $z = [];
        while (count($out) < $fine) {
            $out[] = $p = $sampler->point();
            $x[] = $p[0] + $step * $random->between(-1.0, 1.0);
            $y[] = $p[1] + $step * $random->between(-1.0, 1.0);
            $z[] = $p[2] + $step * $random->between(-1.0, 1.0);
        }
        foreach ($nearest->to($x, $y, $z) as $seed) {
            $owners[] = $groups[$seed];
        }

        return [$out, $owners];
    }

    /**
     * Seeds over the surface, each with a partner as far within that the wall between them lies at the crust's
     * thickness; the partners together are the core.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @param  list<int>  $groups
     * @return array{list<array{float, float, float}>, list<int>}
     */
    private function crust(UnitFrame $frame, array $seeds, array $groups, SeededRandom $random): array
    {
        $surface = new SurfaceSampler($frame->unit, $random);
        $depth = $this->shell / $frame->scale;
        $core = count($seeds);
        $out = $owners = [];
        foreach ($seeds as $i => $_) {
            [$p, $n] = $surface->point();
            $at = $depth * $random->between(0.5, 0.9);
            foreach ([[$at, $groups[$i]], [2.0 * $depth - $at, $core]] as [$by, $owner]) {
                $out[] = [$p[0] - $by * $n[0], $p[1] - $by * $n[1], $p[2] - $by * $n[2]];
                $owners[] = $owner;
            }
        }

        return [$out, $owners];
    }

    /**
     * Some cells join their nearest neighbour, so that a few large pieces stand among many small ones.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @return list<int> group by seed
     */
    private function clumps(array $seeds, SeededRandom $random): array
    {
        [$sx, $sy, $sz] = Diagram::jittered($seeds, $random, Diagram::JITTER);
        $groups = array_keys($seeds);
        try {
            [$start, $run] = (new Delaunay($sx, $sy, $sz))->neighbours();
        } catch (\UnexpectedValueException) {
            return $groups;
        }
        foreach ($groups as $i => $_) {
            if ($random->share() >= $this->gather) {
                continue;
            }
            $near = $i;
            $best = INF;
            for ($k = $start[$i]; $k < $start[$i + 1]; $k++) {
                $m = $run[$k];
                $d = ($sx[$m] - $sx[$i]) ** 2 + ($sy[$m] - $sy[$i]) ** 2 + ($sz[$m] - $sz[$i]) ** 2;
                if ($d < $best && $groups[$m] !== $groups[$i]) {
                    $best = $d;
                    $near = $m;
                }
            }
            [$from, $to] = [$groups[$i], $groups[$near]];
            foreach ($groups as $k => $g) {
                if ($g === $from) {
                    $groups[$k] = $to;
                }
            }
        }

        return $groups;
    }

    /** @return list<array{float, float, float}> in the unit frame */
    private function seeds(UnitFrame $frame, SeededRandom $random, Progress $progress): array
    {
        $sampler = new SolidSampler($frame->unit, $random);
        $centres = array_map($frame->inUnits(...), $this->cluster);
        $reach = $this->reach / $frame->scale;
        $this->requireWeight($frame, $sampler);
        $seeds = [];
        for ($i = 0; $i < $this->count; $i++) {
            $p = $sampler->point();
            if (($centres !== [] || $this->weight !== null) && $random->share() < $this->crowd) {
                // One of the points, or one of the stretches between them.
                $k = (int) ($random->share() * max(1, $this->crowding === 'line' ? count($centres) - 1 : count($centres)));
                for ($try = 0; $try < self::TRIES; $try++) {
                    $chance = $centres === []
                        ? 1.0
                        : exp(-0.5 * self::away($p, $centres[$k], $this->crowding === 'line' ? $centres[$k + 1] ?? null : null) / ($reach * $reach));
                    if ($random->share() < $chance * $this->weightAt($frame, $p)) {
                        break;
                    }
                    $p = $sampler->point();
                }
            }
            $seeds[] = $p;
        }
        $rounds = $this->count > 1 ? (int) round(self::RELAXATIONS * $this->even) : 0;
        for ($round = 0; $round < $rounds; $round++) {
            $progress->report(self::SEEDED * $round / $rounds);
            $seeds = $this->relaxed($seeds, $sampler, $random);
        }

        return $seeds;
    }

    /** @throws Problem where the weight reaches nothing of the solid */
    private function requireWeight(UnitFrame $frame, SolidSampler $sampler): void
    {
        for ($i = 0; $this->weight !== null && $i < self::TRIES; $i++) {
            if ($this->weightAt($frame, $sampler->point()) > 0.0) {
                return;
            }
        }
        if ($this->weight !== null) {
            throw Problem::inValue(
                'weight',
                'The weight is none all through this prop, so pieces have nowhere to crowd.',
                'Move it onto the prop, widen it, or invert it.',
            );
        }
    }

    /** @param  array{float, float, float}  $p  in the unit frame */
    private function weightAt(UnitFrame $frame, array $p): float
    {
        if ($this->weight === null) {
            return 1.0;
        }
        $at = $frame->inMetres($p);

        return $this->weight->at($at->x, $at->y, $at->z);
    }

    /**
     * Moves every seed to the middle of its own cell (Lloyd 1982, "Least squares quantization in PCM"), the
     * cell known by random points of the solid.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @return list<array{float, float, float}>
     */
    private function relaxed(array $seeds, SolidSampler $sampler, SeededRandom $random): array
    {
        try {
            $nearest = new NearestSeed($seeds, $random);
        } catch (\UnexpectedValueException) {
            return $seeds;
        }
        $n = count($seeds);
        $mx = $my = $mz = array_fill(0, $n, 0.0);
        $hits = array_fill(0, $n, 0);
        [$x, $y, $z] = $sampler->points(self::SAMPLES_A_SEED * $n);
        foreach ($nearest->to($x, $y, $z) as $i => $at) {
            $mx[$at] += $x[$i];
            $my[$at] += $y[$i];
            $mz[$at] += $z[$i];
            $hits[$at]++;
        }
        foreach ($hits as $i => $count) {
            if ($count > 0) {
                $seeds[$i] = [$mx[$i] / $count, $my[$i] / $count, $mz[$i] / $count];
            }
        }

        return $seeds;
    }

    /**
     * Squared distance to a point, or to the stretch between two.
     *
     * @param  array{float, float, float}  $p
     */
    private static function away(array $p, Vec3 $a, ?Vec3 $b): float
    {
        $d = new Vec3($p[0] - $a->x, $p[1] - $a->y, $p[2] - $a->z);
        if ($b !== null) {
            $e = $b->minus($a);
            $d = $d->minus($e->times(max(0.0, min(1.0, $d->dot($e) / max(1e-300, $e->dot($e))))));
        }

        return $d->dot($d);
    }
}
