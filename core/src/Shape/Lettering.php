<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;

/** A line of text as outlines, in one of the fonts that come with the program. */
final class Lettering
{
    /** @var array<string, string> */
    public const FONTS = [
        'Archivo' => 'archivo-latin-400-normal.woff',
        'Archivo heavy' => 'archivo-latin-800-normal.woff',
        'Archivo Narrow' => 'archivo-narrow-latin-400-normal.woff',
        'Archivo Narrow bold' => 'archivo-narrow-latin-700-normal.woff',
        'Plex Mono' => 'ibm-plex-mono-latin-500-normal.woff',
    ];

    /** Straight parts of a curve. */
    private const PARTS = 6;

    /**
     * @param  float  $height  of a capital letter, metres
     * @param  float  $spacing  further space between letters, as a share of that height
     *
     * @throws Problem where the font lacks a letter, or there is none to draw
     */
    public static function outline(string $text, string $font, float $height, float $spacing): Outline
    {
        $path = dirname(__DIR__, 2).'/resources/fonts/'.self::FONTS[$font];
        if (! is_readable($path)) {
            throw Problem::onDisk('The font '.$font.' is missing.', 'Install Yard Break again.');
        }
        $file = new FontFile;
        $file->load($path);
        try {
            return self::drawn($file, $text, $font, $height, $spacing);
        } finally {
            // Its parts hold each other, so that it would go only much later.
            $file->close();
        }
    }

    /** @throws Problem */
    private static function drawn(FontFile $file, string $text, string $font, float $height, float $spacing): Outline
    {
        $file->parse();
        /** @var array<int, int> $glyphs */
        $glyphs = $file->getUnicodeCharMap();
        $outlines = $file->getData('glyf');
        $widths = $file->getData('hmtx');
        $capital = self::read($outlines[$glyphs[72]] ?? null);
        $top = max(1.0, ...array_map(static fn (Polyline $l): float => max(array_column($l->points, 1)), $capital));
        $k = $height / $top;
        $lines = $missing = [];
        $at = 0.0;
        foreach (mb_str_split($text) as $letter) {
            $glyph = $glyphs[mb_ord($letter)] ?? null;
            if ($glyph === null) {
                $missing[] = $letter;

                continue;
            }
            foreach (self::read($outlines[$glyph] ?? null) as $line) {
                $lines[] = $line->placed($k, 0.0, $at, 0.0);
            }
            $at += $k * (float) $widths[$glyph][0] + $spacing * $height;
        }
        if ($missing !== []) {
            throw Problem::inValue(
                'text',
                'The font '.$font.' has no letter for "'.implode(' ', array_unique($missing)).'".',
                'Leave it out, or choose another font.',
            );
        }
        if ($lines === []) {
            throw Problem::inValue('text', 'There is no letter in the text.', 'Type at least one letter.');
        }

        return new Outline($lines, true);
    }

    /** @return list<Polyline> closed, in the font's units */
    private static function read(?object $glyph): array
    {
        if ($glyph === null) {
            return [];
        }
        $glyph->parseData();
        $contours = $glyph->getSVGContours();
        if (! is_array($contours)) {
            return self::followed((string) $contours);
        }
        $lines = [];
        // A letter with an accent is put together from parts, each with its own place.
        foreach ($contours as $part) {
            [$a, $b, $c, $d, $e, $f] = $part['transform'];
            foreach (self::followed((string) $part['contours']) as $line) {
                $lines[] = new Polyline(
                    array_map(static fn (array $p): array => [$a * $p[0] + $c * $p[1] + $e, $b * $p[0] + $d * $p[1] + $f], $line->points),
                    true,
                );
            }
        }

        return $lines;
    }

    /** @return list<Polyline> */
    private static function followed(string $path): array
    {
        $lines = $points = [];
        foreach (preg_split('/\s+(?=[MLQz])/', trim($path)) ?: [] as $step) {
            $numbers = array_map(floatval(...), preg_split('/[,\s]+/', trim(substr($step, 1))) ?: []);
            switch ($step[0] ?? '') {
                case 'M':
                case 'L':
                    $points[] = [$numbers[0], $numbers[1]];
                    break;
                case 'Q':
                    [$u, $v] = $points[count($points) - 1];
                    for ($i = 1; $i <= self::PARTS; $i++) {
                        $t = $i / self::PARTS;
                        $points[] = [
                            (1 - $t) ** 2 * $u + 2 * $t * (1 - $t) * $numbers[0] + $t * $t * $numbers[2],
                            (1 - $t) ** 2 * $v + 2 * $t * (1 - $t) * $numbers[1] + $t * $t * $numbers[3],
                        ];
                    }
                    break;
                case 'z':
                    while (count($points) > 1 && $points[count($points) - 1] === $points[0]) {
                        array_pop($points);
                    }
                    if (count($points) > 2) {
                        $lines[] = new Polyline($points, true);
                    }
                    $points = [];
            }
        }

        return $lines;
    }
}
