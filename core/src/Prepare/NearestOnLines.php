<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Cell;

/** The point of a set of straight lines nearest to another that lies close to them, by a grid over the lines. */
final class NearestOnLines
{
    /** @var array<int, list<int>> lines by cell */
    private array $cells = [];

    /**
     * @param  list<array{float, float, float, float, float, float}>  $lines  both ends of each
     * @param  float  $reach  points asked for lie nearer than this
     */
    public function __construct(private readonly array $lines, private readonly float $reach)
    {
        foreach ($lines as $k => [$ax, $ay, $az, $bx, $by, $bz]) {
            $steps = max(1, (int) ceil(sqrt(($bx - $ax) ** 2 + ($by - $ay) ** 2 + ($bz - $az) ** 2) / $reach));
            for ($s = 0; $s <= $steps; $s++) {
                $t = $s / $steps;
                $cell = $this->cell($ax + $t * ($bx - $ax), $ay + $t * ($by - $ay), $az + $t * ($bz - $az));
                $this->cells[$cell][$k] = $k;
            }
        }
    }

    private function cell(float $x, float $y, float $z): int
    {
        return Cell::of($x / $this->reach, $y / $this->reach, $z / $this->reach);
    }

    /** @return array{float, float, float} the point itself where no line is near */
    public function to(float $x, float $y, float $z): array
    {
        $best = INF;
        $out = [$x, $y, $z];
        $seen = [];
        for ($i = -1; $i <= 1; $i++) {
            for ($j = -1; $j <= 1; $j++) {
                for ($l = -1; $l <= 1; $l++) {
                    foreach ($this->cells[$this->cell($x + $i * $this->reach, $y + $j * $this->reach, $z + $l * $this->reach)] ?? [] as $k) {
                        if (isset($seen[$k])) {
                            continue;
                        }
                        $seen[$k] = true;
                        [$ax, $ay, $az, $bx, $by, $bz] = $this->lines[$k];
                        $ex = $bx - $ax;
                        $ey = $by - $ay;
                        $ez = $bz - $az;
                        $ee = $ex * $ex + $ey * $ey + $ez * $ez;
                        $t = $ee > 0.0 ? max(0.0, min(1.0, (($x - $ax) * $ex + ($y - $ay) * $ey + ($z - $az) * $ez) / $ee)) : 0.0;
                        $px = $ax + $t * $ex;
                        $py = $ay + $t * $ey;
                        $pz = $az + $t * $ez;
                        $d = ($px - $x) ** 2 + ($py - $y) ** 2 + ($pz - $z) ** 2;
                        if ($d < $best) {
                            $best = $d;
                            $out = [$px, $py, $pz];
                        }
                    }
                }
            }
        }

        return $out;
    }
}
