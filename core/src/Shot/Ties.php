<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Numbers of a shot that are the same as each other: where one is changed, so are those tied to it. */
final class Ties
{
    /**
     * What has to follow a change of the document. Of numbers that were changed differently at once the first of them leads, as it does where a tie is new.
     * One that is of no use as the shot is now stays tied, for when it is again; what is not there any more does not.
     *
     * @param  array<string, mixed>  $before  a valid document
     * @param  array<string, mixed>  $after  the same after the change, valid too
     * @return list<array{op: string, path: string, value?: mixed}> a JSON Patch of the latter
     */
    public static function steps(array $before, array $after): array
    {
        $ties = $after['ties'] ?? [];
        if ($ties === []) {
            return [];
        }
        $was = self::byPlace($before);
        $is = self::byPlace($after);
        $steps = $kept = $taken = [];
        foreach ($ties as $tied) {
            $there = array_values(array_filter(array_unique($tied), static fn (string $place): bool => ! isset($taken[$place]) && self::hasOwner($place, $after)));
            if (count($there) < 2) {
                continue;
            }
            $kept[] = $there;
            $taken += array_flip($there);
            $values = array_values(array_filter(array_map(static fn (string $place): ?ShotValue => $is[$place] ?? null, $there)));
            $changed = array_values(array_filter($values, static fn (ShotValue $v): bool => isset($was[$v->place]) && ! self::same($was[$v->place]->now, $v->now)));
            $lead = $changed[0] ?? $values[0] ?? null;
            foreach ($values as $value) {
                if ($value->isLike($lead) && ! self::same($value->now, $lead->now)) {
                    $steps = [...$steps, ...$value->set($lead->now, $after)];
                }
            }
        }
        if ($kept !== $ties) {
            $steps[] = $kept === [] ? ['op' => 'remove', 'path' => '/ties'] : ['op' => 'replace', 'path' => '/ties', 'value' => $kept];
        }

        return $steps;
    }

    /** @param  array<string, mixed>  $document */
    private static function hasOwner(string $place, array $document): bool
    {
        [$list, $id] = [...explode('/', $place), ''];

        return ! in_array($list, ['props', 'forces'], true) || in_array($id, array_column($document[$list] ?? [], 'id'), true);
    }

    private static function same(mixed $one, mixed $other): bool
    {
        // 1 and 1.0 are one number.
        return $one == $other;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return array<string, ShotValue>
     */
    private static function byPlace(array $document): array
    {
        $out = [];
        foreach (ShotValue::all($document, true) as $value) {
            if ($value->place !== null) {
                $out[$value->place] = $value;
            }
        }

        return $out;
    }
}
