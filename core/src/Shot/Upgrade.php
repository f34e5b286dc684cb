<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Timing\Rate;

/** Brings documents of earlier versions up to the current one; what is current stays as it is. Motion is kept exactly. */
final class Upgrade
{
    public static function of(\stdClass $document): \stdClass
    {
        $version = $document->version ?? null;
        if (! in_array($version, [1, 2, 3, 4, 5], true)) {
            return $document;
        }
        $document = self::copy($document);
        if ($version === 1) {
            self::eachProp($document, self::propOf1(...));
        }
        if ($version <= 2) {
            self::eachProp($document, self::propOf2(...));
            self::worldOf2($document);
        }
        if ($version <= 3) {
            self::eachProp($document, self::propOf3(...));
        }
        if ($version <= 4) {
            self::eachProp($document, self::propOf4(...));
        }
        self::eachProp($document, self::propOf5(...));
        if (is_bool($document->world->ground ?? null)) {
            $document->world->ground = (object) ['kind' => $document->world->ground ? 'flat' : 'none'];
        }
        $document->version = 6;

        return $document;
    }

    private static function copy(\stdClass $document): \stdClass
    {
        $copy = json_decode((string) json_encode($document, JSON_PRESERVE_ZERO_FRACTION), false, ShotSpec::DEEPEST + 2);
        assert($copy instanceof \stdClass);

        return $copy;
    }

    /** @param  callable(\stdClass): void  $change */
    private static function eachProp(\stdClass $document, callable $change): void
    {
        foreach (is_array($document->props ?? null) ? $document->props : [] as $prop) {
            if ($prop instanceof \stdClass) {
                $change($prop);
            }
        }
    }

    /** Grains had a size at their end; now they have one over their life. */
    private static function propOf5(\stdClass $prop): void
    {
        foreach (is_array($prop->dust ?? null) ? $prop->dust : [] as $dust) {
            $values = $dust instanceof \stdClass ? $dust->values ?? null : null;
            if ($values instanceof \stdClass && property_exists($values, 'ends')) {
                $values->sizes = [[0.0, 1.0], [1.0, $values->ends]];
                unset($values->ends);
            }
        }
    }

    private static function propOf1(\stdClass $prop): void
    {
        if (is_array($prop->repairs ?? null)) {
            $prop->prepare = array_map(static fn (mixed $step): \stdClass => (object) ['step' => $step, 'values' => new \stdClass], $prop->repairs);
            unset($prop->repairs);
        }
        $values = ($prop->break ?? null) instanceof \stdClass && ($prop->break->pattern ?? null) === 'cells' ? $prop->break->values ?? null : null;
        if ($values instanceof \stdClass && property_exists($values, 'strike')) {
            $values->cluster = $values->strike === null ? null : [$values->strike];
            unset($values->strike);
        }
    }

    /** The world's settings were nested, and the frame rate a decimal number. */
    private static function worldOf2(\stdClass $document): void
    {
        $rate = $document->frames->rate ?? null;
        if ((is_int($rate) || is_float($rate)) && $rate >= 0.001) {
            $document->frames->rate = floor((float) $rate) === (float) $rate ? [(int) $rate, 1] : Rate::near((float) $rate)->toArray();
        }
        $ground = $document->world->ground ?? null;
        if ($ground instanceof \stdClass && property_exists($ground, 'on')) {
            foreach (['friction', 'bounce'] as $name) {
                if (property_exists($ground, $name)) {
                    $document->world->$name = $ground->$name;
                }
            }
            $document->world->ground = $ground->on ?? null;
        }
    }

