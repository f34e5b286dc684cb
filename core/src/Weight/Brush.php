<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Cell;
use YardBreak\Core\Option;

/**
 * What was painted, stroke by stroke. Strokes are kept as they were made, in the prop's own coordinates, so that they
 * fall on whatever mesh the prop has now.
 */
final readonly class Brush implements Source
{
    use Still;

    /** @param  list<array{how: string, size: float, strength: float, mirror: string, dabs: list<list<float>>}>  $strokes */
    private function __construct(private array $strokes)
    {
    }

    public static function label(): string
    {
        return 'Brush';
    }

    public static function meaning(): string
    {
        return 'Painted in the picture';
    }

    public static function options(): array
    {
        return [new Option('strokes', 'Strokes', 'What was painted.', StrokesKind::class, [])];
    }

    public static function of(array $values): self
    {
        return new self($values['strokes']);
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        if ($on->arePieces()) {
            return Carried::over($this->over($scene->points($on->prop), $scene, new Memory), $on, $scene->surface($on->prop));
        }

        return $this->painted($on)[0];
    }

    /** @return array{int, int} how many dabs there are, and how many of them meet no point of the mesh */
    public function missed(Points $on): array
    {
        return $this->painted($on)[1];
    }

    /** @return array{list<float>, array{int, int}} the weights; dabs, and those that met nothing */
    private function painted(Points $on): array
    {
        $w = array_fill(0, $on->count(), 0.0);
        if ($this->strokes === [] || $w === []) {
            return [$w, [0, 0]];
        }
        $cell = max(array_column($this->strokes, 'size'));
        $k = 1.0 / $cell;
        $cells = [];
        foreach ($on->x as $i => $x) {
            $cells[Cell::of($x * $k, $on->y[$i] * $k, $on->z[$i] * $k)][] = $i;
        }
        $all = $missed = 0;
        foreach ($this->strokes as $stroke) {
            foreach (self::mirrored($stroke) as $dab) {
                $all++;
                $near = self::near($on, $cells, $k, $dab, $stroke['size']);
                $missed += $near === [] ? 1 : 0;
                $smooth = $stroke['how'] === 'smooth' ? array_map(static fn (int $i): float => self::mean($w, $on->beside()[$i], $w[$i]), array_combine(array_keys($near), array_keys($near))) : [];
                foreach ($near as $i => $share) {
                    $share *= $stroke['strength'];
                    $to = $stroke['how'] === 'paint' ? 1.0 : ($smooth[$i] ?? 0.0);
                    $w[$i] += $share * ($to - $w[$i]);
                }
            }
        }

        return [$w, [$all, $missed]];
    }

    /**
     * @param  array<int, list<int>>  $cells
     * @param  list<float>  $dab
     * @return array<int, float> by point within the dab, on the side that was painted: how much it takes
     */
    private static function near(Points $on, array $cells, float $k, array $dab, float $size): array
    {
        [$x, $y, $z, $nx, $ny, $nz] = $dab;
        [$ox, $oy, $oz] = $on->normals();
        $out = [];
        $cell = Cell::of($x * $k, $y * $k, $z * $k);
        foreach (Cell::beside() as $step) {
            foreach ($cells[$cell + $step] ?? [] as $i) {
                $d = (($on->x[$i] - $x) ** 2 + ($on->y[$i] - $y) ** 2 + ($on->z[$i] - $z) ** 2) / ($size * $size);
                if ($d < 1.0 && $ox[$i] * $nx + $oy[$i] * $ny + $oz[$i] * $nz > 0.0) {
                    $out[$i] = (1.0 - $d) * (1.0 - $d);
                }
            }
        }

        return $out;
    }

    /**
     * @param  array{mirror: string, dabs: list<list<float>>, ...}  $stroke
     * @return list<list<float>>
     */
    private static function mirrored(array $stroke): array
    {
        $axis = ['x' => 0, 'y' => 1, 'z' => 2][$stroke['mirror']] ?? null;
        if ($axis === null) {
            return $stroke['dabs'];
        }
        $out = $stroke['dabs'];
        foreach ($stroke['dabs'] as $dab) {
            $dab[$axis] = -$dab[$axis];
            $dab[$axis + 3] = -$dab[$axis + 3];
            $out[] = $dab;
        }

        return $out;
    }

    /**
     * @param  list<float>  $w
     * @param  list<int>  $beside
     */
    private static function mean(array $w, array $beside, float $own): float
    {
        $sum = $own;
        foreach ($beside as $i) {
            $sum += $w[$i];
        }

        return $sum / (1 + count($beside));
    }
}
