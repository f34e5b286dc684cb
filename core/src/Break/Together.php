<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Which pieces hang together. */
final class Together
{
    /**
     * @param  list<int>  $pieces
     * @param  \Closure(int): list<int>  $beside  those that hang on one, whether they are among the pieces or not
     * @return list<non-empty-list<int>> each in order, by their first
     */
    public static function parts(array $pieces, \Closure $beside): array
    {
        sort($pieces);
        $left = array_fill_keys($pieces, true);
        $out = [];
        foreach ($pieces as $first) {
            if (! isset($left[$first])) {
                continue;
            }
            unset($left[$first]);
            $part = [$first];
            for ($i = 0; $i < count($part); $i++) {
                foreach ($beside($part[$i]) as $next) {
                    if (isset($left[$next])) {
                        unset($left[$next]);
                        $part[] = $next;
                    }
                }
            }
            sort($part);
            $out[] = $part;
        }

        return $out;
    }
}