    /** Position and turn were keyed together, and turns went the shortest way. */
    private static function propOf2(\stdClass $prop): void
    {
        $motion = $prop->motion ?? null;
        $release = $motion->release ?? null;
        if ($release instanceof \stdClass) {
            if (($release->on ?? null) === 'frame') {
                unset($release->reach);
                $release->frame ??= 0;
            } else {
                unset($release->frame);
            }
        }
        $keys = $motion->keys ?? null;
        if (! $motion instanceof \stdClass || ! is_array($keys)) {
            return;
        }
        unset($motion->keys);
        $keys = array_values(array_filter(
            $keys,
            static fn (mixed $k): bool => $k instanceof \stdClass && is_array($k->position ?? null) && count($k->position) === 3 && is_array($k->turn ?? null) && count($k->turn) === 3,
        ));
        if ($keys === [] || ($motion->kind ?? null) === 'fixed' || ! ($prop->place ?? null) instanceof \stdClass) {
            return;
        }
        $turns = self::byAxes(array_map(static fn (\stdClass $k): array => $k->turn, $keys));
        if ($turns === null) {
            $prop->place->between = 'shortest';
            $turns = array_column($keys, 'turn');
        }
        $frames = array_column($keys, 'frame');
        $prop->place->position = self::keyed($frames, array_column($keys, 'position'));
        $prop->place->turn = self::keyed($frames, $turns);
    }

    /** Groups of pieces were let go at moments only. */
    private static function propOf3(\stdClass $prop): void
    {
        foreach (is_array($prop->motion->groups ?? null) ? $prop->motion->groups : [] as $group) {
            if (! $group instanceof \stdClass || isset($group->release)) {
                continue;
            }
            $group->release = isset($group->cue)
                ? (object) ['on' => 'cue', 'cue' => $group->cue, 'offset' => $group->offset ?? 0]
                : (object) ['on' => 'frame', 'frame' => $group->frame ?? 0];
            unset($group->cue, $group->offset, $group->frame);
        }
    }

    /** What is set for rigid bodies stood among what is set for all motion. */
    private static function propOf4(\stdClass $prop): void
    {
        $motion = $prop->motion ?? null;
        if (! $motion instanceof \stdClass) {
            return;
        }
        foreach (['held', 'velocity', 'spin'] as $name) {
            if (property_exists($motion, $name)) {
                $motion->values ??= new \stdClass;
                $motion->values->$name = $motion->$name;
                unset($motion->$name);
            }
        }
    }

    /**
     * The same turns with whole turns added so that each axis by itself takes the shortest way.
     *
     * @param  non-empty-list<array<int, mixed>>  $turns  degrees
     * @return list<array<int, mixed>>|null  null where more than one axis turns at a time, which no axis by itself can follow
     */
    private static function byAxes(array $turns): ?array
    {
        $out = [$turns[0]];
        for ($k = 1, $n = count($turns); $k < $n; $k++) {
            $before = $out[$k - 1];
            $now = $turns[$k];
            $changed = [];
            for ($axis = 0; $axis < 3; $axis++) {
                if (! is_numeric($now[$axis]) || ! is_numeric($before[$axis])) {
                    return null;
                }
                $by = fmod((float) $now[$axis] - (float) $before[$axis], 360.0);
                $by -= 360.0 * round($by / 360.0);
                if (abs(abs($by) - 180.0) < 1e-6) {
                    return null;
                }
                if (abs($by) > 0.0) {
                    $changed[] = $axis;
                }
                $now[$axis] = abs($by) === abs((float) $now[$axis] - (float) $before[$axis]) ? $now[$axis] : $before[$axis] + $by;
            }
            if (count($changed) > 1) {
                return null;
            }
            $out[] = $now;
        }

        return $out;
    }

    /**
     * @param  list<int|float>  $frames
     * @param  list<array<int, mixed>>  $triples
     * @return list<mixed> a value in time an axis, or a number where it never changes
     */
    private static function keyed(array $frames, array $triples): array
    {
        $out = [];
        for ($axis = 0; $axis < 3; $axis++) {
            $values = array_column($triples, $axis);
            $out[] = count(array_unique($values)) === 1
                ? $values[0]
                : (object) ['keys' => array_map(static fn (int|float $f, mixed $v): \stdClass => (object) ['frame' => $f, 'value' => $v], $frames, $values)];
        }

        return $out;
    }
}
