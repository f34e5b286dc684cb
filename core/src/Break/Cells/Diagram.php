<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cells;

use YardBreak\Core\Break\Cut\Cut;
use YardBreak\Core\Break\Cut\Relief;
use YardBreak\Core\Break\Cut\RestrictedCells;
use YardBreak\Core\Break\Cut\Shards;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Shards by the Voronoi cells of given seeds. */
final class Diagram
{
    public const JITTER = 1e-8;

    private const TRIES = 7;

    /** Share of the remaining work done, about, when the diagram is cut and only the pieces' meshes are to be made. */
    private const CUT = 0.6;

    /**
     * @param  list<array{float, float, float}>  $seeds  in the unit frame
     * @param  list<int>|null  $groups  by seed; cells of one group stay together
     * @param  Vec3|null  $grain  cells are drawn out along it, as many times as it is long
     * @param  Relief|null  $relief  roughness of the walls
     * @param  float  $from  share of the work done before
     * @return list<Shard>
     *
     * @throws Problem where no cut of closed pieces was found
     */
    public static function shards(
        UnitFrame $frame,
        array $seeds,
        SeededRandom $random,
        Progress $progress,
        float $from = 0.0,
        ?array $groups = null,
        ?Vec3 $grain = null,
        ?Relief $relief = null,
    ): array {
        $along = $grain?->unit();
        $times = $grain === null ? 1.0 : max(1e-3, $grain->length());
        $unit = $frame->unit;
        [$x, $y, $z] = self::drawn($unit->x, $unit->y, $unit->z, $along, 1.0 / $times);
        for ($try = 0; $try < self::TRIES; $try++) {
            $progress->report($from);
            [$sx, $sy, $sz] = self::drawn(...self::jittered($seeds, $random, self::JITTER * 10 ** $try), along: $along, times: 1.0 / $times);
            try {
                $cut = (new RestrictedCells($x, $y, $z, $unit->faces, new VoronoiCells($sx, $sy, $sz), $groups, $relief))->cut();
                if ($along !== null) {
                    $cut = self::restored($cut, $along, $times);
                }
                $progress->report($from + (1.0 - $from) * self::CUT);

                return Shards::of($cut, $frame, $progress, $from + (1.0 - $from) * self::CUT);
            } catch (\UnexpectedValueException) {
                continue;
            }
        }

        throw Problem::inMesh(
            'This mesh could not be cut into closed pieces: its surface crosses or overlaps itself.',
            'Rebuild it on the Props stage: that gives it a new skin that does not.',
        );
    }

    /**
     * @param  list<array{float, float, float}>  $seeds
     * @return array{list<float>, list<float>, list<float>}
     */
    public static function jittered(array $seeds, SeededRandom $random, float $by): array
    {
        $sx = $sy = $sz = [];
        foreach ($seeds as [$x, $y, $z]) {
            $sx[] = $x + $by * ($random->share() - 0.5);
            $sy[] = $y + $by * ($random->share() - 0.5);
            $sz[] = $z + $by * ($random->share() - 0.5);
        }

        return [$sx, $sy, $sz];
    }

    /**
     * Points stretched along a direction.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function drawn(array $x, array $y, array $z, ?Vec3 $along, float $times): array
    {
        if ($along === null) {
            return [$x, $y, $z];
        }
        foreach ($x as $i => $v) {
            $k = ($times - 1.0) * ($along->x * $v + $along->y * $y[$i] + $along->z * $z[$i]);
            $x[$i] += $k * $along->x;
            $y[$i] += $k * $along->y;
            $z[$i] += $k * $along->z;
        }

        return [$x, $y, $z];
    }

    /** The cut of a solid that was drawn together, drawn out again; normals go the other way (inverse transpose). */
    private static function restored(Cut $cut, Vec3 $along, float $times): Cut
    {
        [$x, $y, $z] = self::drawn($cut->px, $cut->py, $cut->pz, $along, $times);
        $walls = [];
        foreach ($cut->walls as [$nx, $ny, $nz]) {
            $n = new Vec3($nx, $ny, $nz);
            $walls[] = $n->plus($along->times((1.0 / $times - 1.0) * $n->dot($along)))->unit()->toArray();
        }

        return new Cut($x, $y, $z, $cut->faces, $cut->origins, $walls);
    }
}
