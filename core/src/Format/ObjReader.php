<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** Wavefront OBJ, read line by line: v, vn, vt, f (any number of corners, negative indices), o and g. */
final class ObjReader
{
    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        $mesh = new MeshBuilder($name);
        $normals = $places = [];
        $line = 0;
        while (($text = fgets($in, 1 << 20)) !== false) {
            $line++;
            if ($line === 1 && (str_contains($text, "\0") || ! mb_check_encoding(substr($text, 0, 200), 'UTF-8') && ! str_contains($text, '#'))) {
                throw Problem::inFile($name.' is not a text file, so it is no OBJ.', 'Check that the ending matches the content.');
            }
            while (str_ends_with(rtrim($text, "\r\n"), '\\') && ($more = fgets($in, 1 << 20)) !== false) {
                $line++;
                $text = rtrim(rtrim($text, "\r\n"), '\\').' '.$more;
            }
            $part = preg_split('/\s+/', trim($text), -1, PREG_SPLIT_NO_EMPTY);
            if ($part === false || $part === []) {
                continue;
            }
            switch ($part[0]) {
                case 'v':
                    if (count($part) < 4 || ! self::numbers($part, 3)) {
                        throw self::bad($name, $line, 'a point needs three numbers');
                    }
                    $mesh->vertex((float) $part[1], (float) $part[2], (float) $part[3]);
                    break;
                case 'vn':
                    $normals[] = [(float) ($part[1] ?? 0), (float) ($part[2] ?? 0), (float) ($part[3] ?? 0)];
                    break;
                case 'vt':
                    $places[] = [(float) ($part[1] ?? 0), (float) ($part[2] ?? 0)];
                    break;
                case 'f':
                    self::face($mesh, $part, $normals, $places, $name, $line);
                    break;
                case 'o':
                case 'g':
                    $mesh->group(implode(' ', array_slice($part, 1)) ?: 'unnamed');
                    break;
            }
        }

        return $mesh->file();
    }

    /**
     * @param  list<string>  $part
     * @param  list<array{float, float, float}>  $normals
     * @param  list<array{float, float}>  $places
     */
    private static function face(MeshBuilder $mesh, array $part, array $normals, array $places, string $name, int $line): void
    {
        $corners = $shading = $uvs = [];
        for ($i = 1, $n = count($part); $i < $n; $i++) {
            $index = explode('/', $part[$i]);
            if (! is_numeric($index[0]) || (int) $index[0] === 0) {
                throw self::bad($name, $line, 'a face corner must be a whole number other than 0');
            }
            $v = (int) $index[0];
            $v = $v > 0 ? $v - 1 : $mesh->vertexCount() + $v;
            if ($corners === [] || $corners[count($corners) - 1] !== $v) {
                $corners[] = $v;
                if (isset($index[1]) && is_numeric($index[1])) {
                    $k = (int) $index[1];
                    $k = $k > 0 ? $k - 1 : count($places) + $k;
                    if (isset($places[$k])) {
                        $uvs[] = $places[$k];
                    }
                }
                if (isset($index[2]) && is_numeric($index[2])) {
                    $k = (int) $index[2];
                    $k = $k > 0 ? $k - 1 : count($normals) + $k;
                    if (isset($normals[$k])) {
                        $shading[] = $normals[$k];
                    }
                }
            }
        }
        if (count($corners) > 1 && $corners[0] === $corners[count($corners) - 1]) {
            array_pop($corners);
            $shading = array_slice($shading, 0, count($corners));
            $uvs = array_slice($uvs, 0, count($corners));
        }
        $mesh->polygon($corners, count($shading) === count($corners) ? $shading : null, count($uvs) === count($corners) ? $uvs : null);
    }

    /** @param  list<string>  $part */
    private static function numbers(array $part, int $count): bool
    {
        for ($i = 1; $i <= $count; $i++) {
            if (! is_numeric($part[$i])) {
                return false;
            }
        }

        return true;
    }

    private static function bad(string $name, int $line, string $what): Problem
    {
        return Problem::inFile(sprintf('%s, line %d: %s.', $name, $line, $what), 'The file is damaged at that line; export it again.');
    }
}
