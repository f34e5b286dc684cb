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
        $pen = new SvgPen;
        try {
            $document = new Document;
            $document->loadFile($path);
            $size = $document->getDimensions();
            $document->render($pen);
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
}
