<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** Opens a mesh file by its name's ending. */
final class MeshReader
{
    public const KINDS = ['obj' => ObjReader::class, 'stl' => StlReader::class, 'ply' => PlyReader::class, 'glb' => GlbReader::class];

    /**
     * @param  string  $as  the name the artist knows the file by
     *
     * @throws Problem where the file cannot be read, in words
     */
    public static function read(string $path, ?string $as = null): MeshFile
    {
        $as = Text::of($as ?? basename($path));
        $kind = strtolower(pathinfo($as, PATHINFO_EXTENSION));
        $reader = self::KINDS[$kind]
            ?? throw Problem::inFile(sprintf('"%s" is not a kind of file that can be brought in.', mb_substr($as, -60)), 'Use OBJ, STL, PLY or GLB.');
        if (! is_file($path)) {
            throw Problem::inFile('There is no file '.$as.'.', 'Check the name and the folder.');
        }
        if (filesize($path) === 0) {
            throw Problem::inFile($as.' is empty.', 'Export it again.');
        }
        $in = @fopen($path, 'rb');
        if ($in === false) {
            throw Problem::inFile($as.' cannot be opened for reading.', 'Check its permissions.');
        }
        try {
            return $reader::read($in, $as);
        } finally {
            fclose($in);
        }
    }
}
