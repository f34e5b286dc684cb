<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
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
        $met = self::met($shot, $prop, $parts);
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

    /** What holds those that touch it, as it stands at the first frame. */
    private static function met(ShotSpec $shot, PropSpec $prop, PropParts $parts): Colliders
    {
        $touching = $prop->motion->anchoredBy->touching;
        $out = new Colliders(in_array(AnchoredBy::GROUND, $touching, true) ? $shot->ground : null);
        $poses = [];
        foreach ($shot->props as $number => $other) {
            if ($other->id === $prop->id || ! in_array($other->id, $touching, true) && ! ($other->id === $shot->groundProp && in_array(AnchoredBy::GROUND, $touching, true))) {
                continue;
            }
            foreach ($parts->pieces($other) as $piece => $shard) {
                $out->add($number, $piece, $shard->mesh->movedBy($shard->centre()->times(-1.0)));
                $pose = Pose::standing($other->place->at($shot->first), $shard->centre());
                $poses[] = [$pose->at, $pose->turn, $pose->size];
            }
        }
        $out->moveTo($poses, array_fill(0, count($poses), [Vec3::zero(), Vec3::zero(), 0.0]), []);

        return $out;
    }
}
