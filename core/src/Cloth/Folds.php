<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Cell;

/**
 * Cloth that comes near cloth, of one sheet or of two: points are kept off each other that were not made beside each other.
 *
 * Patches of points are looked at first. Where two lie beside each other and their faces look nearly one way, nothing can have come
 * near (the curvature criterion of Volino & Magnenat-Thalmann 1994); only of patches for which that does not hold points are compared,
 * once for as long as how they move lets it hold. It starts anew with each step of the shot: what was looked at before makes no difference.
 */
final class Folds
{
    /** Times its longest edge that cloth keeps off itself. */
    private const APART = 1.2;

    /** Times that distance within which points lie beside each other as made. */
    private const BESIDE = 1.6;

    /** Share of that distance from which on they count, though they do not move: less than what lies beside as made has. */
    private const NEAR = 0.25;

    /** Sub-steps by which those count earlier that move against each other. */
    private const AHEAD = 4.0;

    /** Times the distance by which what may come near is looked for farther out than how it goes now would bring it. */
    private const SPARE = 0.25;

    /** rad by which faces of two patches look away from one way at most, for them to count as flat. */
    private const FLAT = 0.5;

    /** Times how far apart patches were made that they are at least, for what lies between them to be flat. */
    private const BENT = 0.6;

    /** Times all pairs are gone through. */
    private const PASSES = 2;

    /** m/s at most with which what is too near is pushed apart. */
    private const PUSH = 0.5;

    /** s within which it is, where it is less near: at once it would be strained, and spring. */
    private const SOON = 0.1;

    /** @var list<Sheet> */
    private array $sheets = [];

    /** @var list<bool> whether each meets itself */
    private array $itself = [];

    /** @var list<int> number of the first point of each sheet */
    private array $starts = [];

    /** @var list<int> sheet, by point */
    private array $on = [];

    /** @var list<float> 1/kg, by point of the sheets */
    private array $light = [];

    /** @var list<list<float>> m that sheets keep off each other and themselves, by both */
    private array $apart = [];

    /** @var list<int> by point: itself, or one end of the edge it is the middle of; those follow all points of the sheets */
    private array $one = [];

    /** @var list<int> the other end */
    private array $two = [];

    /** @var array<int, true> sheets that are kept off by the middles of their edges too */
    private array $fine = [];

    /** @var array<int, list<list<int>>> points of each patch, by sheet; none until they are asked for */
    private array $inPatch = [];

    /** @var array{list<float>, list<float>, list<float>} m, places of points as made */
    private array $made = [[], [], []];

    /** m by which points of a patch may lie beyond it */
    private float $beyond = 0.0;

    /** m, the most that any keeps off */
    private float $most = 0.0;

    /** @var list<int> flat: pairs of points that may come near */
    private array $pairs = [];

    /** @var array{list<int>, list<int>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>} those that count in the sub-step, as of `near` */
    private array $now = [[], [], [], [], [], [], [], []];

    /** s for which these are known */
    private float $known = 0.0;

    /**
     * @param  bool  $itself  whether it keeps off itself too
     * @param  bool  $closely  whether middles of its edges are kept off each other too, so that it lies half as far off itself
     */
    public function add(Sheet $sheet, bool $itself, bool $closely = false): void
    {
        $this->starts[] = count($this->on);
        $off = self::apart($sheet->weave->longest, false);
        $this->most = max($this->most, $off);
        $to = [];
        foreach ($this->sheets as $s => $other) {
            $to[] = $this->apart[$s][] = 0.5 * ($off + self::apart($other->weave->longest, false));
        }
        $this->apart[] = [...$to, self::apart($sheet->weave->longest, $closely)];
        if ($closely) {
            $this->fine[count($this->sheets)] = true;
            $this->beyond = max($this->beyond, 0.5 * $sheet->weave->longest);
        }
        foreach ($sheet->mass as $mass) {
            $this->on[] = count($this->sheets);
            $this->light[] = 1.0 / $mass;
        }
        $this->sheets[] = $sheet;
        $this->itself[] = $itself;
    }

    /**
     * m that cloth keeps off itself.
     *
     * @param  float  $longest  m, its longest edge
     */
    public static function apart(float $longest, bool $closely): float
    {
        return self::APART * $longest * ($closely ? 0.5 : 1.0);
    }

