<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\Shards;
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

    private const JITTER = 1e-8;

    /** Share of the work done, about, when the seeds stand. */
    private const SEEDED = 0.25;

    /** Likewise when the diagram is cut and only the pieces' meshes are to be made. */
    private const CUT = 0.7;

    private const TRIES = 6;

    /** Rounds of relaxing at full evenness, and random points a seed in each. */
    private const RELAXATIONS = 8;

    private const SAMPLES_A_SEED = 24;

    /**
     * @param  int  $count  seeds; a cell that the solid's shape divides gives several pieces
     * @param  float  $even  0 purely random … 1 evenly spaced
     * @param  Vec3|null  $strike  the point seeds crowd round, in the prop's coordinates
     * @param  float  $crowd  0…1, share of the seeds that crowd round the strike
     * @param  float  $reach  metres, how far from the strike the crowd is spread
     */
    public function __construct(
        private readonly int $count,
        private readonly int $seed = 1,
        private readonly float $even = 0.0,
        private readonly ?Vec3 $strike = null,
        private readonly float $crowd = 0.0,
        private readonly float $reach = 0.1,
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
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['count'], $values['seed'], $values['even'], $values['strike'] === null ? null : Vec3::of($values['strike']), $values['crowd'], $values['reach']);
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $unit = $frame->unit;
        $random = new SeededRandom($this->seed);
        try {
            $seeds = $this->seeds($frame, $random, $progress);
        } catch (\UnexpectedValueException) {
            throw Problem::inMesh('The mesh encloses no volume, so there is nothing to break.', 'Close its holes, or give the sheet a thickness.');
        }
        for ($try = 0; $try < self::TRIES; $try++) {
            $progress->report(self::SEEDED);
            [$sx, $sy, $sz] = $this->jittered($seeds, $random, self::JITTER * 10 ** $try);
            try {
                $cut = new RestrictedVoronoi($unit->x, $unit->y, $unit->z, $unit->faces, $sx, $sy, $sz);
                $progress->report(self::CUT);

                return Shards::of($cut->cut(), $frame, $progress, self::CUT);
            } catch (\UnexpectedValueException) {
                continue;
            }
        }

        throw Problem::inMesh(
            'This mesh could not be cut into closed pieces: its surface crosses or overlaps itself.',
            'Run the repairs on the Props stage, or simplify the mesh where it folds into itself.',
        );
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
        [$sx, $sy, $sz] = $this->jittered($seeds, $random, self::JITTER);
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

    /**
     * @param  list<array{float, float, float}>  $seeds
     * @return array{list<float>, list<float>, list<float>}
     */
    private function jittered(array $seeds, SeededRandom $random, float $by): array
    {
        $sx = $sy = $sz = [];
        foreach ($seeds as [$x, $y, $z]) {
            $sx[] = $x + $by * ($random->share() - 0.5);
            $sy[] = $y + $by * ($random->share() - 0.5);
            $sz[] = $z + $by * ($random->share() - 0.5);
        }

        return [$sx, $sy, $sz];
    }
}
