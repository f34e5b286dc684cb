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

    /** Strokes from the end whose sum is looked for among what is kept: an undo or two must not mean all anew. */
    private const LOOKED_BACK = 4;

    /** Of those before, what each so manieth amounts to is kept too. */
    private const KEPT_EVERY = 50;

    private function __construct(private Strokes $strokes)
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
        return new self($values['strokes'] instanceof Strokes ? $values['strokes'] : new Strokes($values['strokes']));
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        if ($on->arePieces()) {
            return Carried::over($this->over($scene->points($on->prop), $scene, new Memory), $on, $scene->surface($on->prop));
        }
        $count = count($this->strokes);
        $w = array_fill(0, $on->count(), 0.0);
        if ($count === 0 || $w === []) {
            return $w;
        }
        // What all strokes up to one amount to is kept, so that one more is one more and not all anew.
        $of = fn (int $k): string => 'strokes '.$this->strokes->fingerprints[$k].' '.$on->fingerprint();
        for ($done = $count; $done > 0; $done--) {
            $kept = $done > $count - self::LOOKED_BACK || $done % self::KEPT_EVERY === 0 ? $scene->recall($of($done - 1)) : null;
            if ($kept !== null && count($kept) === count($w)) {
                $w = $kept;
                break;
            }
        }
        $cells = $done < $count ? $this->cells($on) : [];
        for ($k = $done; $k < $count; $k++) {
            $w = $this->painted($w, $on, $cells, $this->strokes->all[$k]);
            if ($k === $count - 1 || ($k + 1) % self::KEPT_EVERY === 0) {
                $scene->remember($of($k), $w);
            }
            $scene->goOn();
        }

        return $w;
    }

    /** @return array{int, int} how many dabs there are, and how many of them meet no point of the mesh */
    public function missed(Points $on): array
    {
        $all = $missed = 0;
        $cells = $this->cells($on);
        foreach ($this->strokes->all as $stroke) {
            foreach (self::mirrored($stroke) as $dab) {
                $all++;
                $missed += self::near($on, $cells, 1.0 / $this->largest(), $dab, $stroke['size']) === [] ? 1 : 0;
            }
        }

        return [$all, $missed];
    }

    private function largest(): float
    {
        return $this->strokes->all === [] ? 1.0 : max(array_column($this->strokes->all, 'size'));
    }

    /** @return array<int, list<int>> points by cell as large as the largest brush */
    private function cells(Points $on): array
    {
        $k = 1.0 / $this->largest();
        $cells = [];
        foreach ($on->x as $i => $x) {
            $cells[Cell::of($x * $k, $on->y[$i] * $k, $on->z[$i] * $k)][] = $i;
        }

        return $cells;
    }

    /**
     * One more stroke on what is there.
     *
     * @param  list<float>  $w
     * @param  array<int, list<int>>  $cells
     * @param  array{how: string, size: float, strength: float, mirror: string, dabs: list<list<float>>}  $stroke
     * @return list<float>
     */
    private function painted(array $w, Points $on, array $cells, array $stroke): array
    {
        $k = 1.0 / $this->largest();
        $smooths = $stroke['how'] === 'smooth';
        $to = $stroke['how'] === 'paint' ? 1.0 : 0.0;
        $beside = $smooths ? $on->beside() : [];
        foreach (self::mirrored($stroke) as $dab) {
            $near = self::near($on, $cells, $k, $dab, $stroke['size']);
            $smooth = [];
            if ($smooths) {
                // The means of all are taken before any is changed.
                foreach ($near as $i => $_) {
                    $sum = $w[$i];
                    $others = $beside[$i];
                    foreach ($others as $j) {
                        $sum += $w[$j];
                    }
                    $smooth[$i] = $sum / (1 + count($others));
                }
            }
            foreach ($near as $i => $share) {
                $w[$i] += $share * $stroke['strength'] * (($smooth[$i] ?? $to) - $w[$i]);
            }
        }

        return $w;
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
}
