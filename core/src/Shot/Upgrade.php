<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

/** Brings documents of earlier versions up to the current one; what is current stays as it is. */
final class Upgrade
{
    public static function of(\stdClass $document): \stdClass
    {
        if (($document->version ?? null) !== 1) {
            return $document;
        }
        $document = clone $document;
        $document->version = 2;
        $document->props = array_map(static fn (mixed $prop): mixed => $prop instanceof \stdClass ? self::prop(clone $prop) : $prop, is_array($document->props ?? null) ? $document->props : []);

        return $document;
    }

    private static function prop(\stdClass $prop): \stdClass
    {
        if (is_array($prop->repairs ?? null)) {
            $prop->prepare = array_map(static fn (mixed $step): \stdClass => (object) ['step' => $step, 'values' => new \stdClass], $prop->repairs);
            unset($prop->repairs);
        }
        $break = $prop->break ?? null;
        if ($break instanceof \stdClass && ($break->pattern ?? null) === 'cells' && $break->values instanceof \stdClass && property_exists($break->values, 'strike')) {
            $prop->break = clone $break;
            $prop->break->values = clone $break->values;
            $prop->break->values->cluster = $break->values->strike === null ? null : [$break->values->strike];
            unset($prop->break->values->strike);
        }

        return $prop;
    }
}
