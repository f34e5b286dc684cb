<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Geometry\LooseParts;
use YardBreak\Core\Geometry\MassProperties;

/** Tells the unconnected parts of a cell apart; a hollow belongs to the part around it. */
final class Islands
{
    /**
     * @param  list<int>  $faces  flat triples
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<list<int>> face numbers, one list a piece, largest first
     */
    public static function of(array $faces, array $x, array $y, array $z): array
    {
        $parts = LooseParts::of($faces);
        if (count($parts) === 1) {
            return $parts;
        }
        $solids = $hollows = [];
        foreach ($parts as $list) {
            $flat = [];
            foreach ($list as $f) {
                $flat[] = $faces[3 * $f];
                $flat[] = $faces[3 * $f + 1];
                $flat[] = $faces[3 * $f + 2];
            }
            $volume = MassProperties::ofFaces($x, $y, $z, $flat)->volume;
            if ($volume > 0.0) {
                $solids[] = ['faces' => $list, 'flat' => $flat, 'volume' => $volume];
            } else {
                $hollows[] = ['faces' => $list, 'at' => $flat[0]];
            }
        }
        usort($solids, static fn (array $a, array $b): int => $b['volume'] <=> $a['volume']);
        foreach ($hollows as $hollow) {
            // The smallest part that holds one of its points.
            for ($k = count($solids) - 1; $k > 0; $k--) {
                if (InsideTest::holds($solids[$k]['flat'], $x, $y, $z, $x[$hollow['at']], $y[$hollow['at']], $z[$hollow['at']])) {
                    break;
                }
            }
            if ($k < 0) {
                throw new \UnexpectedValueException('hollow without a solid');
            }
            foreach ($hollow['faces'] as $f) {
                $solids[$k]['faces'][] = $f;
            }
        }

        return array_column($solids, 'faces');
    }
}
