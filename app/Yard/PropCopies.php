<?php

declare(strict_types=1);

namespace App\Yard;

/** Copies of props that can stand in a shot beside all that is there: what one says of itself and its maps, the copy says of itself and its own. */
final class PropCopies
{
    /** Members that only tell, whatever they say. */
    private const TELL = ['name', 'label', 'text', 'file'];

    /** @param  \stdClass  $document  of the shot it is to stand in */
    public static function of(\stdClass $own, \stdClass $document): \stdClass
    {
        $names = array_map(static fn (object $p): string => mb_strtolower($p->name), $document->props);
        $known = $maps = [];
        foreach ($document->props as $prop) {
            array_push($known, mb_strtolower($prop->id), ...array_map(static fn (object $map): string => mb_strtolower($map->id), $prop->weights ?? []));
            array_push($maps, ...array_map(static fn (object $map): string => mb_strtolower($map->name), $prop->weights ?? []));
        }
        $new = [];
        foreach ([$own->id, ...array_map(static fn (object $map): string => $map->id, $own->weights ?? [])] as $id) {
            $known[] = $new[$id] = in_array(mb_strtolower($id), $known, true) ? FreeName::among($known, mb_substr($id, 0, 40).'-copy') : $id;
        }
        $copy = self::renamed(Patch::plain($own), $new);
        assert($copy instanceof \stdClass);
        $copy->name = self::free($names, $own->name);
        foreach ($copy->weights ?? [] as $map) {
            $map->name = self::free($maps, $map->name);
            $maps[] = mb_strtolower($map->name);
        }

        return $copy;
    }

    /**
     * Its maps that some of its members go by, and those that these take over.
     *
     * @param  array<string>  $members
     * @return list<string> ids
     */
    public static function mapsIn(\stdClass $prop, array $members): array
    {
        $maps = array_column($prop->weights ?? [], null, 'id');
        $out = [];
        $look = array_map(static fn (string $member): mixed => $prop->$member ?? null, array_diff($members, ['weights']));
        while ($look !== []) {
            $value = array_pop($look);
            if (is_string($value) && isset($maps[$value]) && ! in_array($value, $out, true)) {
                $out[] = $value;
                $look[] = $maps[$value]->sources ?? [];
            } elseif (is_array($value) || $value instanceof \stdClass) {
                array_push($look, ...array_values((array) $value));
            }
        }

        return $out;
    }

    /** @param  list<string>  $taken  in small letters */
    private static function free(array $taken, string $name): string
    {
        return in_array(mb_strtolower($name), $taken, true) ? FreeName::among($taken, mb_substr($name, 0, 50).' copy') : $name;
    }

    /** @param  array<string, string>  $new  by what something was called */
    private static function renamed(mixed $value, array $new, string $member = ''): mixed
    {
        if (is_string($value)) {
            return in_array($member, self::TELL, true) ? $value : $new[$value] ?? $value;
        }
        if (is_array($value)) {
            return array_map(static fn (mixed $inner): mixed => self::renamed($inner, $new, $member), $value);
        }
        if ($value instanceof \stdClass) {
            foreach (get_object_vars($value) as $key => $inner) {
                $value->{$key} = self::renamed($inner, $new, $key);
            }
        }

        return $value;
    }
}
