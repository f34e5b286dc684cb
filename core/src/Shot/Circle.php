<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Ways along what refers to what. */
final class Circle
{
    /**
     * The way that leads from one back to itself.
     *
     * @param  callable(string): list<string>  $next  what one refers to
     * @return non-empty-list<string>|null the one, and those on the way; null where there is none
     */
    public static function through(string $start, callable $next): ?array
    {
        $trail = [[$start]];
        $seen = [];
        while ($trail !== []) {
            $way = array_pop($trail);
            foreach ($next($way[count($way) - 1]) as $one) {
                if ($one === $start) {
                    return $way;
                }
                if (! isset($seen[$one])) {
                    $seen[$one] = true;
                    $trail[] = [...$way, $one];
                }
            }
        }

        return null;
    }

    /**
     * All that one leads to, itself first.
     *
     * @param  callable(string): list<string>  $next
     * @return list<string>
     */
    public static function from(string $start, callable $next): array
    {
        $out = [$start => true];
        $ask = [$start];
        while (($one = array_shift($ask)) !== null) {
            foreach ($next($one) as $other) {
                if (! isset($out[$other])) {
                    $out[$other] = true;
                    $ask[] = $other;
                }
            }
        }

        return array_map(strval(...), array_keys($out));
    }
}
