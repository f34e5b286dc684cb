<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\Delaunay;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Solid chunks: the Voronoi cells of seeds strewn inside the solid. */
final class Cells implements Pattern
{
    public const MOST = 10000;

    /** Share of the work done, about, when the seeds stand. */
    private const SEEDED = 0.25;

    /** Rounds of relaxing at full evenness, and random points a seed in each. */
    private const RELAXATIONS = 8;

    private const SAMPLES_A_SEED = 24;

    /**
     * @param  int  $count  seeds; a cell that the solid's shape divides gives several pieces
     * @param  float  $even  0 purely random … 1 evenly spaced
     * @param  Vec3|null  $strike  the point seeds crowd round, in the prop's coordinates
     * @param  float  $crowd  0…1, share of the seeds that crowd round the strike
     * @param  float  $reach  metres, how far from the strike the crowd is spread
     * @param  float  $gather  0…1, share of the cells that join a neighbour
     * @param  Vec3|null  $grain  direction cells are drawn out along; its length is how many times
     */
    public function __construct(
        private readonly int $count,
        private readonly int $seed = 1,
        private readonly float $even = 0.0,
        private readonly ?Vec3 $strike = null,
        private readonly float $crowd = 0.0,
        private readonly float $reach = 0.1,
        private readonly float $gather = 0.0,
        private readonly ?Vec3 $grain = null,
    ) {
        if ($count < 1 || $count > self::MOST) {
            throw Problem::outOfRange('count', 'The number of cells', $count, 'between 1 and '.self::MOST);
        }
        if ($even < 0.0 || $even > 1.0) {
            throw Problem::outOfRange('even', 'Evenness', $even, 'between 0 and 1');
        }
        if ($crowd < 0.0 || $crowd > 1.0) {
            throw Problem::outOfRange('crowd', 'Crowd at strike', $crowd, 'between 0 and 1');
        }
        if ($reach <= 0.0) {
            throw Problem::outOfRange('reach', 'The reach of the strike', $reach, 'above 0 m');
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
            new Option('count', 'Pieces', 'Number of seeds; each becomes a cell.', 'whole', 60, 1, self::MOST),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', 'whole', 1, 0, 999999),
            new Option('even', 'Even spacing', 'From random sizes (0) to even ones (1).', 'number', 0.2, 0, 1),
            new Option('strike', 'Strike point', 'Where seeds crowd together.', 'point', null, -1000, 1000, 'm'),
            new Option('crowd', 'Crowd at strike', 'Share of the seeds that gather round the strike point.', 'number', 0.0, 0, 1),
            new Option('reach', 'Reach of strike', 'How far from the strike point the crowd spreads.', 'number', 0.1, 0.001, 100, 'm'),
            new Option('gather', 'Varied sizes', 'Share of the pieces that join a neighbour: some large among many small.', 'number', 0.0, 0, 0.95),
            new Option('grain', 'Grain', 'Direction pieces are drawn out along, as in wood; its length is how many times.', 'point', null, -50, 50),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['count'], $values['seed'], $values['even'], $values['strike'] === null ? null : Vec3::of($values['strike']), $values['crowd'], $values['reach'], $values['gather'], $values['grain'] === null ? null : Vec3::of($values['grain']));
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

        return Diagram::shards($frame, $seeds, $random, $progress, self::SEEDED, $this->gather > 0.0 ? $this->clumps($seeds, $random) : null, $this->grain);
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
        $strike = $this->strike === null ? null : $frame->inUnits($this->strike);
        $reach = $this->reach / $frame->scale;
        $seeds = [];
        for ($i = 0; $i < $this->count; $i++) {
            $p = $sampler->point();
            if ($strike !== null && $random->share() < $this->crowd) {
                for ($try = 0; $try < 400; $try++) {
                    $d2 = ($p[0] - $strike->x) ** 2 + ($p[1] - $strike->y) ** 2 + ($p[2] - $strike->z) ** 2;
                    if ($random->share() < exp(-0.5 * $d2 / ($reach * $reach))) {
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

    /**
     * Moves every seed to the middle of its own cell (Lloyd 1982, "Least squares quantization in PCM"), the
     * cell known by random points of the solid.
     *
     * @param  list<array{float, float, float}>  $seeds
     * @return list<array{float, float, float}>
     */
    private function relaxed(array $seeds, SolidSampler $sampler, SeededRandom $random): array
    {
        [$sx, $sy, $sz] = Diagram::jittered($seeds, $random, Diagram::JITTER);
        try {
            [$start, $run] = (new Delaunay($sx, $sy, $sz))->neighbours();
        } catch (\UnexpectedValueException) {
            return $seeds;
        }
        $n = count($seeds);
        $mx = $my = $mz = array_fill(0, $n, 0.0);
        $hits = array_fill(0, $n, 0);
        $at = 0;
        for ($i = self::SAMPLES_A_SEED * $n; $i > 0; $i--) {
            [$x, $y, $z] = $sampler->point();
            do {
                $best = ($sx[$at] - $x) ** 2 + ($sy[$at] - $y) ** 2 + ($sz[$at] - $z) ** 2;
                $to = -1;
                for ($k = $start[$at], $end = $start[$at + 1]; $k < $end; $k++) {
                    $m = $run[$k];
                    $d = ($sx[$m] - $x) ** 2 + ($sy[$m] - $y) ** 2 + ($sz[$m] - $z) ** 2;
                    if ($d < $best) {
                        $best = $d;
                        $to = $m;
                    }
                }
                $at = $to < 0 ? $at : $to;
            } while ($to >= 0);
            $mx[$at] += $x;
            $my[$at] += $y;
            $mz[$at] += $z;
            $hits[$at]++;
        }
        foreach ($hits as $i => $count) {
            if ($count > 0) {
                $seeds[$i] = [$mx[$i] / $count, $my[$i] / $count, $mz[$i] / $count];
            }
        }

        return $seeds;
    }
}
