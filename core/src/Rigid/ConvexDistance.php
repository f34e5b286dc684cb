<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * Distance between two convex cores: Gilbert, Johnson & Keerthi 1988, with supports found by climbing along
 * hull edges and the simplex of the last query as a start; where the cores overlap, depth and direction of the
 * least overlap.
 *
 * Results are left in the public fields, which saves an array a call.
 */
final class ConvexDistance
{
    private const ROUNDS = 24;

    private const GROWTHS = 40;

    /** Metres between the cores, negative where they overlap. */
    public float $gap = 0.0;

    /** Unit normal from the first core to the second. */
    public float $nx = 0.0;

    public float $ny = 1.0;

    public float $nz = 0.0;

    /** Nearest point on the first core; the second's lies `gap` along the normal. */
    public float $ax = 0.0;

    public float $ay = 0.0;

    public float $az = 0.0;

    /** @var list<int> corner pairs of the last simplex, first and second hull in turn */
    public array $simplex = [];

    /**
     * @param  list<int>  $simplex  of an earlier query, or two corners to start from
     * @param  float  $enough  metres: beyond this the answer may be any distance between this and the true one
     */
    public function between(ColliderSet $set, array $simplex, float $enough): void
    {
        $x = $set->cx;
        $y = $set->cy;
        $z = $set->cz;
        $nextTo = $set->nextTo;
        $neighbour = $set->neighbour;
        $ia = $ib = $sx = $sy = $sz = [];
        for ($k = 0, $n = count($simplex); $k < $n; $k += 2) {
            $p = $simplex[$k];
            $q = $simplex[$k + 1];
            $ia[] = $p;
            $ib[] = $q;
            $sx[] = $x[$p] - $x[$q];
            $sy[] = $y[$p] - $y[$q];
            $sz[] = $z[$p] - $z[$q];
        }
        $n = count($ia);
        $la = 1.0;
        $lb = $lc = 0.0;
        $best = INF;
        $far = 0.0;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            if ($n === 4) {
                // The face of the tetrahedron nearest the origin, if the origin is outside any.
                $nearest = INF;
                $face = -1;
                for ($f = 0; $f < 4; $f++) {
                    $i = $f === 0 ? 1 : 0;
                    $j = $f < 2 ? 2 : 1;
                    $k = $f < 3 ? 3 : 2;
                    $ux = $sx[$j] - $sx[$i];
                    $uy = $sy[$j] - $sy[$i];
                    $uz = $sz[$j] - $sz[$i];
                    $vx = $sx[$k] - $sx[$i];
                    $vy = $sy[$k] - $sy[$i];
                    $vz = $sz[$k] - $sz[$i];
                    $mx = $uy * $vz - $uz * $vy;
                    $my = $uz * $vx - $ux * $vz;
                    $mz = $ux * $vy - $uy * $vx;
                    $in = ($sx[$f] - $sx[$i]) * $mx + ($sy[$f] - $sy[$i]) * $my + ($sz[$f] - $sz[$i]) * $mz;
                    $at = $sx[$i] * $mx + $sy[$i] * $my + $sz[$i] * $mz;
                    if ($in * $at >= 0.0 || $in === 0.0) {
                        [$a, $b, $c] = self::inTriangle($sx[$i], $sy[$i], $sz[$i], $sx[$j], $sy[$j], $sz[$j], $sx[$k], $sy[$k], $sz[$k]);
                        $px = $a * $sx[$i] + $b * $sx[$j] + $c * $sx[$k];
                        $py = $a * $sy[$i] + $b * $sy[$j] + $c * $sy[$k];
                        $pz = $a * $sz[$i] + $b * $sz[$j] + $c * $sz[$k];
                        $d = $px * $px + $py * $py + $pz * $pz;
                        if ($d < $nearest) {
                            $nearest = $d;
                            $face = $f;
                            $la = $a;
                            $lb = $b;
                            $lc = $c;
                        }
                    }
                }
                if ($face === -1) {
                    $this->overlap($set, $ia, $ib);
                    $this->simplex = [$ia[0], $ib[0]];

                    return;
                }
                $i = $face === 0 ? 1 : 0;
                $j = $face < 2 ? 2 : 1;
                $k = $face < 3 ? 3 : 2;
                $ia = [$ia[$i], $ia[$j], $ia[$k]];
                $ib = [$ib[$i], $ib[$j], $ib[$k]];
                $sx = [$sx[$i], $sx[$j], $sx[$k]];
                $sy = [$sy[$i], $sy[$j], $sy[$k]];
                $sz = [$sz[$i], $sz[$j], $sz[$k]];
                $n = 3;
            } elseif ($n === 3) {
                [$la, $lb, $lc] = self::inTriangle($sx[0], $sy[0], $sz[0], $sx[1], $sy[1], $sz[1], $sx[2], $sy[2], $sz[2]);
            } elseif ($n === 2) {
                $ux = $sx[1] - $sx[0];
                $uy = $sy[1] - $sy[0];
                $uz = $sz[1] - $sz[0];
                $l = $ux * $ux + $uy * $uy + $uz * $uz;
                $t = $l > 0.0 ? -($sx[0] * $ux + $sy[0] * $uy + $sz[0] * $uz) / $l : 0.0;
                $lb = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);
                $la = 1.0 - $lb;
                $lc = 0.0;
            } else {
                $la = 1.0;
                $lb = $lc = 0.0;
            }
            // Keep only what the nearest point rests on.
            if ($n === 3) {
                if ($lc <= 0.0) {
                    $n = 2;
                } elseif ($lb <= 0.0) {
                    $ia[1] = $ia[2];
                    $ib[1] = $ib[2];
                    $sx[1] = $sx[2];
                    $sy[1] = $sy[2];
                    $sz[1] = $sz[2];
                    $lb = $lc;
                    $lc = 0.0;
                    $n = 2;
                } elseif ($la <= 0.0) {
                    $ia[0] = $ia[2];
                    $ib[0] = $ib[2];
                    $sx[0] = $sx[2];
                    $sy[0] = $sy[2];
                    $sz[0] = $sz[2];
                    $la = $lc;
                    $lc = 0.0;
                    $n = 2;
                }
            }
            if ($n === 2) {
                if ($lb <= 0.0) {
                    $la = 1.0;
                    $lb = 0.0;
                    $n = 1;
                } elseif ($la <= 0.0) {
                    $ia[0] = $ia[1];
                    $ib[0] = $ib[1];
                    $sx[0] = $sx[1];
                    $sy[0] = $sy[1];
                    $sz[0] = $sz[1];
                    $la = 1.0;
                    $lb = 0.0;
                    $n = 1;
                }
            }
            $px = $la * $sx[0];
            $py = $la * $sy[0];
            $pz = $la * $sz[0];
            if ($n > 1) {
                $px += $lb * $sx[1];
                $py += $lb * $sy[1];
                $pz += $lb * $sz[1];
                if ($n > 2) {
                    $px += $lc * $sx[2];
                    $py += $lc * $sy[2];
                    $pz += $lc * $sz[2];
                }
            }
            $d2 = $px * $px + $py * $py + $pz * $pz;
            if ($d2 < 1e-16) {
                $this->overlap($set, [], []);
                $this->simplex = [$ia[0], $ib[0]];

                return;
            }
            if ($d2 >= $best) {
                break;
            }
            $best = $d2;
            // Supports: the first hull against the point's direction, the second along it.
            $p = $ia[0];
            $top = -($x[$p] * $px + $y[$p] * $py + $z[$p] * $pz);
            do {
                $from = $p;
                for ($k = $nextTo[$from], $end = $nextTo[$from + 1]; $k < $end; $k++) {
                    $v = $neighbour[$k];
                    $s = -($x[$v] * $px + $y[$v] * $py + $z[$v] * $pz);
                    if ($s > $top) {
                        $top = $s;
                        $p = $v;
                    }
                }
            } while ($p !== $from);
            $q = $ib[0];
            $topB = $x[$q] * $px + $y[$q] * $py + $z[$q] * $pz;
            do {
                $from = $q;
                for ($k = $nextTo[$from], $end = $nextTo[$from + 1]; $k < $end; $k++) {
                    $v = $neighbour[$k];
                    $s = $x[$v] * $px + $y[$v] * $py + $z[$v] * $pz;
                    if ($s > $topB) {
                        $topB = $s;
                        $q = $v;
                    }
                }
            } while ($q !== $from);
            $wx = $x[$p] - $x[$q];
            $wy = $y[$p] - $y[$q];
            $wz = $z[$p] - $z[$q];
            $along = $px * $wx + $py * $wy + $pz * $wz;
            if ($d2 - $along <= 1e-6 * $d2) {
                break;
            }
            if ($along > 0.0 && $along * $along > $enough * $enough * $d2) {
                $far = $along / sqrt($d2);
                break;
            }
            $known = false;
            for ($k = 0; $k < $n; $k++) {
                if ($ia[$k] === $p && $ib[$k] === $q) {
                    $known = true;
                }
            }
            if ($known) {
                break;
            }
            $ia[$n] = $p;
            $ib[$n] = $q;
            $sx[$n] = $wx;
            $sy[$n] = $wy;
            $sz[$n] = $wz;
            $n++;
        }
        if ($n > 3) {
            $n = 3;
        }
        $ax = $la * $x[$ia[0]];
        $ay = $la * $y[$ia[0]];
        $az = $la * $z[$ia[0]];
        $px = $la * $sx[0];
        $py = $la * $sy[0];
        $pz = $la * $sz[0];
        if ($n === 1) {
            $this->simplex = [$ia[0], $ib[0]];
        } else {
            $ax += $lb * $x[$ia[1]];
            $ay += $lb * $y[$ia[1]];
            $az += $lb * $z[$ia[1]];
            $px += $lb * $sx[1];
            $py += $lb * $sy[1];
            $pz += $lb * $sz[1];
            if ($n === 2) {
                $this->simplex = [$ia[0], $ib[0], $ia[1], $ib[1]];
            } else {
                $ax += $lc * $x[$ia[2]];
                $ay += $lc * $y[$ia[2]];
                $az += $lc * $z[$ia[2]];
                $px += $lc * $sx[2];
                $py += $lc * $sy[2];
                $pz += $lc * $sz[2];
                $this->simplex = [$ia[0], $ib[0], $ia[1], $ib[1], $ia[2], $ib[2]];
            }
        }
        $d = sqrt($px * $px + $py * $py + $pz * $pz);
        if ($d < 1e-9) {
            $this->overlap($set, [], []);

            return;
        }
        $this->gap = $far > 0.0 ? $far : $d;
        $this->nx = -$px / $d;
        $this->ny = -$py / $d;
        $this->nz = -$pz / $d;
        $this->ax = $ax;
        $this->ay = $ay;
        $this->az = $az;
    }

    /** @var int the colliders of the present query, for the overlap search */
    public int $colliderA = 0;

    public int $colliderB = 0;

    /** @var array<int, float> rotation of each collider's body, row-major, for the overlap search */
    public array $turnA = [];

    /** @var array<int, float> */
    public array $turnB = [];

    /**
     * Depth and direction of least overlap: the difference of the cores is grown from inside, always at the
     * face nearest the origin, until that face lies on its surface (van den Bergen 2001, "Proximity queries and
     * penetration depth computation on 3D game objects").
     *
     * @param  list<int>  $ia  corners of the first core in a tetrahedron that holds the origin; empty where none is known
     * @param  list<int>  $ib  those of the second
     */
    private function overlap(ColliderSet $set, array $ia, array $ib): void
    {
        $cx = $set->cx;
        $cy = $set->cy;
        $cz = $set->cz;
        $corners = count($cx);
        if ($ia === []) {
            [$ia, $ib] = $this->outermost($set);
        }
        $sx = $sy = $sz = $known = [];
        foreach ($ia as $k => $p) {
            $q = $ib[$k];
            $known[$p * $corners + $q] = true;
            $sx[] = $cx[$p] - $cx[$q];
            $sy[] = $cy[$p] - $cy[$q];
            $sz[] = $cz[$p] - $cz[$q];
        }
        $faces = $this->firstFaces($sx, $sy, $sz);
        if ($faces === []) {
            $this->facingOverlap($set);

            return;
        }
        $planes = [];
        foreach ($faces as $f => [$a, $b, $c]) {
            $planes[$f] = Hull::plane($sx, $sy, $sz, $a, $b, $c);
        }
        $enough = 1e-3 * ($set->size[$this->colliderA] < $set->size[$this->colliderB] ? $set->size[$this->colliderA] : $set->size[$this->colliderB]);
        for ($round = 0; ; $round++) {
            $near = -1;
            $least = INF;
            foreach ($planes as $f => $plane) {
                if ($plane[3] < $least) {
                    $least = $plane[3];
                    $near = $f;
                }
            }
            if ($near < 0) {
                $this->facingOverlap($set);

                return;
            }
            [$nx, $ny, $nz, $level] = $planes[$near];
            if ($round === self::GROWTHS) {
                break;
            }
            [$p, $q] = $this->supports($set, $nx, $ny, $nz);
            $x = $cx[$p] - $cx[$q];
            $y = $cy[$p] - $cy[$q];
            $z = $cz[$p] - $cz[$q];
            if ($nx * $x + $ny * $y + $nz * $z - $level < $enough || isset($known[$p * $corners + $q])) {
                break;
            }
            $known[$p * $corners + $q] = true;
            $new = count($sx);
            $ia[] = $p;
            $ib[] = $q;
            $sx[] = $x;
            $sy[] = $y;
            $sz[] = $z;
            $edges = [];
            foreach ($planes as $f => $plane) {
                if ($plane[0] * $x + $plane[1] * $y + $plane[2] * $z - $plane[3] > 1e-12) {
                    [$a, $b, $c] = $faces[$f];
                    foreach ([$a << 12 | $b, $b << 12 | $c, $c << 12 | $a] as $edge) {
                        $back = ($edge & 4095) << 12 | $edge >> 12;
                        if (isset($edges[$back])) {
                            unset($edges[$back]);
                        } else {
                            $edges[$edge] = true;
                        }
                    }
                    unset($faces[$f], $planes[$f]);
                }
            }
            foreach ($edges as $edge => $_) {
                $faces[] = [$edge >> 12, $edge & 4095, $new];
                $planes[] = Hull::plane($sx, $sy, $sz, $edge >> 12, $edge & 4095, $new);
            }
        }
        [$a, $b, $c] = $faces[$near];
        [$u, $v, $w] = self::inTriangle($sx[$a], $sy[$a], $sz[$a], $sx[$b], $sy[$b], $sz[$b], $sx[$c], $sy[$c], $sz[$c]);
        $this->nx = $nx;
        $this->ny = $ny;
        $this->nz = $nz;
        $this->gap = -$level;
        $this->ax = $u * $cx[$ia[$a]] + $v * $cx[$ia[$b]] + $w * $cx[$ia[$c]];
        $this->ay = $u * $cy[$ia[$a]] + $v * $cy[$ia[$b]] + $w * $cy[$ia[$c]];
        $this->az = $u * $cz[$ia[$a]] + $v * $cz[$ia[$b]] + $w * $cz[$ia[$c]];
    }

    /** @return array{list<int>, list<int>} corner pairs of the difference farthest along each axis */
    private function outermost(ColliderSet $set): array
    {
        $ia = $ib = $known = [];
        $corners = count($set->cx);
        foreach ([[1.0, 0.0, 0.0], [-1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, -1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, -1.0]] as [$x, $y, $z]) {
            [$p, $q] = $this->supports($set, $x, $y, $z);
            if (! isset($known[$p * $corners + $q])) {
                $known[$p * $corners + $q] = true;
                $ia[] = $p;
                $ib[] = $q;
            }
        }

        return [$ia, $ib];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<array{int, int, int}> of the points' hull, outwards; none where they lie in a plane
     */
    private function firstFaces(array $x, array $y, array $z): array
    {
        if (count($x) !== 4) {
            try {
                return Hull::triangles($x, $y, $z, 1e-12);
            } catch (\UnexpectedValueException) {
                return [];
            }
        }
        [$nx, $ny, $nz, $level] = Hull::plane($x, $y, $z, 0, 1, 2);
        $side = $nx * $x[3] + $ny * $y[3] + $nz * $z[3] - $level;
        if ($side === 0.0) {
            return [];
        }

        return $side < 0.0 ? [[0, 1, 2], [0, 2, 3], [0, 3, 1], [1, 3, 2]] : [[0, 2, 1], [0, 3, 2], [0, 1, 3], [1, 2, 3]];
    }

    /** @return array{int, int} the first core's corner farthest along a direction, the second's farthest against it */
    private function supports(ColliderSet $set, float $dx, float $dy, float $dz): array
    {
        $x = $set->cx;
        $y = $set->cy;
        $z = $set->cz;
        $p = $q = -1;
        $best = -INF;
        for ($k = $set->first[$this->colliderA], $end = $set->first[$this->colliderA + 1]; $k < $end; $k++) {
            $s = $x[$k] * $dx + $y[$k] * $dy + $z[$k] * $dz;
            if ($s > $best) {
                $best = $s;
                $p = $k;
            }
        }
        $best = INF;
        for ($k = $set->first[$this->colliderB], $end = $set->first[$this->colliderB + 1]; $k < $end; $k++) {
            $s = $x[$k] * $dx + $y[$k] * $dy + $z[$k] * $dz;
            if ($s < $best) {
                $best = $s;
                $q = $k;
            }
        }

        return [$p, $q];
    }

    /** Least overlap among the face normals of both cores, for the rare shapes too flat to grow. */
    private function facingOverlap(ColliderSet $set): void
    {
        $x = $set->cx;
        $y = $set->cy;
        $z = $set->cz;
        $best = -INF;
        for ($side = 0; $side < 2; $side++) {
            $c = $side === 0 ? $this->colliderA : $this->colliderB;
            $m = $side === 0 ? $this->turnA : $this->turnB;
            $other = $side === 0 ? $this->colliderB : $this->colliderA;
            for ($f = $set->firstFace[$c], $end = $set->firstFace[$c + 1]; $f < $end; $f++) {
                $a = $set->faceNormal[3 * $f];
                $b = $set->faceNormal[3 * $f + 1];
                $d = $set->faceNormal[3 * $f + 2];
                $nx = $m[0] * $a + $m[1] * $b + $m[2] * $d;
                $ny = $m[3] * $a + $m[4] * $b + $m[5] * $d;
                $nz = $m[6] * $a + $m[7] * $b + $m[8] * $d;
                $v = $set->loop[$set->loopStart[$f]];
                $level = $x[$v] * $nx + $y[$v] * $ny + $z[$v] * $nz;
                $low = INF;
                $at = -1;
                for ($k = $set->first[$other], $to = $set->first[$other + 1]; $k < $to; $k++) {
                    $s = $x[$k] * $nx + $y[$k] * $ny + $z[$k] * $nz;
                    if ($s < $low) {
                        $low = $s;
                        $at = $k;
                    }
                }
                if ($low - $level > $best) {
                    $best = $low - $level;
                    if ($side === 0) {
                        $this->nx = $nx;
                        $this->ny = $ny;
                        $this->nz = $nz;
                        $this->ax = $x[$at] - $nx * $best;
                        $this->ay = $y[$at] - $ny * $best;
                        $this->az = $z[$at] - $nz * $best;
                    } else {
                        $this->nx = -$nx;
                        $this->ny = -$ny;
                        $this->nz = -$nz;
                        $this->ax = $x[$at];
                        $this->ay = $y[$at];
                        $this->az = $z[$at];
                    }
                }
            }
        }
        $this->gap = $best;
    }

    /**
     * Barycentric weights of the point of a triangle nearest the origin (Ericson 2005, "Real-time collision
     * detection", 5.1.5).
     *
     * @return array{float, float, float}
     */
    private static function inTriangle(float $ax, float $ay, float $az, float $bx, float $by, float $bz, float $cx, float $cy, float $cz): array
    {
        $ux = $bx - $ax;
        $uy = $by - $ay;
        $uz = $bz - $az;
        $vx = $cx - $ax;
        $vy = $cy - $ay;
        $vz = $cz - $az;
        $d1 = -($ux * $ax + $uy * $ay + $uz * $az);
        $d2 = -($vx * $ax + $vy * $ay + $vz * $az);
        if ($d1 <= 0.0 && $d2 <= 0.0) {
            return [1.0, 0.0, 0.0];
        }
        $d3 = -($ux * $bx + $uy * $by + $uz * $bz);
        $d4 = -($vx * $bx + $vy * $by + $vz * $bz);
        if ($d3 >= 0.0 && $d4 <= $d3) {
            return [0.0, 1.0, 0.0];
        }
        $vc = $d1 * $d4 - $d3 * $d2;
        if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
            $t = $d1 - $d3 > 0.0 ? $d1 / ($d1 - $d3) : 0.0;

            return [1.0 - $t, $t, 0.0];
        }
        $d5 = -($ux * $cx + $uy * $cy + $uz * $cz);
        $d6 = -($vx * $cx + $vy * $cy + $vz * $cz);
        if ($d6 >= 0.0 && $d5 <= $d6) {
            return [0.0, 0.0, 1.0];
        }
        $vb = $d5 * $d2 - $d1 * $d6;
        if ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
            $t = $d2 - $d6 > 0.0 ? $d2 / ($d2 - $d6) : 0.0;

            return [1.0 - $t, 0.0, $t];
        }
        $va = $d3 * $d6 - $d5 * $d4;
        if ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
            $e = ($d4 - $d3) + ($d5 - $d6);
            $t = $e > 0.0 ? ($d4 - $d3) / $e : 0.0;

            return [0.0, 1.0 - $t, $t];
        }
        $sum = $va + $vb + $vc;
        if ($sum <= 0.0) {
            return [1.0, 0.0, 0.0];
        }

        return [$va / $sum, $vb / $sum, $vc / $sum];
    }
}
