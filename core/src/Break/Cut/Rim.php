<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

/** The border of a wall, where it meets the surface. */
final class Rim
{
    /**
     * Chains directed segments into closed loops.
     *
     * @param  array<int, int>  $next  point → the point after it
     * @return list<list<int>> points in order, at least three a loop
     *
     * @throws \UnexpectedValueException where a chain is open, or has two points
     */
    public static function loops(array $next): array
    {
        $loops = [];
        while ($next !== []) {
            $first = array_key_first($next);
            $loop = [];
            $at = $first;
            do {
                if (! isset($next[$at])) {
                    throw new \UnexpectedValueException('wall does not close');
                }
                $loop[] = $at;
                $to = $next[$at];
                unset($next[$at]);
                $at = $to;
            } while ($at !== $first);
            if (count($loop) < 3) {
                throw new \UnexpectedValueException('wall of two points');
            }
            $loops[] = $loop;
        }

        return $loops;
    }
}
