<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** STL, binary and text. Corners at exactly the same place become one point. */
final class StlReader
{
    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        $size = (int) (fstat($in)['size'] ?? 0);
        $head = (string) fread($in, 84);
        $count = strlen($head) === 84 ? (int) (unpack('V', $head, 80) ?: [1 => 0])[1] : 0;
        if (strlen($head) === 84 && $size === 84 + 50 * $count && $count > 0) {
            return self::binary($in, $name, $count);
        }
        if (str_starts_with(ltrim($head), 'solid')) {
            rewind($in);

            return self::text($in, $name);
        }
        if (strlen($head) < 84) {
            throw Problem::inFile($name.' is too short to be an STL.', 'The file is cut off; export it again.');
        }
        throw Problem::inFile(
            sprintf(
                '%s says it holds %s triangles, which would be %s bytes, but the file has %s.',
                $name,
                number_format($count),
                number_format(84 + 50 * $count),
                number_format($size),
            ),
            'The file is cut off or is no STL; export it again.',
        );
    }

    /** @param  resource  $in */
    private static function binary($in, string $name, int $count): MeshFile
    {
        if ($count > MeshBuilder::MOST_FACES) {
            throw Problem::inFile($name.' has more than '.number_format(MeshBuilder::MOST_FACES).' triangles.', 'Reduce the mesh before bringing it in.');
        }
        $mesh = new MeshBuilder($name, true);
        for ($left = $count; $left > 0; $left -= 1000) {
            $chunk = (string) fread($in, 50 * min(1000, $left));
            for ($at = 0, $n = strlen($chunk); $at + 50 <= $n; $at += 50) {
                $v = unpack('g9', $chunk, $at + 12) ?: [];
                $mesh->polygon([$mesh->vertex($v[1], $v[2], $v[3]), $mesh->vertex($v[4], $v[5], $v[6]), $mesh->vertex($v[7], $v[8], $v[9])]);
            }
        }

        return $mesh->file();
    }

    /** @param  resource  $in */
    private static function text($in, string $name): MeshFile
    {
        $mesh = new MeshBuilder($name, true);
        $corners = [];
        $ended = false;
        while (($line = fgets($in, 4096)) !== false) {
            $part = preg_split('/\s+/', trim($line)) ?: [''];
            $word = strtolower($part[0]);
            if ($word === 'vertex') {
                if (count($part) < 4 || ! is_numeric($part[1]) || ! is_numeric($part[2]) || ! is_numeric($part[3])) {
                    throw Problem::inFile($name.' has a point whose coordinates are not numbers.', 'Export it again.');
                }
                $corners[] = $mesh->vertex((float) $part[1], (float) $part[2], (float) $part[3]);
            } elseif ($word === 'endfacet') {
                if (count($corners) !== 3) {
                    throw Problem::inFile($name.' has a facet that is not a triangle.', 'The file is damaged; export it again.');
                }
                $mesh->polygon($corners);
                $corners = [];
            } elseif ($word === 'endsolid') {
                $ended = true;
            }
        }
        if (! $ended || $corners !== []) {
            throw Problem::inFile($name.' breaks off before its end.', 'The file is cut off; export it again.');
        }

        return $mesh->file();
    }
}
