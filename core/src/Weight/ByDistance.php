<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** What sources share that measure a distance in the coordinates they stand in. */
trait ByDistance
{
    use ByPlace;

    abstract private function distance(float $x, float $y, float $z): float;

    public function reach(): Reach
    {
        return $this->reach;
    }

    public function at(float $x, float $y, float $z): float
    {
        return $this->reach->at($this->distance($x, $y, $z));
    }

    public function distances(Points $on, Scene $scene, Memory $memory, float $limit): array
    {
        $out = [];
        foreach ($on->x as $i => $x) {
            $out[] = $this->distance($x, $on->y[$i], $on->z[$i]);
        }

        return $out;
    }
}