    /** Finds what is kept off: points, and middles of edges after them. */
    private function begun(): void
    {
        $this->one = $this->two = array_keys($this->on);
        foreach ($this->sheets as $s => $sheet) {
            $from = $this->starts[$s];
            $of = [];
            foreach ($sheet->patches->points as $patch => $points) {
                foreach ($points as $i) {
                    $of[$i] = $patch;
                }
                $this->inPatch[$s][] = array_map(static fn (int $i): int => $from + $i, $points);
            }
            $stitches = array_flip($sheet->weave->stitches);
            foreach (isset($this->fine[$s]) ? array_chunk($sheet->weave->pairs, 2) : [] as $pair => [$i, $j]) {
                if (! isset($stitches[$pair])) {
                    $this->inPatch[$s][$of[$i]][] = count($this->one);
                    $this->one[] = $from + $i;
                    $this->two[] = $from + $j;
                    $this->on[] = $s;
                }
            }
        }
        $this->made = [$this->everywhere($this->asMade('x')), $this->everywhere($this->asMade('y')), $this->everywhere($this->asMade('z'))];
    }

    /**
     * @param  'x'|'y'|'z'  $axis
     * @return list<float> m
     */
    private function asMade(string $axis): array
    {
        return array_merge(...array_map(static fn (Sheet $sheet): array => $sheet->weave->$axis, $this->sheets));
    }

    /**
     * What points of sheets have, and then the middles of edges.
     *
     * @param  list<float>  $own  of points of sheets
     * @return list<float>
     */
    private function everywhere(array $own): array
    {
        for ($m = count($own), $n = count($this->one); $m < $n; $m++) {
            $own[] = 0.5 * ($own[$this->one[$m]] + $own[$this->two[$m]]);
        }

        return $own;
    }

    /**
     * Begins anew.
     *
     * @param  float  $seconds  of the step of the shot that begins
     * @return float 1/s, how often what may come near goes against each other by the distance it keeps
     */
    public function begin(float $seconds): float
    {
        $this->pairs = [];
        $this->known = 0.0;
        if ($this->meetsNothing()) {
            return 0.0;
        }
        if ($this->inPatch === []) {
            $this->begun();
        }
        $this->look($seconds);
        [$vx, $vy, $vz] = [$this->all('vx'), $this->all('vy'), $this->all('vz')];
        $most = 0.0;
        for ($k = 0, $n = count($this->pairs); $k < $n; $k += 2) {
            $i = $this->pairs[$k];
            $j = $this->pairs[$k + 1];
            $ux = $vx[$i] - $vx[$j];
            $uy = $vy[$i] - $vy[$j];
            $uz = $vz[$i] - $vz[$j];
            $d = $this->apart[$this->on[$i]][$this->on[$j]];
            $most = max($most, ($ux * $ux + $uy * $uy + $uz * $uz) / ($d * $d));
        }

        return sqrt($most);
    }

    private function meetsNothing(): bool
    {
        return count($this->sheets) < 2 && ! in_array(true, $this->itself, true);
    }

    /**
     * What is near as a sub-step begins.
     *
     * @param  float  $left  s to the end of the step of the shot, this sub-step too
     * @return list<Apart> what of each sheet lies on itself: that goes into its solve
     */
    public function before(float $h, float $left): array
    {
        $out = array_map(static fn (Sheet $sheet): Apart => new Apart, $this->sheets);
        $this->now = [[], [], [], [], [], [], [], []];
        if ($this->meetsNothing()) {
            return $out;
        }
        if ($this->known < 0.999 * $h) {
            $this->look($left, $h);
        }
        $this->known -= $h;
        if ($this->pairs === []) {
            return $out;
        }
        $this->now = $this->near($h);
        [$one, $other, $least, , $nx, $ny, $nz, $apart] = $this->now;
        foreach ($one as $k => $i) {
            $j = $other[$k];
            $s = $this->on[$i];
            if ($s === $this->on[$j]) {
                $from = $this->starts[$s];
                // As far as it is, or as far as it may come.
                $far = $apart[$k] + $h * $least[$k];
                $four = [$this->one[$i] - $from, $this->two[$i] - $from, $this->one[$j] - $from, $this->two[$j] - $from];
                $out[$s]->add($four, $nx[$k], $ny[$k], $nz[$k], $far, 1.0 / ($this->lightOf($i, $this->light) + $this->lightOf($j, $this->light)), $h);
            }
        }

        return $out;
    }

