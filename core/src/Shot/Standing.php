<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Collide\Colliders;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;

/** Surfaces as they stand at the first frame, to be asked what lies on them. */
final class Standing
{
    /** What stands for the ground, whatever it is made of. */
    public const GROUND = 'ground';

    /**
     * @param  list<string>  $of  ids of props, or the ground
     * @param  PropParts|null  $parts  where their pieces come from; without them only a ground that is no prop stands
     * @param  string  $but  the id of a prop that is left out
     */
    public static function of(ShotSpec $shot, array $of, ?PropParts $parts, string $but = ''): Colliders
    {
        $ground = in_array(self::GROUND, $of, true);
        $out = new Colliders($ground ? $shot->ground : null);
        $poses = [];
        foreach ($parts === null ? [] : $shot->props as $number => $prop) {
            if ($prop->id === $but || ! in_array($prop->id, $of, true) && ! ($ground && $prop->id === $shot->groundProp)) {
                continue;
            }
            foreach ($parts->pieces($prop) as $piece => $shard) {
                $out->add($number, $piece, $shard->mesh->movedBy($shard->centre()->times(-1.0)));
                $pose = Pose::standing($prop->place->at($shot->first), $shard->centre());
                $poses[] = [$pose->at, $pose->turn, $pose->size];
            }
        }
        $out->moveTo($poses, array_fill(0, count($poses), [Vec3::zero(), Vec3::zero(), 0.0]), []);

        return $out;
    }
}
