<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;
use YardBreak\Core\Weight\Picture;

/**
 * The shapes in a PNG picture as outlines, by following its half-transparent level (marching squares, Lorensen &
 * Cline 1987, in the plane). A picture without transparency is divided at its middle brightness, dark inside.
 */
final class PictureReader
{
    /** Larger pictures are looked at in this many pixels a side. */
    private const MOST_PIXELS = 512;

    private const MOST_SIDE = 16384;

    /** Pixels that are unpacked at once, four bytes each. */
    private const MOST_AREA = 36_000_000;

    /** Outlines in one picture; more are noise. */
    private const MOST_LOOPS = 4000;

    /** Outlines keep to the level this closely, in pixels; specks of fewer pixels are left out. */
    private const TOLERANCE = 0.6;

    private const SPECK = 6.0;

    /**
     * @return Outline whose longer side is the picture's
     *
     * @throws Problem where there is no shape in the picture
     */
    public static function read(string $path): Outline
    {
        [$level, $width, $height] = self::levels($path);
        $k = 1.0 / max($width, $height);
        $lines = [];
        foreach (self::loops($level, $width, $height) as $loop) {
            $line = new Polyline($loop, true);
            if (abs($line->area()) < self::SPECK) {
                continue;
            }
            $line = $line->simplified(self::TOLERANCE);
            if (count($line->points) > 2) {
                $lines[] = $line->placed($k, 0.0, -0.5 * $k * $width, -0.5 * $k * $height);
            }
        }
        if ($lines === []) {
            throw Problem::inFile(
                'There is no shape in the picture '.basename($path).'.',
                'Use a picture with a transparent background, or a dark shape on a light one.',
            );
        }

        return new Outline($lines, false, [$k * $width, $k * $height]);
    }

    /**
     * How bright a PNG picture is, what is transparent counted as black.
     *
     * @throws Problem
     */
    public static function brightness(string $path): Picture
    {
        $image = self::image($path);
        $bytes = '';
        for ($y = 0, $height = imagesy($image), $width = imagesx($image); $y < $height; $y++) {
            for ($x = 0; $x < $width; $x++) {
                $colour = (int) imagecolorat($image, $x, $y);
                $light = 0.2126 * (($colour >> 16) & 255) + 0.7152 * (($colour >> 8) & 255) + 0.0722 * ($colour & 255);
                $bytes .= chr((int) round($light * (1.0 - (($colour >> 24) & 127) / 127.0)));
            }
        }

        return new Picture($width, $height, $bytes);
    }

    /** @throws Problem */
    private static function image(string $path): \GdImage
    {
        $size = @getimagesize($path);
        if ($size === false || $size[2] !== IMAGETYPE_PNG) {
            throw Problem::inFile(basename($path).' is no PNG picture.', 'Save it as PNG.');
        }
        if (max($size[0], $size[1]) > self::MOST_SIDE || $size[0] < 2 || $size[1] < 2) {
            throw Problem::inFile('The picture is '.$size[0].' by '.$size[1].' pixels; from 2 to '.self::MOST_SIDE.' a side can be read.', 'Scale it first.');
        }
        if ($size[0] * $size[1] > self::MOST_AREA) {
            throw Problem::inFile(
                'The picture has '.number_format($size[0] * $size[1] / 1e6).' million pixels; '.number_format(self::MOST_AREA / 1e6).' million can be read.',
                'Scale it first.',
            );
        }
        if (! self::isSound((string) file_get_contents($path))) {
            throw Problem::inFile('The picture '.basename($path).' is damaged or cut off.', 'Save it again.');
        }
        $image = @imagecreatefrompng($path);
        if ($image === false) {
            throw Problem::inFile('The picture '.basename($path).' is damaged or cut off.', 'Save it again.');
        }
        $most = max($size[0], $size[1]);
        if ($most > self::MOST_PIXELS) {
            imagealphablending($image, false);
            $image = imagescale(
                $image,
                max(2, (int) round($size[0] * self::MOST_PIXELS / $most)),
                max(2, (int) round($size[1] * self::MOST_PIXELS / $most)),
            ) ?: throw Problem::inFile('The picture could not be scaled.');
        }
        imagepalettetotruecolor($image);

        return $image;
    }

    /** @return array{list<list<float>>, int, int} how far inside each pixel is, 0…1, row by row from below; width and height */
    private static function levels(string $path): array
    {
        $image = self::image($path);
        $width = imagesx($image);
        $height = imagesy($image);
        $alpha = $dark = [];
        $clear = false;
        for ($y = $height - 1; $y >= 0; $y--) {
            $alphaRow = $darkRow = [];
            for ($x = 0; $x < $width; $x++) {
                $colour = (int) imagecolorat($image, $x, $y);
                $a = 1.0 - (($colour >> 24) & 127) / 127.0;
                $alphaRow[] = $a;
                $darkRow[] = 1.0 - (0.2126 * (($colour >> 16) & 255) + 0.7152 * (($colour >> 8) & 255) + 0.0722 * ($colour & 255)) / 255.0;
                $clear = $clear || $a < 0.5;
            }
            $alpha[] = $alphaRow;
            $dark[] = $darkRow;
        }
        if ($clear) {
            return [$alpha, $width, $height];
        }
        $least = min(array_map(min(...), $dark));
        $span = max(array_map(max(...), $dark)) - $least;
        if ($span < 0.1) {
            throw Problem::inFile(
                'The picture '.basename($path).' is one plain colour without transparency, so no shape stands out.',
                'Make its background transparent.',
            );
        }

        return [array_map(static fn (array $row): array => array_map(static fn (float $d): float => ($d - $least) / $span, $row), $dark), $width, $height];
    }

