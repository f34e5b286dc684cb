<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** PLY in all three encodings; x, y, z of the vertices and the corner lists of the faces. */
final class PlyReader
{
    private const SIZE = [
        'char' => 1, 'int8' => 1, 'uchar' => 1, 'uint8' => 1, 'short' => 2, 'int16' => 2, 'ushort' => 2, 'uint16' => 2, 'int' => 4, 'int32' => 4,
        'uint' => 4, 'uint32' => 4, 'float' => 4, 'float32' => 4, 'double' => 8, 'float64' => 8,
    ];

    private const MOST_PROPERTIES = 200;

    private const LONGEST_LIST = 4 * MeshBuilder::MOST_CORNERS;

    /** unpack codes, little-endian then big-endian; signed ones are mended after */
    private const CODE = [
        'char' => 'cc', 'int8' => 'cc', 'uchar' => 'CC', 'uint8' => 'CC', 'short' => 'vn', 'int16' => 'vn', 'ushort' => 'vn', 'uint16' => 'vn',
        'int' => 'VN', 'int32' => 'VN', 'uint' => 'VN', 'uint32' => 'VN', 'float' => 'gG', 'float32' => 'gG', 'double' => 'eE', 'float64' => 'eE',
    ];

    /** @param  resource  $in */
    public static function read($in, string $name): MeshFile
    {
        if (trim((string) fgets($in, 64)) !== 'ply') {
            throw Problem::inFile($name.' does not begin like a PLY file.', 'Check that the ending matches the content.');
        }
        [$encoding, $elements] = self::header($in, $name);
        if (! in_array($encoding, ['ascii', 'binary_little_endian', 'binary_big_endian'], true)) {
            throw Problem::inFile($name.' has the unknown encoding "'.mb_substr(Text::of($encoding), 0, 30).'".', 'Export it as ascii or binary PLY.');
        }
        $left = (int) (fstat($in)['size'] ?? 0) - (int) ftell($in);
        foreach ($elements as $e) {
            $least = $encoding === 'ascii'
                ? 2 * count($e['properties'])
                : array_sum(array_map(
                    static fn (array $p): int => $p['types'][0] === 'list' ? self::SIZE[$p['types'][1]] : self::SIZE[$p['types'][0]],
                    $e['properties'],
                ));
            if ($e['count'] < 0 || $least > 0 && $e['count'] > ($left + 2) / $least) {
                throw Problem::inFile(
                    sprintf(
                        '%s says it holds %s %s entries, more than the file has room for.',
                        $name,
                        number_format($e['count']),
                        mb_substr(Text::of($e['name']), 0, 20),
                    ),
                    'The file is cut off; export it again.',
                );
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
            if ($e['properties'] === []) {
                continue;
            }
            if ($e['name'] === 'vertex') {
                foreach ($at as $column) {
                    if ($column === false || $e['properties'][$column]['types'][0] === 'list') {
                        throw Problem::inFile($name.' has points without x, y and z.', 'Export it again as ordinary PLY.');
                    }
                }
                // A place in a picture is two numbers.
                if ($u === false || $v === false || $e['properties'][$u]['types'][0] === 'list' || $e['properties'][$v]['types'][0] === 'list') {
                    $u = $v = false;
                }
            } else {
                $list = $list !== false && $e['properties'][$list]['types'][0] === 'list' ? $list : false;
                $places = $places !== false && $e['properties'][$places]['types'][0] === 'list' ? $places : false;
            }
            for ($i = 0; $i < $e['count']; $i++) {
                $row = [];
                foreach ($e['properties'] as $p) {
                    if ($p['types'][0] === 'list') {
                        $n = (int) $next($p['types'][1]);
                        if ($n < 0 || $n > self::LONGEST_LIST) {
                            throw Problem::inFile($name.' has a list of '.number_format($n).' numbers.', 'The file is damaged; export it again.');
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
                        $byPoint[] = [self::finite($row[$u]), self::finite($row[$v])];
                    }
                } elseif ($e['name'] === 'face' && $list !== false) {
                    $corners = array_map(static fn (int|float $c): int => is_finite((float) $c) && abs($c) < 1e15 ? (int) $c : -1, $row[$list]);
                    // Places of their own for the corners of a face go before those of its points.
                    $own = $places === false || count($row[$places]) !== 2 * count($corners)
                        ? null
                        : array_map(static fn (array $p): array => [self::finite($p[0]), self::finite($p[1])], array_chunk($row[$places], 2));
                    $mesh->polygon(
                        $corners,
                        uvs: $own ?? ($byPoint === [] ? null : array_map(static fn (int $c): array => $byPoint[$c] ?? [0.0, 0.0], $corners)),
                    );
                }
            }
        }

        return $mesh->file();
    }

    /**
     * @param  resource  $in
     * @return array{string, list<array{name: string, count: int, properties: list<array{name: string, types: list<string>}>}>} encoding, and what is to come
     */
    private static function header($in, string $name): array
    {
        $encoding = '';
        $elements = [];
        $properties = 0;
        while (true) {
            $line = fgets($in, 4096);
            if ($line === false) {
                throw Problem::inFile($name.' breaks off within its header.', 'The file is cut off; export it again.');
            }
            $part = preg_split('/\s+/', trim($line)) ?: [''];
            if ($part[0] === 'format') {
                $encoding = $part[1] ?? '';
            } elseif ($part[0] === 'element') {
                $count = $part[2] ?? '0';
                $elements[] = ['name' => $part[1] ?? '', 'count' => is_numeric($count) && abs((float) $count) < 1e15 ? (int) $count : -1, 'properties' => []];
            } elseif ($part[0] === 'property' && $elements !== []) {
                $elements[count($elements) - 1]['properties'][] = self::property($part, $name);
                $properties++;
            } elseif ($part[0] === 'end_header') {
                return [$encoding, $elements];
            }
            if (count($elements) + $properties > self::MOST_PROPERTIES) {
                throw Problem::inFile($name.' tells of more than '.self::MOST_PROPERTIES.' properties.', 'Export it again as ordinary PLY.');
            }
        }
    }

    /**
     * @param  list<string>  $part
     * @return array{name: string, types: list<string>} one type, or "list" and those of its length and its numbers
     */
    private static function property(array $part, string $name): array
    {
        $types = array_slice($part, 1, -1);
        foreach ($types as $type) {
            if ($type !== 'list' && ! isset(self::SIZE[$type])) {
                throw Problem::inFile($name.' uses the unknown number type "'.mb_substr(Text::of($type), 0, 20).'".', 'Export it again as ordinary PLY.');
            }
        }
        $lists = array_keys($types, 'list', true);
        if ($lists === [] && count($types) === 1 || $lists === [0] && count($types) === 3) {
            return ['name' => $part[count($part) - 1], 'types' => $types];
        }
        throw Problem::inFile($name.' has a property that is neither a number nor a list.', 'Export it again as ordinary PLY.');
    }

    private static function finite(int|float $value): float
    {
        return is_finite((float) $value) ? (float) $value : 0.0;
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
                throw Problem::inFile($name.' has "'.mb_substr(Text::of($word), 0, 20).'" where a number should be.', 'The file is damaged; export it again.');
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