    /**
     * Keeps off each other what came near within a sub-step that has been solved, and which points have not gone yet.
     *
     * @param  list<array<int, float>>  $holds  how much points are held, by sheet
     * @param  list<float>  $frictions  by sheet
     * @param  list<Apart>  $aparts  what was part of the solves
     */
    public function keepOff(float $h, array $holds, array $frictions, array $aparts): void
    {
        if ($this->now[0] !== []) {
            $this->part($this->now, $holds, $frictions, $this->borne($h, $aparts));
        }
    }

    /**
     * 1/kg: the middle of an edge has half of what its ends have, and gives each of them half of what it gets.
     *
     * @param  list<float>  $light  1/kg, by point of the sheets
     */
    private function lightOf(int $i, array $light): float
    {
        $a = $this->one[$i];
        $b = $this->two[$i];

        return $a === $b ? $light[$a] : 0.25 * ($light[$a] + $light[$b]);
    }

    /**
     * @param  list<Apart>  $aparts
     * @return list<float> N·s that each pair has borne in the solve
     */
    private function borne(float $h, array $aparts): array
    {
        [$one, $other, , , $nx, $ny, $nz, $apart] = $this->now;
        [$gx, $gy, $gz] = [$this->all('gx'), $this->all('gy'), $this->all('gz')];
        $out = [];
        $next = array_fill(0, count($aparts), 0);
        foreach ($one as $k => $i) {
            $j = $other[$k];
            $s = $this->on[$i];
            if ($s !== $this->on[$j]) {
                $out[] = 0.0;

                continue;
            }
            $m = $next[$s]++;
            $out[] = $h * $aparts[$s]->presses($m, $apart[$k] + $h * (($gx[$i] - $gx[$j]) * $nx[$k] + ($gy[$i] - $gy[$j]) * $ny[$k] + ($gz[$i] - $gz[$j]) * $nz[$k]));
        }

        return $out;
    }

    /**
     * What points of all sheets have, one sheet after the other, and then the middles of edges.
     *
     * @param  'x'|'y'|'z'|'vx'|'vy'|'vz'|'gx'|'gy'|'gz'  $list
     * @return list<float>
     */
    private function all(string $list): array
    {
        return $this->everywhere(count($this->sheets) === 1 ? $this->sheets[0]->$list : array_merge(...array_map(static fn (Sheet $s): array => $s->$list, $this->sheets)));
    }

    /**
     * Pairs that count now.
     *
     * @return array{list<int>, list<int>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>} two points, the least speed with which they may
     *   part, that with which they go apart, the way from the second to the first, and how far that is
     */
    private function near(float $h): array
    {
        [$x, $y, $z, $vx, $vy, $vz] = [$this->all('x'), $this->all('y'), $this->all('z'), $this->all('vx'), $this->all('vy'), $this->all('vz')];
        $apart = $this->apart;
        $on = $this->on;
        $pairs = $this->pairs;
        $one = $other = $least = $out = $nx = $ny = $nz = $distance = [];
        $ahead = self::AHEAD * $h;
        for ($k = 0, $n = count($pairs); $k < $n; $k += 2) {
            $i = $pairs[$k];
            $j = $pairs[$k + 1];
            $dx = $x[$i] - $x[$j];
            $dy = $y[$i] - $y[$j];
            $dz = $z[$i] - $z[$j];
            $d = $apart[$on[$i]][$on[$j]];
            $far = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
            $ux = $vx[$i] - $vx[$j];
            $uy = $vy[$i] - $vy[$j];
            $uz = $vz[$i] - $vz[$j];
            if ($far < (1.0 + self::NEAR) * $d + $ahead * sqrt($ux * $ux + $uy * $uy + $uz * $uz) && $far > 0.0) {
                $one[] = $i;
                $other[] = $j;
                $gap = ($far - $d) / $h;
                $least[] = $gap > 0.0 ? -$gap : 0.0;
                $out[] = $gap >= 0.0 ? -$gap : min(self::PUSH, -$gap, ($d - $far) / self::SOON);
                $distance[] = $far;
                $nx[] = $dx / $far;
                $ny[] = $dy / $far;
                $nz[] = $dz / $far;
            }
        }

        return [$one, $other, $least, $out, $nx, $ny, $nz, $distance];
    }