    /** Whether every chunk is whole and as its check says (PNG, ISO/IEC 15948, 5.3). */
    private static function isSound(string $png): bool
    {
        for ($at = 8, $end = strlen($png); $at + 12 <= $end;) {
            $length = (unpack('N', $png, $at) ?: [1 => $end])[1];
            if ($at + 12 + $length > $end || (unpack('N', $png, $at + 8 + $length) ?: [1 => -1])[1] !== crc32(substr($png, $at + 4, 4 + $length))) {
                return false;
            }
            if (substr($png, $at + 4, 4) === 'IEND') {
                return true;
            }
            $at += 12 + $length;
        }

        return false;
    }

    /**
     * @param  list<list<float>>  $level
     * @return list<list<array{float, float}>> in pixels, the inside to the left
     */
    private static function loops(array $level, int $width, int $height): array
    {
        // A ring of empty pixels round the picture closes every outline.
        $at = static fn (int $i, int $j): float => $i < 0 || $j < 0 || $i >= $width || $j >= $height ? 0.0 : $level[$j][$i];
        $next = $place = [];
        for ($j = -1; $j < $height; $j++) {
            for ($i = -1; $i < $width; $i++) {
                $v = [$at($i, $j), $at($i + 1, $j), $at($i + 1, $j + 1), $at($i, $j + 1)];
                $case = ($v[0] >= 0.5 ? 1 : 0) | ($v[1] >= 0.5 ? 2 : 0) | ($v[2] >= 0.5 ? 4 : 0) | ($v[3] >= 0.5 ? 8 : 0);
                if ($case === 0 || $case === 15) {
                    continue;
                }
                $middle = 0.25 * ($v[0] + $v[1] + $v[2] + $v[3]) >= 0.5;
                foreach (self::CASES[$case === 5 && $middle ? 16 : ($case === 10 && $middle ? 17 : $case)] as [$from, $to]) {
                    $a = self::edgeKey($i, $j, $from, $width);
                    $b = self::edgeKey($i, $j, $to, $width);
                    foreach ([[$from, $a], [$to, $b]] as [$edge, $key]) {
                        if (! isset($place[$key])) {
                            [$p, $q] = [$v[$edge], $v[($edge + 1) % 4]];
                            $t = ($p - 0.5) / ($p - $q);
                            $place[$key] = match ($edge) {
                                0 => [$i + $t + 0.5, $j + 0.5],
                                1 => [$i + 1.5, $j + $t + 0.5],
                                2 => [$i + 1.5 - $t, $j + 1.5],
                                default => [$i + 0.5, $j + 1.5 - $t],
                            };
                        }
                    }
                    $next[$a] = $b;
                }
            }
        }
        $loops = [];
        $done = [];
        foreach ($next as $start => $_) {
            if (isset($done[$start])) {
                continue;
            }
            if (count($loops) >= self::MOST_LOOPS) {
                throw Problem::inFile('The picture has more than '.number_format(self::MOST_LOOPS).' outlines.', 'Use a picture of few, clear shapes.');
            }
            $key = $start;
            $loop = [];
            while (isset($next[$key]) && ! isset($done[$key])) {
                $loop[] = $place[$key];
                $done[$key] = true;
                $key = $next[$key];
            }
            $loops[] = $loop;
        }

        return $loops;
    }

    /** Edges of a square (0 below, 1 right, 2 above, 3 left) its outline runs from and to, the inside to the left. */
    private const CASES = [
        1 => [[0, 3]], 2 => [[1, 0]], 3 => [[1, 3]], 4 => [[2, 1]], 5 => [[0, 3], [2, 1]], 6 => [[2, 0]], 7 => [[2, 3]],
        8 => [[3, 2]], 9 => [[0, 2]], 10 => [[1, 0], [3, 2]], 11 => [[1, 2]], 12 => [[3, 1]], 13 => [[0, 1]], 14 => [[3, 0]],
        16 => [[0, 1], [2, 3]], 17 => [[3, 0], [1, 2]],
    ];

    private static function edgeKey(int $i, int $j, int $edge, int $width): int
    {
        $i++;
        $j++;

        return match ($edge) {
            0 => 2 * ($j * ($width + 2) + $i),
            1 => 2 * ($j * ($width + 2) + $i + 1) + 1,
            2 => 2 * (($j + 1) * ($width + 2) + $i),
            default => 2 * ($j * ($width + 2) + $i) + 1,
        };
    }
}
