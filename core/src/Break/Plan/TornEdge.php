<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Polyline;

/** The torn edge of a hole, and those of the bands round it. */
final readonly class TornEdge
{
    /** Points round the hole. */
    private const AROUND = 160;

    /** Waves of the tears, a radius. */
    private const WAVE = 2.2;

    /** How far a fully torn edge may stray: of the hole, as a share of its radius; of a band, as a share of its width, so little that no two cross. */
    private const HOLE = 0.35;

    private const BAND = 0.6;

    /** @param  list<array{float, float}>  $clean  the edge as it was cut, about the middle of the hole, in metres */
    private function __construct(private array $clean, private float $radius, private float $roughness, private float $bandWidth)
    {
    }

    public static function round(float $radius, float $roughness, float $bandWidth): self
    {
        return new self(
            array_map(
                static fn (int $i): array => [$radius * cos(2.0 * M_PI * $i / self::AROUND), $radius * sin(2.0 * M_PI * $i / self::AROUND)],
                range(0, self::AROUND - 1),
            ),
            $radius,
            $roughness,
            $bandWidth,
        );
    }

    /** @param  Polyline  $line  closed, in metres, twice the radius along its longer side */
    public static function drawn(Polyline $line, float $radius, float $roughness, float $bandWidth): self
    {
        $step = $line->length() / self::AROUND;
        $points = [];
        $n = count($line->points);
        foreach ($line->points as $i => $p) {
            $q = $line->points[($i + 1) % $n];
            $parts = max(1, (int) round(hypot($q[0] - $p[0], $q[1] - $p[1]) / $step));
            for ($k = 0; $k < $parts; $k++) {
                $points[] = [$p[0] + ($q[0] - $p[0]) * $k / $parts, $p[1] + ($q[1] - $p[1]) * $k / $parts];
            }
        }

        return new self($line->area() > 0.0 ? $points : array_reverse($points), $radius, $roughness, $bandWidth);
    }

    /**
     * @param  int  $bands  round the hole
     * @param  float  $scale  metres a unit of the plan
     * @return non-empty-list<Polyline> on the plan: the edge of the hole, then that of each band, each round the one before
     */
    public function lines(Noise $noise, int $bands, float $scale, float $u, float $v): array
    {
        return array_map(fn (int $band): Polyline => new Polyline($this->line($noise, $band, 1.0 / $scale, $u, $v), true), range(0, $bands));
    }

    /** @return list<array{float, float}> */
    private function line(Noise $noise, int $band, float $k, float $u, float $v): array
    {
        $out = [];
        foreach ($this->clean as [$a, $b]) {
            $x = self::WAVE * $a / $this->radius;
            $y = self::WAVE * $b / $this->radius;
            // A band starts from the torn edge within.
            $by = self::HOLE * $this->roughness * $this->radius * self::tear($noise, $x, $y, 0);
            if ($band > 0) {
                $by += $this->bandWidth * ($band + self::BAND * max(-0.8, min(0.8, self::tear($noise, $x, $y, $band))));
            }
            $f = $k * (1.0 + $by / max(1e-12, hypot($a, $b)));
            $out[] = [$u + $a * $f, $v + $b * $f];
        }

        return $out;
    }

    private static function tear(Noise $noise, float $x, float $y, int $band): float
    {
        return $noise->at($x, $y, 7.3 * $band) + 0.6 * $noise->at(2.7 * $x, 2.7 * $y, 3.1 + 7.3 * $band) + 0.35 * $noise->at(7.0 * $x, 7.0 * $y, 5.7 + 7.3 * $band);
    }
}
