<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;

/** Reads a drawing from whatever holds one: SVG lines, or the shapes in a PNG picture. */
final class OutlineReader
{
    /** @var array<string, class-string> */
    public const KINDS = ['svg' => SvgReader::class, 'png' => PictureReader::class];

    /**
     * @param  string|null  $name  with the ending that tells the kind, where the path has none
     *
     * @throws Problem where the file holds no drawing
     */
    public static function read(string $path, ?string $name = null): Outline
    {
        $kind = strtolower(pathinfo($name ?? $path, PATHINFO_EXTENSION));
        if (! is_file($path)) {
            throw Problem::inFile('There is no file '.basename($path).'.', 'Check its name.');
        }

        $outline = match ($kind) {
            'svg' => SvgReader::read($path),
            'png' => PictureReader::read($path),
            default => throw Problem::inFile('"'.mb_substr(basename($name ?? $path), -60).'" is no drawing.', 'Use an SVG drawing or a PNG picture.'),
        };
        if (
            count($outline->lines) > Outline::MOST_LINES
            || array_sum(array_map(static fn (Polyline $l): int => count($l->points), $outline->lines)) > Outline::MOST_POINTS
        ) {
            throw Problem::inFile(
                'The drawing has more than '.number_format(Outline::MOST_LINES).' lines or '.number_format(Outline::MOST_POINTS).' points.',
                'Simplify it first.',
            );
        }

        return $outline;
    }
}
