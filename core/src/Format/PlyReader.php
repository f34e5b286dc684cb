<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** PLY in all three encodings; x, y, z of the vertices and the corner lists of the faces. */
final class PlyReader
{
    private const SIZE = ['char' => 1, 'int8' => 1, 'uchar' => 1, 'uint8' => 1, 'short' => 2, 'int16' => 2, 'ushort' => 2, 'uint16' => 2, 'int' => 4, 'int32' => 4, 'uint' => 4, 'uint32' => 4, 'float' => 4, 'float32' => 4, 'double' => 8, 'float64' => 8];

    /** unpack codes, little-endian then big-endian; signed ones are mended after */
    private const CODE = ['char' => 'cc', 'int8' => 'cc', 'uchar' => 'CC', 'uint8' => 'CC', 'short' => 'vn', 'int16' => 'vn', 'ushort' => 'vn', 'uint16' => 'vn', 'int' => 'VN', 'int32' => 'VN', 'uint' => 'VN', 'uint32' => 'VN', 'float' => 'gG', 'float32' => 'gG', 'double' => 'eE', 'float64' => 'eE'];

    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        if (trim((string) fgets($in, 64)) !== 'ply') {
            throw Problem::inFile($name.' does not begin like a PLY file.', 'Check that the ending matches the content.');
        }
        $encoding = '';
        $elements = [];
        while (true) {
            $line = fgets($in, 4096);
            if ($line === false) {
                throw Problem::inFile($name.' breaks off within its header.', 'The file is cut off; export it again.');
            }
            $part = preg_split('/\s+/', trim($line)) ?: [''];
            if ($part[0] === 'format') {
                $encoding = $part[1] ?? '';
            } elseif ($part[0] === 'element') {
                $elements[] = ['name' => $part[1] ?? '', 'count' => (int) ($part[2] ?? 0), 'properties' => []];
            } elseif ($part[0] === 'property' && $elements !== []) {
                $types = array_slice($part, 1, -1);
                foreach ($types as $type) {
                    if ($type !== 'list' && ! isset(self::SIZE[$type])) {
                        throw Problem::inFile($name.' uses the unknown number type "'.mb_substr($type, 0, 20).'".', 'Export it again as ordinary PLY.');
                    }
                }
                $elements[count($elements) - 1]['properties'][] = ['name' => $part[count($part) - 1], 'types' => $types];
            } elseif ($part[0] === 'end_header') {
                break;
            }
        }
        if (! in_array($encoding, ['ascii', 'binary_little_endian', 'binary_big_endian'], true)) {
            throw Problem::inFile($name.' has the unknown encoding "'.mb_substr($encoding, 0, 30).'".', 'Export it as ascii or binary PLY.');
        }
        $left = (int) (fstat($in)['size'] ?? 0) - (int) ftell($in);
        foreach ($elements as $e) {
            $least = $encoding === 'ascii' ? 2 : array_sum(array_map(static fn (array $p): int => $p['types'][0] === 'list' ? self::SIZE[$p['types'][1]] : self::SIZE[$p['types'][0]], $e['properties']));
            if ($e['count'] < 0 || $left + 2 < $e['count'] * $least) {
                throw Problem::inFile(sprintf('%s says it holds %s %s entries, more than the file has room for.', $name, number_format($e['count']), $e['name']), 'The file is cut off; export it again.');
            }
        }
        $next = $encoding === 'ascii' ? self::words($in, $name) : self::bytes($in, $name, $encoding === 'binary_little_endian' ? 0 : 1);
        $mesh = new MeshBuilder($name);
        $byPoint = [];
        foreach ($elements as $e) {
            $names = array_column($e['properties'], 'name');
            $at = [array_search('x', $names, true), array_search('y', $names, true), array_search('z', $names, true)];
            $list = self::column($names, 'vertex_indices', 'vertex_index');
            $places = self::column($names, 'texcoord');
            $u = self::column($names, 's', 'u', 'texture_u');
            $v = self::column($names, 't', 'v', 'texture_v');
            if ($e['name'] === 'vertex' && in_array(false, $at, true)) {
                throw Problem::inFile($name.' has points without x, y and z.', 'Export it again as ordinary PLY.');
            }
            for ($i = 0; $i < $e['count']; $i++) {
                $row = [];
                foreach ($e['properties'] as $p) {
                    if ($p['types'][0] === 'list') {
                        $n = (int) $next($p['types'][1]);
                        if ($n < 0 || $n > 100000) {
                            throw Problem::inFile($name.' has a face with '.$n.' corners.', 'The file is damaged; export it again.');
                        }
                        $values = [];
                        for ($k = 0; $k < $n; $k++) {
                            $values[] = $next($p['types'][2]);
                        }
                        $row[] = $values;
                    } else {
                        $row[] = $next($p['types'][0]);
                    }
                }
                if ($e['name'] === 'vertex') {
                    $mesh->vertex((float) $row[$at[0]], (float) $row[$at[1]], (float) $row[$at[2]]);
                    if ($u !== false && $v !== false) {
                        $byPoint[] = [(float) $row[$u], (float) $row[$v]];
                    }
                } elseif ($e['name'] === 'face' && $list !== false) {
                    $corners = array_map(static fn (int|float $c): int => (int) $c, $row[$list]);
                    // Places of their own for the corners of a face go before those of its points.
                    $own = $places === false || count($row[$places]) !== 2 * count($corners) ? null : array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], array_chunk($row[$places], 2));
                    $mesh->polygon($corners, uvs: $own ?? ($byPoint === [] ? null : array_map(static fn (int $c): array => $byPoint[$c] ?? [0.0, 0.0], $corners)));
                }
            }
        }

        return $mesh->file();
    }

    /**
     * @param  list<string>  $names
     * @return int|false the column that has one of these names
     */
    private static function column(array $names, string ...$wanted): int|false
    {
        foreach ($wanted as $name) {
            $at = array_search($name, $names, true);
            if ($at !== false) {
                return $at;
            }
        }

        return false;
    }

    /**
     * @param  resource  $in
     * @return \Closure(string): (int|float)
     */
    private static function words($in, string $name): \Closure
    {
        $words = [];
        $at = 0;

        return static function (string $type) use ($in, $name, &$words, &$at): int|float {
            while ($at >= count($words)) {
                $line = fgets($in, 1 << 20);
                if ($line === false) {
                    throw Problem::inFile($name.' breaks off before its end.', 'The file is cut off; export it again.');
                }
                $words = preg_split('/\s+/', trim($line), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                $at = 0;
            }
            $word = $words[$at++];
            if (! is_numeric($word)) {
                throw Problem::inFile($name.' has "'.mb_substr($word, 0, 20).'" where a number should be.', 'The file is damaged; export it again.');
            }

            return $word + 0;
        };
    }

    /**
     * @param  resource  $in
     * @return \Closure(string): (int|float)
     */
    private static function bytes($in, string $name, int $order): \Closure
    {
        $buffer = '';
        $at = 0;

        return static function (string $type) use ($in, $name, $order, &$buffer, &$at): int|float {
            $size = self::SIZE[$type];
            if ($at + $size > strlen($buffer)) {
                $buffer = substr($buffer, $at).fread($in, 1 << 16);
                $at = 0;
                if ($size > strlen($buffer)) {
                    throw Problem::inFile($name.' breaks off before its end.', 'The file is cut off; export it again.');
                }
            }
            $value = (unpack(self::CODE[$type][$order], $buffer, $at) ?: [1 => 0])[1];
            $at += $size;
            if (($type === 'int' || $type === 'int32') && $value >= 1 << 31) {
                $value -= 1 << 32;
            } elseif (($type === 'short' || $type === 'int16') && $value >= 1 << 15) {
                $value -= 1 << 16;
            }

            return $value;
        };
    }
}
