<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** Which pieces of a prop stay held whatever happens: those named, those where a map says so, and those that touch what holds them. */
final class Anchors
{
    /** Nearer than this share of its own size a piece touches. */
    private const TOUCHES = 0.02;

    /**
     * @param  list<string>  $names  of its pieces
     * @param  \Closure(int): array{list<float>, list<float>, list<float>}  $corners  of a piece, in the prop's own coordinates
     * @return array<int, true> by piece
     *
     * @throws Problem where the map cannot be told before a bake
     */
    public static function of(ShotSpec $shot, PropSpec $prop, array $names, \Closure $corners, ?PropParts $parts): array
    {
        $out = [];
        $named = array_flip($prop->motion->anchors);
        foreach ($names as $piece => $name) {
            if (isset($named[$name])) {
                $out[$piece] = true;
            }
        }
        $by = $prop->motion->anchoredBy;
        if ($by->map !== '' && $parts !== null) {
            foreach ((new MapRun($shot, $parts))->weightsAt($by->map, MapRun::PIECES, $shot->first) as $piece => $weight) {
                if ($weight >= $by->level) {
                    $out[$piece] = true;
                }
            }
        }
        if ($by->touching === [] || $parts === null) {
            return $out;
        }
        $met = Standing::of($shot, $by->touching, $parts, $prop->id);
        $place = $prop->place->at($shot->first);
        foreach (array_keys($names) as $piece) {
            [$x, $y, $z] = $corners($piece);
            $px = $py = $pz = [];
            foreach ($x as $i => $v) {
                [$px[], $py[], $pz[]] = $place->point(new Vec3($v, $y[$i], $z[$i]))->toArray();
            }
            $near = self::TOUCHES * max(max($x) - min($x), max($y) - min($y), max($z) - min($z)) * $place->size;
            if ($px !== [] && min($met->nearest($px, $py, $pz, $near)->distance) < $near) {
                $out[$piece] = true;
            }
        }

        return $out;
    }
}
