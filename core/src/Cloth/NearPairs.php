<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Points of cloth that come near each other though they were not made beside each other: what keeps folds off each other. Looked for
 * anew only once points may have come as near as counts since.
 */
final class NearPairs
{
    /** Times its longest edge that cloth keeps off itself. */
    public const APART = 1.2;

    /** Times that distance within which points lie beside each other as made. */
    private const BESIDE = 1.6;

    /** Times that distance within which pairs are looked for. */
    private const LOOKED = 2.0;

    /** Share of that distance from which on they count, though they do not move: less than what lies beside as made has. */
    private const NEAR = 0.25;

    /** Sub-steps by which those count earlier that move against each other. */
    private const AHEAD = 4.0;

    /** @var list<int> flat: pairs that may come near */
    private array $pairs = [];

    /** @var array{list<float>, list<float>, list<float>}|null where points were when pairs were looked for */
    private ?array $then = null;

    private readonly float $apart;

    public function __construct(private readonly Weave $weave)
    {
        $this->apart = self::APART * $weave->longest;
    }

    /**
     * @param  float  $h  s, the sub-step
     * @return list<array{int, int, float, float, float, float}> as of `Pull`
     */
    public function near(Sheet $sheet, float $h): array
    {
        $looked = self::LOOKED * $this->apart;
        $near = (1.0 + self::NEAR) * $this->apart;
        // All pairs that may count must be among them, whenever they were looked for.
        if ($this->then === null || min($looked, $near + 2.0 * self::AHEAD * $h * self::spread($sheet->vx, $sheet->vy, $sheet->vz)) > $looked - 2.0 * $this->travelled($sheet)) {
            $this->look($sheet->x, $sheet->y, $sheet->z);
            $this->then = [$sheet->x, $sheet->y, $sheet->z];
        }
        $out = [];
        $most = $looked * $looked;
        $x = $sheet->x;
        $y = $sheet->y;
        $z = $sheet->z;
        $vx = $sheet->vx;
        $vy = $sheet->vy;
        $vz = $sheet->vz;
        $ahead = self::AHEAD * $h;
        for ($k = 0, $n = count($this->pairs); $k < $n; $k += 2) {
            $i = $this->pairs[$k];
            $j = $this->pairs[$k + 1];
            $dx = $x[$i] - $x[$j];
            $dy = $y[$i] - $y[$j];
            $dz = $z[$i] - $z[$j];
            $far = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($far >= $most || $far === 0.0) {
                continue;
            }
            $far = sqrt($far);
            $ux = $vx[$i] - $vx[$j];
            $uy = $vy[$i] - $vy[$j];
            $uz = $vz[$i] - $vz[$j];
            if ($far < $near + $ahead * sqrt($ux * $ux + $uy * $uy + $uz * $uz)) {
                $gap = $far - $this->apart;
                $out[] = [$i, $j, $gap >= 0.0 ? -$gap / $h : min(Sheet::PUSH, -$gap / $h), $dx / $far, $dy / $far, $dz / $far];
            }
        }

        return $out;
    }

    /** m that the point has gone that has gone farthest since pairs were looked for, but for what all have gone together. */
    private function travelled(Sheet $sheet): float
    {
        [$x, $y, $z] = $this->then ?? [[], [], []];
        $minus = static fn (float $now, float $then): float => $now - $then;

        return self::spread(array_map($minus, $sheet->x, $x), array_map($minus, $sheet->y, $y), array_map($minus, $sheet->z, $z));
    }

    /**
     * How far off their mean the farthest of vectors is.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private static function spread(array $x, array $y, array $z): float
    {
        $k = 1.0 / count($x);
        [$mx, $my, $mz] = [$k * array_sum($x), $k * array_sum($y), $k * array_sum($z)];
        $most = 0.0;
        foreach ($x as $i => $v) {
            $dx = $v - $mx;
            $dy = $y[$i] - $my;
            $dz = $z[$i] - $mz;
            $most = max($most, $dx * $dx + $dy * $dy + $dz * $dz);
        }

        return sqrt($most);
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private function look(array $x, array $y, array $z): void
    {
        $reach = self::LOOKED * $this->apart;
        $k = 1.0 / $reach;
        $cells = $of = [];
        foreach ($x as $i => $v) {
            $of[] = $key = (((int) floor($k * $v) + 0x80000 & 0xFFFFF) << 40) | (((int) floor($k * $y[$i]) + 0x80000 & 0xFFFFF) << 20) | ((int) floor($k * $z[$i]) + 0x80000 & 0xFFFFF);
            $cells[$key][] = $i;
        }
        $steps = [];
        foreach ([-1, 0, 1] as $a) {
            foreach ([-1, 0, 1] as $b) {
                foreach ([-1, 0, 1] as $c) {
                    $steps[] = ($a << 40) + ($b << 20) + $c;
                }
            }
        }
        $pairs = [];
        $most = $reach * $reach;
        $beside = (self::BESIDE * $this->apart) ** 2;
        $rx = $this->weave->x;
        $ry = $this->weave->y;
        $rz = $this->weave->z;
        $parts = $this->weave->parts;
        foreach ($cells as $key => $own) {
            foreach ($steps as $step) {
                // Every two cells once.
                if ($step < 0 || ! isset($cells[$key + $step])) {
                    continue;
                }
                $other = $cells[$key + $step];
                foreach ($own as $i) {
                    $xi = $x[$i];
                    $yi = $y[$i];
                    $zi = $z[$i];
                    foreach ($other as $j) {
                        if ($step === 0 && $j <= $i) {
                            continue;
                        }
                        $dx = $xi - $x[$j];
                        $dy = $yi - $y[$j];
                        $dz = $zi - $z[$j];
                        if ($dx * $dx + $dy * $dy + $dz * $dz >= $most) {
                            continue;
                        }
                        $dx = $rx[$i] - $rx[$j];
                        $dy = $ry[$i] - $ry[$j];
                        $dz = $rz[$i] - $rz[$j];
                        if ($parts[$i] === $parts[$j] && $dx * $dx + $dy * $dy + $dz * $dz < $beside) {
                            continue;
                        }
                        $pairs[] = $i < $j ? $i << 32 | $j : $j << 32 | $i;
                    }
                }
            }
        }
        // In one order, whenever they were looked for.
        sort($pairs);
        $this->pairs = [];
        foreach ($pairs as $pair) {
            $this->pairs[] = $pair >> 32;
            $this->pairs[] = $pair & 0xFFFFFFFF;
        }
    }
}
