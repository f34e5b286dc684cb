<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Cut;

use YardBreak\Core\Geometry\BoxProjection;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;

/**
 * Makes a piece of a cut into a mesh of its own: outer faces shaded exactly as the solid was, walls flat.
 */
final class ShardMesher
{
    /** @var list<float> of the solid, nine numbers a face */
    private readonly array $normals;

    public function __construct(private readonly Cut $cut, private readonly UnitFrame $frame)
    {
        $this->normals = $frame->solid->normals ?? FaceNormals::flat($frame->solid);
    }

    /**
     * @param  list<int>  $part  face numbers within the cell
     * @param  bool  $closed  whether the piece must be
     *
     * @throws \UnexpectedValueException where it is not, and must be
     */
    public function mesh(int $cell, array $part, bool $closed = true): Mesh
    {
        $cellFaces = $this->cut->faces[$cell];
        $origins = $this->cut->origins[$cell];
        $px = $this->cut->px;
        $py = $this->cut->py;
        $pz = $this->cut->pz;
        $solid = $this->frame->solid;
        $ox = $solid->x;
        $oy = $solid->y;
        $oz = $solid->z;
        $original = count($ox);
        $sourceFaces = $solid->faces;
        $sourceNormals = $this->normals;
        $walls = $this->cut->walls;
        $k = $this->frame->scale;
        $centre = $this->frame->centre;
        $touching = false;
        $sourceUvs = $solid->uvs;
        $uvs = $rim = [];
        $sourceRim = $solid->rim;
        $plain = $sourceUvs === null && $sourceRim === null;
        $x = $y = $z = $faces = $normals = $sides = $local = $edges = [];
        $at = 0;
        $held = -1;
        $ax = $ay = $az = $ex = $ey = $ez = $fx = $fy = $fz = $ee = $ef = $ff = $det = 0.0;
        foreach ($part as $f) {
            for ($c = 3 * $f; $c < 3 * $f + 3; $c++) {
                $p = $cellFaces[$c];
                if (! isset($local[$p])) {
                    $local[$p] = count($x);
                    if ($p < $original) {
                        $x[] = $ox[$p];
                        $y[] = $oy[$p];
                        $z[] = $oz[$p];
                    } else {
                        $x[] = $px[$p] * $k + $centre->x;
                        $y[] = $py[$p] * $k + $centre->y;
                        $z[] = $pz[$p] * $k + $centre->z;
                    }
                }
                $faces[] = $local[$p];
            }
            $a = $faces[$at];
            $b = $faces[$at + 1];
            $c = $faces[$at + 2];
            $at += 3;
            $touching = $touching || isset($edges[($a << 31) | $b]) || isset($edges[($b << 31) | $c]) || isset($edges[($c << 31) | $a]);
            $edges[($a << 31) | $b] = $edges[($b << 31) | $c] = $edges[($c << 31) | $a] = true;
            $from = $origins[$f];
            if ($from < 0) {
                $wall = ~$from;
                [$nx, $ny, $nz] = $walls[$wall >> 1];
                if ($nx === 0.0 && $ny === 0.0 && $nz === 0.0) {
                    [$nx, $ny, $nz] = self::flatNormal($x, $y, $z, $a, $b, $c, $wall & 1);
                }
                if (($wall & 1) === 1) {
                    $nx = -$nx;
                    $ny = -$ny;
                    $nz = -$nz;
                }
                for ($i = 0; $i < 3; $i++) {
                    $normals[] = $nx;
                    $normals[] = $ny;
                    $normals[] = $nz;
                }
                $sides[] = Mesh::INNER;
                if ($sourceRim !== null) {
                    array_push($rim, 0.0, 0.0, 0.0);
                }
                if ($sourceUvs !== null) {
                    array_push($uvs, ...BoxProjection::face($x, $y, $z, $a, $b, $c));
                }

                continue;
            }
            $sides[] = ($this->cut->sides[$cell][$f] ?? 0) ?: $solid->sides[$from] ?? Mesh::OUTER;
            if (
                $plain
                && $cellFaces[3 * $f] === $sourceFaces[3 * $from]
                && $cellFaces[3 * $f + 1] === $sourceFaces[3 * $from + 1]
                && $cellFaces[3 * $f + 2] === $sourceFaces[3 * $from + 2]
            ) {
                // Most faces are not cut, and keep what they have.
                for ($c = 9 * $from, $end = $c + 9; $c < $end; $c++) {
                    $normals[] = $sourceNormals[$c];
                }

                continue;
            }
            $i0 = $sourceFaces[3 * $from];
            $i1 = $sourceFaces[3 * $from + 1];
            if ($from !== $held) {
                // Its two sides, for the barycentric coordinates of points within.
                $held = $from;
                $i2 = $sourceFaces[3 * $from + 2];
                $ax = $px[$i0];
                $ay = $py[$i0];
                $az = $pz[$i0];
                $ex = $px[$i1] - $ax;
                $ey = $py[$i1] - $ay;
                $ez = $pz[$i1] - $az;
                $fx = $px[$i2] - $ax;
                $fy = $py[$i2] - $ay;
                $fz = $pz[$i2] - $az;
                $ee = $ex * $ex + $ey * $ey + $ez * $ez;
                $ef = $ex * $fx + $ey * $fy + $ez * $fz;
                $ff = $fx * $fx + $fy * $fy + $fz * $fz;
                $det = $ee * $ff - $ef * $ef;
            }
            for ($c = 0; $c < 3; $c++) {
                $p = $cellFaces[3 * $f + $c];
                $v = $w = 0.0;
                if ($p >= $original) {
                    if ($det > 0.0) {
                        $gx = $px[$p] - $ax;
                        $gy = $py[$p] - $ay;
                        $gz = $pz[$p] - $az;
                        $ge = $gx * $ex + $gy * $ey + $gz * $ez;
                        $gf = $gx * $fx + $gy * $fy + $gz * $fz;
                        $v = ($ge * $ff - $gf * $ef) / $det;
                        $w = ($gf * $ee - $ge * $ef) / $det;
                    }
                } elseif ($p === $i1) {
                    $v = 1.0;
                } elseif ($p !== $i0) {
                    $w = 1.0;
                }
                $t = 1.0 - $v - $w;
                $base = 9 * $from;
                $nx = $t * $sourceNormals[$base] + $v * $sourceNormals[$base + 3] + $w * $sourceNormals[$base + 6];
                $ny = $t * $sourceNormals[$base + 1] + $v * $sourceNormals[$base + 4] + $w * $sourceNormals[$base + 7];
                $nz = $t * $sourceNormals[$base + 2] + $v * $sourceNormals[$base + 5] + $w * $sourceNormals[$base + 8];
                if ($p >= $original) {
                    $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                    $l = $l > 0.0 ? 1.0 / $l : 0.0;
                    $nx *= $l;
                    $ny *= $l;
                    $nz *= $l;
                }
                $normals[] = $nx;
                $normals[] = $ny;
                $normals[] = $nz;
                if ($sourceRim !== null) {
                    $rim[] = $t * $sourceRim[3 * $from] + $v * $sourceRim[3 * $from + 1] + $w * $sourceRim[3 * $from + 2];
                }
                if ($sourceUvs !== null) {
                    $base = 6 * $from;
                    $uvs[] = $t * $sourceUvs[$base] + $v * $sourceUvs[$base + 2] + $w * $sourceUvs[$base + 4];
                    $uvs[] = $t * $sourceUvs[$base + 1] + $v * $sourceUvs[$base + 3] + $w * $sourceUvs[$base + 5];
                }
            }
        }
        foreach ($closed ? $edges : [] as $edge => $_) {
            if (! isset($edges[(($edge & 0x7FFFFFFF) << 31) | ($edge >> 31)])) {
                throw new \UnexpectedValueException('open edge');
            }
        }

        $mesh = new Mesh($x, $y, $z, $faces, $normals, $sides, $sourceUvs === null ? null : $uvs, $sourceRim === null ? null : $rim);

        return $touching ? TouchingEdges::parted($mesh) : $mesh;
    }

    /**
     * The normal of a triangle, turned as for the first side of a wall.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{float, float, float}
     */
    private static function flatNormal(array $x, array $y, array $z, int $a, int $b, int $c, int $side): array
    {
        [$nx, $ny, $nz] = FaceNormals::ofFace($x, $y, $z, $a, $b, $c);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        if ($l === 0.0) {
            return [0.0, 1.0, 0.0];
        }
        $k = $side === 1 ? -1.0 / $l : 1.0 / $l;

        return [$k * $nx, $k * $ny, $k * $nz];
    }
}