    /**
     * Parts pairs: none goes nearer than it may; with friction, as far as they are pressed together.
     *
     * @param  array{list<int>, list<int>, list<float>, list<float>, list<float>, list<float>, list<float>, list<float>}  $near
     * @param  list<array<int, float>>  $holds
     * @param  list<float>  $frictions
     * @param  list<float>  $pressed  N·s that they are pressed by already
     */
    private function part(array $near, array $holds, array $frictions, array $pressed): void
    {
        [$one, $other, $least, $out, $nx, $ny, $nz] = $near;
        [$vx, $vy, $vz, $gx, $gy, $gz] = [$this->all('vx'), $this->all('vy'), $this->all('vz'), $this->all('gx'), $this->all('gy'), $this->all('gz')];
        $weight = $this->light;
        foreach ($holds as $s => $hold) {
            foreach ($hold as $i => $share) {
                if ($share >= Sheet::HELD) {
                    $weight[$this->starts[$s] + $i] = 0.0;
                }
            }
        }
        [$first, $second] = [$this->one, $this->two];
        $both = array_map(fn (int $i, int $j): float => $this->lightOf($i, $weight) + $this->lightOf($j, $weight), $one, $other);
        for ($pass = 0; $pass < self::PASSES; $pass++) {
            foreach ($one as $k => $i) {
                if ($both[$k] <= 0.0) {
                    continue;
                }
                $j = $other[$k];
                $a = $first[$i];
                $b = $second[$i];
                $c = $first[$j];
                $d = $second[$j];
                $ex = $nx[$k];
                $ey = $ny[$k];
                $ez = $nz[$k];
                $lacks = $least[$k] - 0.5 * (($vx[$a] + $vx[$b] - $vx[$c] - $vx[$d]) * $ex + ($vy[$a] + $vy[$b] - $vy[$c] - $vy[$d]) * $ey + ($vz[$a] + $vz[$b] - $vz[$c] - $vz[$d]) * $ez);
                if ($lacks > 0.0) {
                    $push = $lacks / $both[$k];
                    $pressed[$k] += $push;
                    $push *= 0.5;
                    $ux = $push * $ex;
                    $uy = $push * $ey;
                    $uz = $push * $ez;
                    foreach ([[$a, $weight[$a]], [$b, $weight[$b]], [$c, -$weight[$c]], [$d, -$weight[$d]]] as [$p, $w]) {
                        $vx[$p] += $w * $ux;
                        $vy[$p] += $w * $uy;
                        $vz[$p] += $w * $uz;
                    }
                }
                // Where they are gets no nearer either, and is pushed apart without their gaining speed by it.
                $lacks = $out[$k] - 0.5 * (($gx[$a] + $gx[$b] - $gx[$c] - $gx[$d]) * $ex + ($gy[$a] + $gy[$b] - $gy[$c] - $gy[$d]) * $ey + ($gz[$a] + $gz[$b] - $gz[$c] - $gz[$d]) * $ez);
                if ($lacks > 0.0) {
                    $push = 0.5 * $lacks / $both[$k];
                    $ux = $push * $ex;
                    $uy = $push * $ey;
                    $uz = $push * $ez;
                    foreach ([[$a, $weight[$a]], [$b, $weight[$b]], [$c, -$weight[$c]], [$d, -$weight[$d]]] as [$p, $w]) {
                        $gx[$p] += $w * $ux;
                        $gy[$p] += $w * $uy;
                        $gz[$p] += $w * $uz;
                    }
                }
            }
        }
        $changed = [];
        foreach ($pressed as $k => $push) {
            $i = $one[$k];
            $j = $other[$k];
            [$a, $b, $c, $d] = [$first[$i], $second[$i], $first[$j], $second[$j]];
            $changed[$a] = $changed[$b] = $changed[$c] = $changed[$d] = true;
            if ($push <= 0.0 || $both[$k] <= 0.0) {
                continue;
            }
            $ux = 0.5 * ($vx[$a] + $vx[$b] - $vx[$c] - $vx[$d]);
            $uy = 0.5 * ($vy[$a] + $vy[$b] - $vy[$c] - $vy[$d]);
            $uz = 0.5 * ($vz[$a] + $vz[$b] - $vz[$c] - $vz[$d]);
            $along = $ux * $nx[$k] + $uy * $ny[$k] + $uz * $nz[$k];
            $ux -= $along * $nx[$k];
            $uy -= $along * $ny[$k];
            $uz -= $along * $nz[$k];
            $speed = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
            if ($speed < 1e-12) {
                continue;
            }
            $stop = 0.5 * min(1.0 / $both[$k], sqrt($frictions[$this->on[$i]] * $frictions[$this->on[$j]]) * $push / $speed);
            foreach ([[$a, $stop], [$b, $stop], [$c, -$stop], [$d, -$stop]] as [$p, $share]) {
                $vx[$p] -= $share * $weight[$p] * $ux;
                $vy[$p] -= $share * $weight[$p] * $uy;
                $vz[$p] -= $share * $weight[$p] * $uz;
            }
        }
        [$ux, $uy, $uz, $wx, $wy, $wz] = [$this->all('vx'), $this->all('vy'), $this->all('vz'), $this->all('gx'), $this->all('gy'), $this->all('gz')];
        foreach ($changed as $i => $_) {
            $s = $this->on[$i];
            $this->sheets[$s]->folded = true;
            $this->sheets[$s]->jump($i - $this->starts[$s], $vx[$i] - $ux[$i], $vy[$i] - $uy[$i], $vz[$i] - $uz[$i], $gx[$i] - $wx[$i], $gy[$i] - $wy[$i], $gz[$i] - $wz[$i]);
        }
    }

