<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Tells apart what has no point in common. */
final class LooseParts
{
    /**
     * @param  list<int>  $faces  flat triples
     * @return list<list<int>> face numbers, rising, one list a part
     */
    public static function of(array $faces): array
    {
        $parent = [];
        $n = count($faces);
        for ($i = 0; $i < $n; $i += 3) {
            $root = -1;
            for ($k = 0; $k < 3; $k++) {
                $v = $faces[$i + $k];
                if (! isset($parent[$v])) {
                    $parent[$v] = $v;
                } else {
                    while ($parent[$v] !== $v) {
                        $parent[$v] = $parent[$parent[$v]];
                        $v = $parent[$v];
                    }
                }
                if ($root === -1) {
                    $root = $v;
                } elseif ($v !== $root) {
                    $parent[$v] = $root;
                }
            }
        }
        $parts = [];
        for ($i = 0; $i < $n; $i += 3) {
            $v = $faces[$i];
            while ($parent[$v] !== $v) {
                $v = $parent[$v];
            }
            $parts[$v][] = intdiv($i, 3);
        }

        return array_values($parts);
    }
}
