<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** What sources share that depend on the place alone. */
trait ByPlace
{
    use Still;

    abstract public function at(float $x, float $y, float $z): float;

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        return $this->each($on);
    }

    /** @return list<float> */
    private function each(Points $on): array
    {
        $out = [];
        foreach ($on->x as $i => $x) {
            $out[] = $this->at($x, $on->y[$i], $on->z[$i]);
        }

        return $out;
    }
}
