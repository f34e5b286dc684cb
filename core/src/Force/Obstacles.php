<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Geometry\Vec3;

/** What forces may know of the surfaces of a scene at a moment. */
interface Obstacles
{
    /**
     * The way from places to the surface of a prop, where it is nearest.
     *
     * @param  list<float>  $x  metres
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>} metres; none where there is no such prop
     */
    public function ways(string $prop, array $x, array $y, array $z): array;

    /**
     * Whether something stands between a point and places.
     *
     * @param  string  $by  id of the prop that is looked at; empty for all that stands or is keyed
     * @param  string  $but  id of a prop that hides nothing: that which is asked for
     * @param  list<float>  $x  metres
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<bool>
     */
    public function hidden(string $by, string $but, Vec3 $from, array $x, array $y, array $z): array;
}