    /**
     * Which points may come near each other for a while, no longer than a time.
     *
     * @param  float  $step  s, for which it must hold at least
     */
    private function look(float $left, float $step = 0.0): void
    {
        $first = $patch = [];
        $x = $y = $z = $sizes = $tilts = $nx = $ny = $nz = $vx = $vy = $vz = $otherwise = [];
        $rx = $ry = $rz = $made = [];
        foreach ($this->sheets as $s => $sheet) {
            [$ax, $ay, $az, $as, $at, $anx, $any, $anz, $avx, $avy, $avz, $ao] = $sheet->patches->now($sheet);
            array_push($first, ...array_fill(0, count($ax), $s));
            array_push($patch, ...array_keys($ax));
            [$x, $y, $z, $sizes, $tilts] = [[...$x, ...$ax], [...$y, ...$ay], [...$z, ...$az], [...$sizes, ...$as], [...$tilts, ...$at]];
            [$nx, $ny, $nz, $vx, $vy, $vz, $otherwise] = [[...$nx, ...$anx], [...$ny, ...$any], [...$nz, ...$anz], [...$vx, ...$avx], [...$vy, ...$avy], [...$vz, ...$avz], [...$otherwise, ...$ao]];
            [$rx, $ry, $rz, $made] = [[...$rx, ...$sheet->patches->x], [...$ry, ...$sheet->patches->y], [...$rz, ...$sheet->patches->z], [...$made, ...$sheet->patches->sizes]];
        }
        $fastest = self::spread($vx, $vy, $vz) + max(0.0, ...$otherwise);
        $this->known = $fastest > 0.0 ? max($step, min($left, $this->most / $fastest)) : max($step, $left);
        $near = (1.0 + self::NEAR + self::SPARE) * $this->most;
        $near += 2.0 * $this->beyond;
        $wide = 2.0 * max(0.0, ...$sizes) + $near;
        $pairs = [];
        foreach (array_keys($x) as $k) {
            if ($this->itself[$first[$k]] && $tilts[$k] >= self::FLAT) {
                $pairs[] = $k;
                $pairs[] = $k;
            }
        }
        // What goes fast is looked for as far as it may come.
        $found = self::beside($x, $y, $z, $wide + 2.0 * $this->known * $fastest);
        for ($m = 0, $n = count($found); $m < $n; $m += 2) {
            $k = $found[$m];
            $l = $found[$m + 1];
            $dx = $x[$k] - $x[$l];
            $dy = $y[$k] - $y[$l];
            $dz = $z[$k] - $z[$l];
            $far = $dx * $dx + $dy * $dy + $dz * $dz;
            $ux = $vx[$k] - $vx[$l];
            $uy = $vy[$k] - $vy[$l];
            $uz = $vz[$k] - $vz[$l];
            $reach = $sizes[$k] + $sizes[$l] + $near + $this->known * (sqrt($ux * $ux + $uy * $uy + $uz * $uz) + $otherwise[$k] + $otherwise[$l]);
            if ($far >= $reach * $reach) {
                continue;
            }
            if ($first[$k] === $first[$l]) {
                if (! $this->itself[$first[$k]]) {
                    continue;
                }
                $dx = $rx[$k] - $rx[$l];
                $dy = $ry[$k] - $ry[$l];
                $dz = $rz[$k] - $rz[$l];
                $apart = $dx * $dx + $dy * $dy + $dz * $dz;
                $reach = $made[$k] + $made[$l] + $near;
                if ($apart < $reach * $reach && $far > self::BENT * self::BENT * $apart) {
                    $along = $nx[$k] * $nx[$l] + $ny[$k] * $ny[$l] + $nz[$k] * $nz[$l];
                    if (max($tilts[$k], $tilts[$l]) + 0.5 * acos(max(-1.0, min(1.0, $along))) < self::FLAT) {
                        continue;
                    }
                }
            }
            $pairs[] = $k;
            $pairs[] = $l;
        }
        $this->compare($pairs, $first, $patch);
    }

