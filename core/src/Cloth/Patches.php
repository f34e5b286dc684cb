<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/** Points of a weave in patches of some that lie together: where each is, how wide, how it moves, and how far its faces look away from one way. */
final readonly class Patches
{
    /**
     * @param  list<list<int>>  $points  by patch
     * @param  list<int>  $patchOf  by face
     * @param  list<float>  $x  m, middles as made
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $sizes  m, from there to the farthest point
     */
    private function __construct(private Weave $weave, public array $points, private array $patchOf, public array $x, public array $y, public array $z, public array $sizes)
    {
    }

    public static function of(Weave $weave, Levels $levels): self
    {
        $of = $levels->lots[0] ?? array_keys($weave->x);
        $points = [];
        foreach ($of as $i => $patch) {
            $points[$patch][] = $i;
        }
        ksort($points);
        $points = array_values($points);
        $patchOf = [];
        for ($t = 0, $n = count($weave->faces); $t < $n; $t += 3) {
            $patchOf[] = $of[$weave->faces[$t]];
        }
        [$x, $y, $z, $sizes] = self::round($points, $weave->x, $weave->y, $weave->z);

        return new self($weave, $points, $patchOf, $x, $y, $z, $sizes);
    }

    /**
     * @return array{list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>} by
     *   patch: its middle (3), distance of its farthest point from there, rad by which its faces look away from one way at most, that way (3), m/s of its
     *   middle (3), and by how much a point of it goes otherwise at most
     */
    public function now(Sheet $sheet): array
    {
        [$x, $y, $z] = [$sheet->x, $sheet->y, $sheet->z];
        [$mx, $my, $mz, $sizes] = self::round($this->points, $x, $y, $z);
        $faces = $this->weave->faces;
        $nx = $ny = $nz = [];
        $sx = $sy = $sz = array_fill(0, count($this->points), 0.0);
        $t = 0;
        foreach ($this->patchOf as $patch) {
            $a = $faces[$t];
            $b = $faces[$t + 1];
            $c = $faces[$t + 2];
            $t += 3;
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $wx = $x[$c] - $x[$a];
            $wy = $y[$c] - $y[$a];
            $wz = $z[$c] - $z[$a];
            $px = $uy * $wz - $uz * $wy;
            $py = $uz * $wx - $ux * $wz;
            $pz = $ux * $wy - $uy * $wx;
            $l = sqrt($px * $px + $py * $py + $pz * $pz);
            $l = $l > 0.0 ? 1.0 / $l : 0.0;
            $nx[] = $px *= $l;
            $ny[] = $py *= $l;
            $nz[] = $pz *= $l;
            $sx[$patch] += $px;
            $sy[$patch] += $py;
            $sz[$patch] += $pz;
        }
        foreach ($sx as $p => $u) {
            $l = sqrt($u * $u + $sy[$p] ** 2 + $sz[$p] ** 2);
            $l = $l > 0.0 ? 1.0 / $l : 0.0;
            $sx[$p] *= $l;
            $sy[$p] *= $l;
            $sz[$p] *= $l;
        }
        $least = array_fill(0, count($sx), 1.0);
        foreach ($this->patchOf as $f => $patch) {
            $along = $nx[$f] * $sx[$patch] + $ny[$f] * $sy[$patch] + $nz[$f] * $sz[$patch];
            if ($along < $least[$patch]) {
                $least[$patch] = $along;
            }
        }
        $tilts = [];
        foreach ($least as $along) {
            $tilts[] = acos(max(-1.0, $along));
        }

        return [$mx, $my, $mz, $sizes, $tilts, $sx, $sy, $sz, ...self::round($this->points, $sheet->vx, $sheet->vy, $sheet->vz)];
    }

    /**
     * @param  list<list<int>>  $points
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<float>, list<float>, list<float>, list<float>} middles, and how far their farthest points are from them
     */
    private static function round(array $points, array $x, array $y, array $z): array
    {
        $mx = $my = $mz = $sizes = [];
        foreach ($points as $own) {
            $u = $v = $w = $most = 0.0;
            foreach ($own as $i) {
                $u += $x[$i];
                $v += $y[$i];
                $w += $z[$i];
            }
            $k = 1.0 / count($own);
            $mx[] = $u *= $k;
            $my[] = $v *= $k;
            $mz[] = $w *= $k;
            foreach ($own as $i) {
                $dx = $x[$i] - $u;
                $dy = $y[$i] - $v;
                $dz = $z[$i] - $w;
                $far = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($far > $most) {
                    $most = $far;
                }
            }
            $sizes[] = sqrt($most);
        }

        return [$mx, $my, $mz, $sizes];
    }
}
