<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Break\Islands;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Progress;

/** The cells of a cut as shards: every unconnected part a piece of its own. */
final class Shards
{
    /**
     * @param  Progress  $progress  told from `$from` to 1
     * @return list<Shard>
     *
     * @throws \UnexpectedValueException where a piece is not closed
     */
    public static function of(Cut $cut, UnitFrame $frame, Progress $progress, float $from): array
    {
        $out = [];
        $cells = count($cut->faces);
        $mesher = new ShardMesher($cut, $frame);
        foreach ($cut->faces as $cell => $faces) {
            if ($cell % 64 === 0) {
                $progress->report($from + (1.0 - $from) * $cell / $cells);
            }
            if ($faces === []) {
                continue;
            }
            foreach (Islands::of($faces, $cut->px, $cut->py, $cut->pz) as $k => $part) {
                $mesh = $mesher->mesh($cell, $part);
                $mass = MassProperties::of($mesh);
                if ($mass->volume <= 0.0) {
                    throw new \UnexpectedValueException('piece without volume');
                }
                $out[] = new Shard(sprintf('shard-%04d%s', $cell + 1, $k === 0 ? '' : '-'.($k + 1)), $mesh, $mass);
            }
        }

        return Ghosts::joined($out, $frame->scale);
    }
}
