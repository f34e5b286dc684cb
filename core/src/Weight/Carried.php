<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\NearestPlaces;

/** Carries a map from the points of a mesh to others, each taking what is at the nearest place of the surface. */
final class Carried
{
    /**
     * @param  list<float>  $values  one a point of the mesh the body was made of
     * @param  Points  $on  in the coordinates of that mesh
     * @return list<float>
     */
    public static function over(array $values, Points $on, Body $body): array
    {
        return self::at($values, $body->tree->nearest($on->x, $on->y, $on->z), $body);
    }

    /**
     * @param  list<float>  $values  one a point of the mesh the body was made of
     * @return list<float> what is at each of some places of it
     */
    public static function at(array $values, NearestPlaces $places, Body $body): array
    {
        $out = [];
        foreach ($places->face as $i => $face) {
            [$a, $b, $c] = $body->tree->corners($face);
            $s = $places->s[$i];
            $t = $places->t[$i];
            $out[] = max(0.0, min(1.0, (1.0 - $s - $t) * $values[$a] + $s * $values[$b] + $t * $values[$c]));
        }

        return $out;
    }
}
