<?php

declare(strict_types=1);

namespace App\Yard;

use App\Models\Shot;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\PropMaker;

/** Copies a prop with all of its set-up, its break, maps, motion and dust, beside it. */
final class CopyProp
{
    /** Times its width that the copy stands off it. */
    private const BESIDE = 1.15;

    public function __construct(private readonly PropMaker $maker)
    {
    }

    /**
     * @return list<array{op: string, path: string, value: \stdClass}> JSON Patch that adds it right after the prop
     *
     * @throws Problem where it is not there
     */
    public function patch(Shot $shot, string $id): array
    {
        $document = $shot->decoded();
        $spec = $shot->spec()->prop($id);
        $number = DocumentProps::number($document, $id);
        if ($spec === null || $number === null) {
            throw Problem::inValue('prop', 'This prop is not there any more.', 'Choose another one.');
        }
        $own = $document->props[$number];
        $copy = PropCopies::of($own, $document);
        $x = $own->place->position[0] ?? null;
        if (is_int($x) || is_float($x)) {
            $copy->place->position[0] = $x + round(self::BESIDE * Aabb::around($this->maker->mesh($spec))->size()->x, 3);
        }

        return [['op' => 'add', 'path' => '/props/'.($number + 1), 'value' => $copy]];
    }
}
