<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** Which faces of a mesh lie beside each other. */
final class FaceNeighbours
{
    /**
     * @param  list<int>  $faces  flat triples, wound alike
     * @return list<int> one entry a corner: the face beyond the edge from this corner to the next, −1 where there is none
     */
    public static function beyond(array $faces): array
    {
        $at = [];
        for ($i = 0, $f = 0, $n = count($faces); $i < $n; $i += 3, $f++) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $at[$a << 31 | $b] = $f;
            $at[$b << 31 | $c] = $f;
            $at[$c << 31 | $a] = $f;
        }
        $out = [];
        for ($i = 0; $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $out[] = $at[$b << 31 | $a] ?? -1;
            $out[] = $at[$c << 31 | $b] ?? -1;
            $out[] = $at[$a << 31 | $c] ?? -1;
        }

        return $out;
    }

    /**
     * Points where parts of the surface meet that do not hang together round them by edges.
     *
     * @param  list<int>  $faces
     * @param  list<int>  $beyond  as `beyond` gives it
     * @return array<int, true> by point
     */
    public static function pinched(array $faces, array $beyond, int $points): array
    {
        $fan = array_fill(0, $points, 0);
        $first = array_fill(0, $points, -1);
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $p = $faces[$i];
            $fan[$p]++;
            $first[$p] = $i;
        }
        $out = [];
        for ($p = 0; $p < $points; $p++) {
            $i = $start = $first[$p];
            if ($i < 0) {
                continue;
            }
            $met = 0;
            do {
                $met++;
                $f = $beyond[$i];
                if ($f < 0) {
                    break;
                }
                $i = 3 * $f;
                if ($faces[$i] !== $p) {
                    $i++;
                    if ($faces[$i] !== $p) {
                        $i++;
                    }
                }
            } while ($i !== $start && $met < $fan[$p]);
            if ($met !== $fan[$p] || $i !== $start) {
                $out[$p] = true;
            }
        }

        return $out;
    }
}
