<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotSpec;

/**
 * Puts a prop, or some of its set-up on another one, into a shot that may be another than its own. What makes no sense there, for what it refers to is not
 * there, is left out, and said.
 */
final class PasteProp
{
    /** What a prop is and where it stands: that is never taken over by another. */
    private const OWN = ['id', 'name', 'hidden', 'group', 'source', 'place', 'prepare'];

    /** Things left out at most before it is given up. */
    private const MOST = 40;

    /**
     * The prop itself, as one more.
     *
     * @return array{patch: list<array{op: string, path: string, value: mixed}>, left: list<string>, made: string} JSON Patch, what is left out, and its id
     *
     * @throws Problem where it cannot be there at all
     */
    public function asOneMore(Shot $into, Shot $from, string $id): array
    {
        $document = $into->decoded();
        $copy = PropCopies::of(self::prop($from, $id), $document);
        $document->props[] = $copy;
        $number = count($document->props) - 1;
        $left = $this->settle($document, $number);

        return ['patch' => [['op' => 'add', 'path' => '/props/-', 'value' => $document->props[$number]]], 'left' => $left, 'made' => $copy->id];
    }

    /**
     * Some of its set-up, on another prop.
     *
     * @param  list<string>  $what  members of a prop; none for all that can be
     * @return array{patch: list<array{op: string, path: string, value: mixed}>, left: list<string>, made: string}
     *
     * @throws Problem
     */
    public function onto(Shot $into, string $to, Shot $from, string $id, array $what): array
    {
        return $this->ontoAll($into, [$to], self::prop($from, $id), $what) + ['made' => $to];
    }

    /**
     * Some of the set-up of a prop, on others.
     *
     * @param  list<string>  $onto  their ids
     * @param  list<string>  $what  members of a prop; none for all that can be
     * @return array{patch: list<array{op: string, path: string, value: mixed}>, left: list<string>}
     *
     * @throws Problem
     */
    public function ontoAll(Shot $into, array $onto, \stdClass $own, array $what): array
    {
        $document = $into->decoded();
        $patch = $left = [];
        foreach ($onto as $to) {
            $number = DocumentProps::number($document, $to) ?? throw Problem::inValue('onto', 'The prop this was to go onto is not there any more.', 'Choose another one.');
            $left = [...$left, ...$this->overlay($document, $number, $own, $what)];
            $patch[] = ['op' => 'replace', 'path' => '/props/'.$number, 'value' => $document->props[$number]];
        }

        return ['patch' => $patch, 'left' => array_values(array_unique($left))];
    }

    /**
     * @param  list<string>  $what
     * @return list<string> what was left out, in words
     *
     * @throws Problem
     */
    private function overlay(\stdClass $document, int $number, \stdClass $own, array $what): array
    {
        $target = $document->props[$number];
        $copy = PropCopies::of($own, $document);
        $members = array_diff($what === [] ? array_keys(get_object_vars($copy)) : $what, self::OWN);
        // Maps that what is taken goes by come along.
        $needed = PropCopies::mapsIn($copy, $members);
        foreach ($members as $member) {
            if ($member === 'weights') {
                continue;
            }
            if (isset($copy->$member)) {
                $target->$member = $copy->$member;
            } elseif (! in_array($member, ['material', 'motion'], true)) {
                unset($target->$member);
            }
        }
        foreach ($copy->weights ?? [] as $map) {
            if (in_array('weights', $members, true) || in_array($map->id, $needed, true)) {
                $target->weights = [...$target->weights ?? [], $map];
            }
        }

        return $this->settle($document, $number);
    }

    /**
     * A prop of a shot, as it is written.
     *
     * @throws Problem where it is not there
     */
    public static function prop(Shot $shot, string $id): \stdClass
    {
        $document = $shot->decoded();
        $number = DocumentProps::number($document, $id) ?? throw Problem::inValue('from', 'The prop that was copied is not there any more.', 'Copy it again.');

        return $document->props[$number];
    }

    /**
     * Takes out of a prop what keeps the shot from being one.
     *
     * @return list<string> what was left out, in words
     *
     * @throws Problem where that cannot be left out
     */
    private function settle(\stdClass $document, int $number): array
    {
        $left = [];
        for ($k = 0; $k <= self::MOST; $k++) {
            try {
                ShotSpec::fromObject($document);

                return $left;
            } catch (Problem $problem) {
                $steps = self::steps($problem->path);
                if (array_slice($steps, 0, 2) !== ['props', (string) $number] || count($steps) < 3 || in_array($steps[2], self::OWN, true) || ! self::without($document->props[$number], array_slice($steps, 2))) {
                    throw $problem;
                }
                $left[] = $problem->getMessage();
            }
        }
        throw Problem::inValue('from', 'Too much of it makes no sense in this shot.', 'Copy less of it.');
    }

    /** @return list<string> */
    private static function steps(string $path): array
    {
        return preg_split('/[.\[\]]+/', $path, -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }

    /**
     * Takes out the innermost of a path that is there.
     *
     * @param  list<string>  $steps
     */
    private static function without(mixed &$value, array $steps): bool
    {
        $step = array_shift($steps);
        if ($value instanceof \stdClass && $step !== null && property_exists($value, $step)) {
            if (! self::without($value->$step, $steps)) {
                unset($value->$step);
            }

            return true;
        }
        if (is_array($value) && $step !== null && array_key_exists((int) $step, $value)) {
            if (! self::without($value[(int) $step], $steps)) {
                unset($value[(int) $step]);
                $value = array_values($value);
            }

            return true;
        }

        return false;
    }
}
