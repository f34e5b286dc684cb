<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PropMaker;

/** Copies a prop with all of its set-up: its break, maps, motion, dust. What it says of itself and its maps, the copy says of itself and its own. */
final class CopyProp
{
    /** Share of its width by which the copy stands beside it. */
    private const BESIDE = 1.15;

    /** Members that only tell, whatever they say. */
    private const TELL = ['name', 'label', 'text', 'file'];

    public function __construct(private readonly PropMaker $maker)
    {
    }

    /**
     * @return list<array{op: string, path: string, value: mixed}> JSON Patch that adds it right after the prop
     *
     * @throws Problem where it is not there
     */
    public function patch(Shot $shot, string $id): array
    {
        $document = $shot->decoded();
        $spec = $shot->spec()->prop($id);
        $number = array_search($id, array_map(static fn (object $p): string => $p->id, $document->props), true);
        if ($spec === null || $number === false) {
            throw Problem::inValue('prop', 'This prop is not there any more.', 'Choose another one.');
        }
        $own = $document->props[$number];
        $names = array_map(static fn (object $p): string => mb_strtolower($p->name), $document->props);
        $known = [];
        foreach ($document->props as $prop) {
            array_push($known, mb_strtolower($prop->id), ...array_map(static fn (object $map): string => mb_strtolower($map->id), $prop->weights ?? []));
        }
        $new = [$id => FreeName::among($known, mb_substr($id, 0, 40).'-copy')];
        foreach ($own->weights ?? [] as $map) {
            $new[$map->id] = FreeName::among([...$known, ...array_map(mb_strtolower(...), array_values($new))], mb_substr($map->id, 0, 40).'-copy');
        }
        $copy = self::renamed(json_decode((string) json_encode($own, JSON_PRESERVE_ZERO_FRACTION)), $new);
        $copy->name = FreeName::among($names, mb_substr($own->name, 0, 50).' copy');
        $maps = array_map(static fn (object $map): string => mb_strtolower($map->name), array_merge(...array_map(static fn (object $p): array => $p->weights ?? [], $document->props)));
        foreach ($copy->weights ?? [] as $map) {
            $map->name = $maps[] = FreeName::among(array_map(mb_strtolower(...), $maps), mb_substr($map->name, 0, 50).' copy');
        }
        $x = $own->place->position[0] ?? null;
        if (is_int($x) || is_float($x)) {
            $copy->place->position[0] = $x + round(self::BESIDE * Aabb::around($this->maker->mesh($spec))->size()->x, 3);
        }

        return [['op' => 'add', 'path' => '/props/'.($number + 1), 'value' => $copy]];
    }

    /**
     * @param  array<string, string>  $new  by what something was called
     */
    private static function renamed(mixed $value, array $new, string $member = ''): mixed
    {
        if (is_string($value)) {
            return in_array($member, self::TELL, true) ? $value : $new[$value] ?? $value;
        }
        if (is_array($value) || $value instanceof \stdClass) {
            foreach ($value as $key => $inner) {
                $made = self::renamed($inner, $new, is_string($key) ? $key : $member);
                is_array($value) ? $value[$key] = $made : $value->{$key} = $made;
            }
        }

        return $value;
    }
}
