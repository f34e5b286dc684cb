<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * What stands on what, from the ground up: the order in which stacks are shored (Guendelman, Bridson & Fedkiw 2003, "Nonconvex
 * rigid bodies with stacking"). One round of impulses a sub-step lets the weight of what stands on top down one body at a time;
 * until it has come to the ground, thin things of a high stack would long have sunk into each other. So each body is stopped as if
 * what it stands on stood fast, and what that bears by it, it is given a sub-step later: nothing of momentum is lost, and what
 * leans out too far topples.
 */
final class Stacks
{
    /** Bodies above each other from which a stack is one. */
    private const HIGH = 3;

    /** Cosine of the slope of a contact from which one body hangs beside the other rather than stands on it. */
    private const STEEP = 0.5;

    /**
     * @param  list<int>  $one  bodies of the manifolds, as the sub-steps number them
     * @param  list<int>  $other
     * @param  list<float>  $inverseMass  by body; none for what does not give way
     * @return list<int> twice the number of a manifold in which one body stands on another that stands lower, and one more where it is the second that stands
     *   on the first; none where nothing stands high
     */
    public static function of(World $w, ContactSet $contacts, array $one, array $other, array $inverseMass): array
    {
        $g = $w->gravity->length();
        // Chunks have sunk in by little until their weight has come down; in heaps of rods and shards it finds other ways.
        if ($g <= 0.0 || $w->pieceThickness >= Tolerances::PLATES * $w->pieceSize) {
            return [];
        }
        [$x, $y, $z] = $w->gravity->times(-1.0 / $g)->toArray();
        $near = Tolerances::SLOP * $w->pieceSize;
        $on = $height = [];
        foreach ($one as $m => $a) {
            $b = $other[$m];
            $up = $contacts->nx[$m] * $x + $contacts->ny[$m] * $y + $contacts->nz[$m] * $z;
            if (abs($up) < self::STEEP || min(array_slice($contacts->gap, $contacts->first[$m], $contacts->first[$m + 1] - $contacts->first[$m])) > $near) {
                continue;
            }
            [$lower, $upper] = $up > 0.0 ? [$a, $b] : [$b, $a];
            if ($inverseMass[$upper] > 0.0) {
                $on[$lower][] = [$upper, 2 * $m + ($up > 0.0 ? 1 : 0)];
                if ($inverseMass[$lower] === 0.0) {
                    $height[$lower] = 0;
                }
            }
        }
        $out = [];
        for ($now = array_keys($height), $h = 1; $now !== []; $now = $next, $h++) {
            $next = [];
            foreach ($now as $lower) {
                foreach ($on[$lower] ?? [] as [$upper, $manifold]) {
                    if (! isset($height[$upper])) {
                        $height[$upper] = $h;
                        $next[] = $upper;
                    }
                    if ($height[$upper] === $h) {
                        $out[] = $manifold;
                    }
                }
            }
        }

        return $h - 2 >= self::HIGH ? $out : [];
    }
}
