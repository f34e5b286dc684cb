<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Problem;

/** Grains as a PLY file of points: binary, little-endian; each with its place, how large it is, how old, and its colour. */
final class PlyGrains
{
    /**
     * @param  int  $count  how many there are
     * @param  iterable<array{float, float, float, float, float, int, int, int}>  $grains  x, y, z and size in metres, age as a share of its life, and red, green and blue, 0…255
     *
     * @throws Problem where the disk does not take it
     */
    public static function write(string $path, int $count, iterable $grains): void
    {
        $out = new FileOutput($path);
        $out->put("ply\nformat binary_little_endian 1.0\ncomment Yard Break dust\nelement vertex $count\n"
            ."property float x\nproperty float y\nproperty float z\nproperty float size\nproperty float age\n"
            ."property uchar red\nproperty uchar green\nproperty uchar blue\nend_header\n");
        foreach ($grains as $grain) {
            $out->put(pack('g5C3', ...$grain));
        }
        $out->close();
    }
}
