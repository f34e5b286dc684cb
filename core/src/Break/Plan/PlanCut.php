<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cut\Cut;
use YardBreak\Core\Break\Cut\Relief;
use YardBreak\Core\Break\Cut\RestrictedCells;
use YardBreak\Core\Break\Cut\Shards;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/** Shards by a plan pushed through the solid along an axis. */
final class PlanCut
{
    /** The plan reaches this far in each direction; a unit frame seen along any axis lies well within. */
    public const EXTENT = 2.0;

    /** How far points of a plan are shifted at random, so that none lies on an edge of the solid. */
    private const JITTER = [1e-8, 2e-8, 4e-8, 7e-8];

    /** Share of the work done, about, when all is cut and only the pieces' meshes are to be made. */
    private const CUT = 0.6;

    /**
     * @param  callable(float): Plan  $plan  draws the plan in units, with its points shifted by as much at random
     * @return list<Shard>
     *
     * @throws Problem where no cut of closed pieces was found
     */
    public static function shards(UnitFrame $frame, Basis $basis, callable $plan, Progress $progress, ?Relief $relief = null): array
    {
        $unit = $frame->unit;
        [$u, $v, $w] = $basis->turned($unit->x, $unit->y, $unit->z);
        foreach (self::JITTER as $jitter) {
            $progress->report(0.0);
            try {
                $drawn = $plan($jitter);
                $cut = (new RestrictedCells(
                    $u,
                    $v,
                    $w,
                    $unit->faces,
                    new PrismCells($drawn->map, $drawn->levels, $drawn->bend),
                    $drawn->groups(...),
                    $relief,
                ))->cut($drawn->sides);
                $progress->report(self::CUT);
                $back = $basis->inverse();
                $walls = array_map(static fn (array $n): array => array_merge(...$back->turned([$n[0]], [$n[1]], [$n[2]])), $cut->walls);

                return Shards::of(
                    new Cut(...[...$back->turned($cut->px, $cut->py, $cut->pz), $cut->faces, $cut->origins, $walls, $cut->sides]),
                    $frame,
                    $progress,
                    self::CUT,
                );
            } catch (\UnexpectedValueException) {
                continue;
            }
        }

        throw Problem::inMesh(
            'This mesh could not be cut into closed pieces: its surface crosses or overlaps itself.',
            'Rebuild it on the Props stage: that gives it a new skin that does not.',
        );
    }
}
