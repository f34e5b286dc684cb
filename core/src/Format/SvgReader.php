<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use Svg\Document;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;

/** The lines of an SVG drawing: paths and simple shapes with their transforms; curves become chains of short lines. */
final class SvgReader
{
    private const MOST_BYTES = 8_000_000;

    /** Elements drawn; those used several times count each time. */
    private const MOST_ELEMENTS = 50_000;

    /** Numbers and letters of a path that count for one more element. */
    private const WORDS = 6;

    private const DEEPEST = 100;

    /** Lines keep to curves this closely, as a share of the drawing's longer side. */
    private const TOLERANCE = 2e-4;

    /**
     * @return Outline within the drawing's own frame, whose longer side is 1
     *
     * @throws Problem where the file is no drawing or holds no line
     */
    public static function read(string $path): Outline
    {
        $bytes = @filesize($path);
        if ($bytes === false) {
            throw Problem::onDisk('The file '.basename($path).' cannot be read.', 'Check that it is there.');
        }
        if ($bytes > self::MOST_BYTES) {
            throw Problem::inFile('The drawing is larger than 8 MB.', 'Simplify it first.');
        }
        $xml = new \DOMDocument;
        if ($bytes === 0 || ! @$xml->load($path, LIBXML_NONET) || strtolower((string) $xml->documentElement?->localName) !== 'svg') {
            throw Problem::inFile(basename($path).' is no SVG drawing.', 'Save it as plain SVG.');
        }
        $cost = [];
        if (self::elements($xml->documentElement, self::named($xml), $cost, 0) > self::MOST_ELEMENTS) {
            throw Problem::inFile(
                'The drawing has more than '.number_format(self::MOST_ELEMENTS).' things or '.number_format(self::WORDS * self::MOST_ELEMENTS).' numbers in it.',
                'Simplify it first.',
            );
        }
        $pen = new SvgPen;
        try {
            $document = new Document;
            // The library warns of what is missing in a damaged drawing, and goes on as far as it can.
            $spelt = self::speltOut($xml);
            @$document->loadFile($spelt === null ? $path : stream_get_meta_data($spelt)['uri']);
            $size = @$document->getDimensions();
            @$document->render($pen);
        } catch (Problem $e) {
            throw $e;
        } catch (\Throwable) {
            throw Problem::inFile('The drawing '.basename($path).' could not be read.', 'Save it as plain SVG with paths only.');
        }
        $lines = $pen->lines();
        if ($lines === []) {
            throw Problem::inFile('The drawing '.basename($path).' has no line in it.', 'Convert text and pictures to paths first.');
        }
        $outline = new Outline($lines);
        [$lowU, $lowV, $highU, $highV] = $outline->box();
        $width = (float) ($size['width'] ?? 0);
        $height = (float) ($size['height'] ?? 0);
        if ($width <= 0.0 || $height <= 0.0 || $lowU < -0.01 * $width || $highU > 1.01 * $width || $lowV < -0.01 * $height || $highV > 1.01 * $height) {
            [$u, $v, $width, $height] = [$lowU, $lowV, $highU - $lowU, $highV - $lowV];
        } else {
            [$u, $v] = [0.0, 0.0];
        }
        $k = 1.0 / max($width, $height, 1e-300);
        $out = [];
        foreach ($lines as $line) {
            // A drawing counts downwards.
            $points = array_map(static fn (array $p): array => [$k * ($p[0] - $u - 0.5 * $width), -$k * ($p[1] - $v - 0.5 * $height)], $line->points);
            $line = (new Polyline($points, $line->closed))->simplified(self::TOLERANCE);
            if (count($line->points) > ($line->closed ? 2 : 1)) {
                $out[] = $line;
            }
        }

        return new Outline($out);
    }

    /**
     * The drawing with a letter before each step of its paths: one letter before many steps takes the library it is drawn by
     * time and memory with the square of their number.
     *
     * @return resource|null a file that goes when it is closed; null where all are short
     */
    private static function speltOut(\DOMDocument $xml)
    {
        $changed = false;
        foreach ($xml->getElementsByTagName('path') as $path) {
            $d = $path->getAttribute('d');
            $new = (string) preg_replace_callback('/([mlhvcsqt])([^mlhvcsqtaz]{200,})/i', static function (array $part): string {
                $count = preg_match_all('/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/i', $part[2], $numbers);
                $each = ['c' => 6, 's' => 4, 'q' => 4, 'h' => 1, 'v' => 1][strtolower($part[1])] ?? 2;
                if ($count <= $each) {
                    return $part[0];
                }
                $out = '';
                foreach (array_chunk($numbers[0], $each) as $k => $step) {
                    // After its first step a move goes on as a line.
                    $out .= ($k === 0 ? $part[1] : strtr($part[1], 'mM', 'lL')).implode(' ', $step);
                }

                return $out;
            }, $d);
            if ($new !== $d && $new !== '') {
                $path->setAttribute('d', $new);
                $changed = true;
            }
        }
        if (! $changed) {
            return null;
        }
        $file = tmpfile() ?: throw Problem::notWritten(sys_get_temp_dir());
        fwrite($file, (string) $xml->saveXML());

        return $file;
    }

    /** @return array<string, \DOMElement> */
    private static function named(\DOMDocument $xml): array
    {
        $named = [];
        foreach ($xml->getElementsByTagName('*') as $element) {
            if ($element->hasAttribute('id')) {
                $named[$element->getAttribute('id')] ??= $element;
            }
        }

        return $named;
    }

    /**
     * How many elements are drawn below this one, itself counted, with all that it uses.
     *
     * @param  array<string, \DOMElement>  $named
     * @param  array<string, float>  $cost  by path, as far as known; infinite while it is being found, so that what uses itself is never drawn
     */
    private static function elements(\DOMElement $element, array $named, array &$cost, int $depth): float
    {
        if ($depth > self::DEEPEST) {
            return INF;
        }
        $sum = 1.0 + (int) preg_match_all('/[a-z]|\d+(?:\.\d*)?|\.\d+/i', $element->getAttribute('d').$element->getAttribute('points')) / self::WORDS;
        if ($element->localName === 'use') {
            $target = ltrim(
                $element->getAttribute('href') ?: $element->getAttributeNS('http://www.w3.org/1999/xlink', 'href') ?: $element->getAttribute('xlink:href'),
                '#',
            );
            if (isset($named[$target])) {
                if (! isset($cost[$target])) {
                    $cost[$target] = INF;
                    $cost[$target] = self::elements($named[$target], $named, $cost, $depth + 1);
                }
                $sum += $cost[$target];
            }
        }
        foreach ($element->childNodes as $child) {
            if ($child instanceof \DOMElement) {
                $sum += self::elements($child, $named, $cost, $depth + 1);
            }
        }

        return $sum;
    }
}
