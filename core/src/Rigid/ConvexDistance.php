<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Hull;

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

    /** Shares of a triangle's corners in its point nearest the origin. */
    private float $wa = 0.0;

    private float $wb = 0.0;

    private float $wc = 0.0;

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
        // The simplex, corner pairs and their differences, in plain variables: arrays would take most of the time.
        $n = count($simplex) >> 1;
        $p0 = $simplex[0];
        $q0 = $simplex[1];
        $x0 = $x[$p0] - $x[$q0];
        $y0 = $y[$p0] - $y[$q0];
        $z0 = $z[$p0] - $z[$q0];
        $p1 = $q1 = $p2 = $q2 = $p3 = $q3 = -1;
        $x1 = $y1 = $z1 = $x2 = $y2 = $z2 = $x3 = $y3 = $z3 = 0.0;
        if ($n > 1) {
            $p1 = $simplex[2];
            $q1 = $simplex[3];
            $x1 = $x[$p1] - $x[$q1];
            $y1 = $y[$p1] - $y[$q1];
            $z1 = $z[$p1] - $z[$q1];
            if ($n > 2) {
                $p2 = $simplex[4];
                $q2 = $simplex[5];
                $x2 = $x[$p2] - $x[$q2];
                $y2 = $y[$p2] - $y[$q2];
                $z2 = $z[$p2] - $z[$q2];
            }
        }
        $la = 1.0;
        $lb = $lc = 0.0;
        $best = INF;
        $far = $px = $py = $pz = $d2 = 0.0;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            if ($n > 2) {
                $taken = $n === 3 ? $this->nearestOfTriangle($x0, $y0, $z0, $x1, $y1, $z1, $x2, $y2, $z2) : $this->nearestFace($x0, $y0, $z0, $x1, $y1, $z1, $x2, $y2, $z2, $x3, $y3, $z3);
                $la = $this->wa;
                $lb = $this->wb;
                $lc = $this->wc;
                if ($taken < 0) {
                    $this->overlap($set, [$p0, $p1, $p2, $p3], [$q0, $q1, $q2, $q3]);
                    $this->simplex = [$p0, $q0];

                    return;
                }
                if ($taken === 1) {
                    $p2 = $p3;
                    $q2 = $q3;
                    $x2 = $x3;
                    $y2 = $y3;
                    $z2 = $z3;
                } elseif ($taken === 2) {
                    $p0 = $p3;
                    $q0 = $q3;
                    $x0 = $x3;
                    $y0 = $y3;
                    $z0 = $z3;
                } elseif ($taken === 3) {
                    $p1 = $p3;
                    $q1 = $q3;
                    $x1 = $x3;
                    $y1 = $y3;
                    $z1 = $z3;
                }
                $n = 3;
            } elseif ($n === 2) {
                $ux = $x1 - $x0;
                $uy = $y1 - $y0;
                $uz = $z1 - $z0;
                $l = $ux * $ux + $uy * $uy + $uz * $uz;
                $lb = $l > 0.0 ? -($x0 * $ux + $y0 * $uy + $z0 * $uz) / $l : 0.0;
                $lb = $lb < 0.0 ? 0.0 : ($lb > 1.0 ? 1.0 : $lb);
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
                    $p1 = $p2;
                    $q1 = $q2;
                    $x1 = $x2;
                    $y1 = $y2;
                    $z1 = $z2;
                    $lb = $lc;
                    $lc = 0.0;
                    $n = 2;
                } elseif ($la <= 0.0) {
                    $p0 = $p2;
                    $q0 = $q2;
                    $x0 = $x2;
                    $y0 = $y2;
                    $z0 = $z2;
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
                    $p0 = $p1;
                    $q0 = $q1;
                    $x0 = $x1;
                    $y0 = $y1;
                    $z0 = $z1;
                    $la = 1.0;
                    $lb = 0.0;
                    $n = 1;
                }
            }
            $px = $la * $x0 + $lb * $x1 + $lc * $x2;
            $py = $la * $y0 + $lb * $y1 + $lc * $y2;
            $pz = $la * $z0 + $lb * $z1 + $lc * $z2;
            $d2 = $px * $px + $py * $py + $pz * $pz;
            if ($d2 < 1e-16) {
                $this->overlap($set, [], []);
                $this->simplex = [$p0, $q0];

                return;
            }
            if ($d2 >= $best) {
                break;
            }
            $best = $d2;
            // Supports: the first hull against the point's direction, the second along it.
            $p = $p0;
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
            $q = $q0;
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
            if (($p === $p0 && $q === $q0) || ($n > 1 && (($p === $p1 && $q === $q1) || ($n > 2 && $p === $p2 && $q === $q2)))) {
                break;
            }
            if ($n === 1) {
                $p1 = $p;
                $q1 = $q;
                $x1 = $wx;
                $y1 = $wy;
                $z1 = $wz;
            } elseif ($n === 2) {
                $p2 = $p;
                $q2 = $q;
                $x2 = $wx;
                $y2 = $wy;
                $z2 = $wz;
            } else {
                $p3 = $p;
                $q3 = $q;
                $x3 = $wx;
                $y3 = $wy;
                $z3 = $wz;
            }
            $n++;
        }
        if ($round === self::ROUNDS && $n > 1) {
            // The last corner came too late to count.
            $n--;
        }
        $d = sqrt($px * $px + $py * $py + $pz * $pz);
        if ($d < 1e-9) {
            $this->overlap($set, [], []);
            $this->simplex = [$p0, $q0];

            return;
        }
        $ax = $la * $x[$p0];
        $ay = $la * $y[$p0];
        $az = $la * $z[$p0];
        if ($n === 1) {
            $this->simplex = [$p0, $q0];
        } else {
            $ax += $lb * $x[$p1];
            $ay += $lb * $y[$p1];
            $az += $lb * $z[$p1];
            if ($n === 2) {
                $this->simplex = [$p0, $q0, $p1, $q1];
            } else {
                $ax += $lc * $x[$p2];
                $ay += $lc * $y[$p2];
                $az += $lc * $z[$p2];
                $this->simplex = [$p0, $q0, $p1, $q1, $p2, $q2];
            }
        }
        $this->gap = $far > 0.0 ? $far : $d;
        $this->nx = -$px / $d;
        $this->ny = -$py / $d;
        $this->nz = -$pz / $d;
        $this->ax = $ax;
        $this->ay = $ay;
        $this->az = $az;
    }

    /**
     * The shares of a triangle's corners in its point nearest the origin, as of `nearestOf`.
     *
     * @return int 0; −1 where that cannot be told
     */
    private function nearestOfTriangle(float $ax, float $ay, float $az, float $bx, float $by, float $bz, float $cx, float $cy, float $cz): int
    {
        return $this->nearestOf($ax, $ay, $az, $bx, $by, $bz, $cx, $cy, $cz) < INF ? 0 : -1;
    }

    /**
     * Of a tetrahedron the three faces at its newest corner, the fourth, where the origin lies beyond them: that which is
     * nearest to it, with its shares as of `nearestOf`.
     *
     * @return int 1 where the newest corner takes the place of the third, 2 of the first, 3 of the second; −1 where the origin is within
     */
    private function nearestFace(
        float $x0, float $y0, float $z0, float $x1, float $y1, float $z1, float $x2, float $y2, float $z2, float $x3, float $y3, float $z3,
    ): int {
        $nearest = INF;
        $taken = -1;
        $la = $lb = $lc = 0.0;
        for ($f = 1; $f <= 3; $f++) {
            $ax = $x0;
            $ay = $y0;
            $az = $z0;
            $bx = $x1;
            $by = $y1;
            $bz = $z1;
            $cx = $x2;
            $cy = $y2;
            $cz = $z2;
            if ($f === 1) {
                $cx = $x3;
                $cy = $y3;
                $cz = $z3;
                $ox = $x2;
                $oy = $y2;
                $oz = $z2;
            } elseif ($f === 2) {
                $ax = $x3;
                $ay = $y3;
                $az = $z3;
                $ox = $x0;
                $oy = $y0;
                $oz = $z0;
            } else {
                $bx = $x3;
                $by = $y3;
                $bz = $z3;
                $ox = $x1;
                $oy = $y1;
                $oz = $z1;
            }
            $ux = $bx - $ax;
            $uy = $by - $ay;
            $uz = $bz - $az;
            $vx = $cx - $ax;
            $vy = $cy - $ay;
            $vz = $cz - $az;
            $mx = $uy * $vz - $uz * $vy;
            $my = $uz * $vx - $ux * $vz;
            $mz = $ux * $vy - $uy * $vx;
            $in = ($ox - $ax) * $mx + ($oy - $ay) * $my + ($oz - $az) * $mz;
            if ($in * ($ax * $mx + $ay * $my + $az * $mz) < 0.0) {
                continue;
            }
            $d = $this->nearestOf($ax, $ay, $az, $bx, $by, $bz, $cx, $cy, $cz);
            if ($d < $nearest) {
                $nearest = $d;
                $taken = $f;
                $la = $this->wa;
                $lb = $this->wb;
                $lc = $this->wc;
            }
        }
        $this->wa = $la;
        $this->wb = $lb;
        $this->wc = $lc;

        return $taken;
    }

    /**
     * Square of the distance from the origin to a triangle; the shares of its corners in the nearest point are left
     * in `wa`, `wb` and `wc` (Ericson 2005, "Real-time collision detection", 5.1.5).
     */
    private function nearestOf(
        float $ax, float $ay, float $az, float $bx, float $by, float $bz, float $cx, float $cy, float $cz,
    ): float {
        $ux = $bx - $ax;
        $uy = $by - $ay;
        $uz = $bz - $az;
        $vx = $cx - $ax;
        $vy = $cy - $ay;
        $vz = $cz - $az;
        $d1 = -($ux * $ax + $uy * $ay + $uz * $az);
        $e1 = -($vx * $ax + $vy * $ay + $vz * $az);
        $d3 = -($ux * $bx + $uy * $by + $uz * $bz);
        $e3 = -($vx * $bx + $vy * $by + $vz * $bz);
        $d5 = -($ux * $cx + $uy * $cy + $uz * $cz);
        $e5 = -($vx * $cx + $vy * $cy + $vz * $cz);
        $ka = $d3 * $e5 - $d5 * $e3;
        $kb = $d5 * $e1 - $d1 * $e5;
        $kc = $d1 * $e3 - $d3 * $e1;
        $wa = $wb = $wc = 0.0;
        if ($d1 <= 0.0 && $e1 <= 0.0) {
            $wa = 1.0;
        } elseif ($d3 >= 0.0 && $e3 <= $d3) {
            $wb = 1.0;
        } elseif ($kc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
            $wb = $d1 - $d3 > 0.0 ? $d1 / ($d1 - $d3) : 0.0;
            $wa = 1.0 - $wb;
        } elseif ($e5 >= 0.0 && $d5 <= $e5) {
            $wc = 1.0;
        } elseif ($kb <= 0.0 && $e1 >= 0.0 && $e5 <= 0.0) {
            $wc = $e1 - $e5 > 0.0 ? $e1 / ($e1 - $e5) : 0.0;
            $wa = 1.0 - $wc;
        } elseif ($ka <= 0.0 && $e3 - $d3 >= 0.0 && $d5 - $e5 >= 0.0) {
            $sum = ($e3 - $d3) + ($d5 - $e5);
            $wc = $sum > 0.0 ? ($e3 - $d3) / $sum : 0.0;
            $wb = 1.0 - $wc;
        } else {
            $sum = $ka + $kb + $kc;
            if ($sum > 0.0) {
                $wa = $ka / $sum;
                $wb = $kb / $sum;
                $wc = $kc / $sum;
            } else {
                $wa = 1.0;
            }
        }
        $this->wa = $wa;
        $this->wb = $wb;
        $this->wc = $wc;
        $ux = $wa * $ax + $wb * $bx + $wc * $cx;
        $uy = $wa * $ay + $wb * $by + $wc * $cy;
        $uz = $wa * $az + $wb * $bz + $wc * $cz;

        return $ux * $ux + $uy * $uy + $uz * $uz;
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
        $this->nearestOf($sx[$a], $sy[$a], $sz[$a], $sx[$b], $sy[$b], $sz[$b], $sx[$c], $sy[$c], $sz[$c]);
        [$u, $v, $w] = [$this->wa, $this->wb, $this->wc];
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
}
