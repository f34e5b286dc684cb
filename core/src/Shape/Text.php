<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Words;
use YardBreak\Core\Option;

/** A line of text cut out of a slab; every letter is a part of its own. */
final class Text implements Shape
{
    public static function label(): string
    {
        return 'Text';
    }

    public static function options(): array
    {
        return [
            new Option('text', 'Text', 'One line.', Words::class, 'FERN', 1, 60),
            new Option('font', 'Font', 'Those that come with the program.', Choice::class, 'Archivo heavy', choices: array_keys(Lettering::FONTS)),
            new Option('height', 'Height', 'Of a capital letter.', Number::class, 0.4, 0.001, 100, 'm'),
            new Option('depth', 'Depth', 'Along z.', Number::class, 0.08, 0.0001, 100, 'm'),
            new Option('spacing', 'Spacing', 'Further space between letters, as a share of their height.', Number::class, 0.02, -0.2, 2),
        ];
    }

    public static function mesh(array $values): Mesh
    {
        return Slab::of(Lettering::outline($values['text'], $values['font'], (float) $values['height'], (float) $values['spacing']), (float) $values['depth']);
    }
}