    /**
     * Which points of two patches may come near each other.
     *
     * @param  list<int>  $patches  flat: pairs of them
     * @param  list<int>  $on  sheet of each patch
     * @param  list<int>  $patch  its number there
     */
    private function compare(array $patches, array $on, array $patch): void
    {
        [$x, $y, $z, $vx, $vy, $vz] = [$this->all('x'), $this->all('y'), $this->all('z'), $this->all('vx'), $this->all('vy'), $this->all('vz')];
        [$rx, $ry, $rz] = $this->made;
        $points = count($this->light);
        $pairs = [];
        $beside = self::BESIDE * self::BESIDE;
        $share = 1.0 + self::NEAR + self::SPARE;
        for ($m = 0, $n = count($patches); $m < $n; $m += 2) {
            $k = $patches[$m];
            $l = $patches[$m + 1];
            $a = $on[$k];
            $b = $on[$l];
            $d = $this->apart[$a][$b];
            $second = $this->inPatch[$b][$patch[$l]];
            foreach ($this->inPatch[$a][$patch[$k]] as $i) {
                $xi = $x[$i];
                $yi = $y[$i];
                $zi = $z[$i];
                $ux = $vx[$i];
                $uy = $vy[$i];
                $uz = $vz[$i];
                foreach ($second as $j) {
                    $dx = $xi - $x[$j];
                    $dy = $yi - $y[$j];
                    $dz = $zi - $z[$j];
                    $far = $dx * $dx + $dy * $dy + $dz * $dz;
                    $wx = $ux - $vx[$j];
                    $wy = $uy - $vy[$j];
                    $wz = $uz - $vz[$j];
                    $reach = $share * $d + $this->known * sqrt($wx * $wx + $wy * $wy + $wz * $wz);
                    // Middles of edges count on their own sheet only.
                    if ($far >= $reach * $reach || $k === $l && $i >= $j || $a !== $b && ($i >= $points || $j >= $points)) {
                        continue;
                    }
                    if ($a === $b) {
                        $dx = $rx[$i] - $rx[$j];
                        $dy = $ry[$i] - $ry[$j];
                        $dz = $rz[$i] - $rz[$j];
                        if ($dx * $dx + $dy * $dy + $dz * $dz < $beside * $d * $d) {
                            continue;
                        }
                    }
                    $pairs[] = $i;
                    $pairs[] = $j;
                }
            }
        }
        $this->pairs = $pairs;
    }

    /**
     * Pairs nearer than a reach.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int> flat
     */
    private static function beside(array $x, array $y, array $z, float $reach): array
    {
        if ($reach <= 0.0) {
            return [];
        }
        $k = 1.0 / $reach;
        $cells = [];
        foreach ($x as $i => $v) {
            $cells[Cell::of($k * $v, $k * $y[$i], $k * $z[$i])][] = $i;
        }
        // Every two cells once.
        $steps = array_filter(Cell::beside(), static fn (int $step): bool => $step > 0);
        $out = [];
        $most = $reach * $reach;
        foreach ($cells as $key => $own) {
            $others = [];
            foreach ($steps as $step) {
                if (isset($cells[$key + $step])) {
                    $others[] = $cells[$key + $step];
                }
            }
            $others = array_merge(...$others);
            foreach ($own as $at => $i) {
                $xi = $x[$i];
                $yi = $y[$i];
                $zi = $z[$i];
                for ($m = $at + 1, $n = count($own); $m < $n; $m++) {
                    $j = $own[$m];
                    $dx = $xi - $x[$j];
                    $dy = $yi - $y[$j];
                    $dz = $zi - $z[$j];
                    if ($dx * $dx + $dy * $dy + $dz * $dz < $most) {
                        $out[] = $i;
                        $out[] = $j;
                    }
                }
                foreach ($others as $j) {
                    $dx = $xi - $x[$j];
                    $dy = $yi - $y[$j];
                    $dz = $zi - $z[$j];
                    if ($dx * $dx + $dy * $dy + $dz * $dz < $most) {
                        $out[] = $i;
                        $out[] = $j;
                    }
                }
            }
        }

        return $out;
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
        $k = 1.0 / max(1, count($x));
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
}
