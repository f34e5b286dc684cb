<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Cloth\Stretch;
use YardBreak\Core\Cloth\Weave;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;

/** By how much baked cloth is drawn, place by place. */
final class StretchAt
{
    /**
     * @param  array<int, string>  $streams  of the prop at that frame, by kind
     * @return array{shares: list<float>, worst: float, mean: float, at: array{float, float, float}, gives: float} of what it gives before it is taut, by point of
     *   its pieces, 1 for all of it; the most and the mean of all, as shares of length; where in the scene it is drawn most; and by how much it gives
     *
     * @throws Problem where it is no cloth, or the frame does not fit it
     */
    public static function of(MapRun $maps, string $prop, int $frame, array $streams): array
    {
        $spec = $maps->prop($prop);
        $settings = $spec->motion->settings;
        $points = array_values(unpack('g*', $streams[StreamKind::Points->value] ?? '') ?: []);
        if (! $settings instanceof ClothSettings || $points === []) {
            throw Problem::inValue('prop', $spec->name.' is no cloth at that frame, so nothing of it is drawn.', 'Choose a prop that moves as cloth.');
        }
        $weave = Weave::ofPieces($maps->shards($prop));
        if (count($points) !== 3 * count($weave->pointOf)) {
            throw Problem::damaged('A baked frame is too short.');
        }
        $x = $y = $z = array_fill(0, $weave->count(), 0.0);
        foreach ($weave->pointOf as $v => $p) {
            [$x[$p], $y[$p], $z[$p]] = [$points[3 * $v], $points[3 * $v + 1], $points[3 * $v + 2]];
        }
        $grown = $settings->grown((float) $frame, $weave->count(), static fn (string $map): array => $weave->byPoint($maps->onSkin($map, $frame, false)));
        $byFace = Stretch::of($weave, $x, $y, $z, $grown);
        $face = $byFace === [] ? 0 : Stretch::most($weave, $byFace);
        $worst = $byFace[$face] ?? 0.0;
        $corners = array_slice($weave->faces, 3 * $face, 3);
        $byPoint = Stretch::atPoints($weave, $byFace);

        return [
            'shares' => array_map(static fn (int $p): float => min(1.0, $byPoint[$p] / $settings->limit), $weave->pointOf),
            'worst' => $worst,
            'mean' => array_sum(array_map(static fn (float $s, float $area): float => $s * $area, $byFace, $weave->areas)) / array_sum($weave->areas),
            'at' => array_map(static fn (array $axis): float => ($axis[$corners[0]] + $axis[$corners[1]] + $axis[$corners[2]]) / 3.0, [$x, $y, $z]),
            'gives' => $settings->limit,
        ];
    }
}
