<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

/**
 * Solves a sub-step: conjugate gradients preconditioned by the points' own blocks and by lots of them, filtered for what is held or touches
 * (Ascher & Boxerman 2003, "On the modified conjugate gradient method in cloth simulation").
 */
final readonly class Gradients
{
    /** Rounds at most: few where it moves gently, many where it is stiff. */
    private const ROUNDS = 40;

    /** Of the first residual, squared, at which it is solved: forces are taken anew in every sub-step, so that what is left is not lost. */
    private const SOLVED = 3e-3;

    /** Likewise where it touches something: what is left of the forces that set contacts is energy that comes from nowhere. */
    private const CLOSELY_SOLVED = 1e-5;

    /** Times as many rounds at most there. */
    private const CLOSELY = 4;

    /** @param  bool  $close  whether contacts are solved more closely */
    public function __construct(private Levels $levels, private bool $close = true)
    {
    }

    /**
     * What rounds of a sub-step go by, however often it is solved.
     *
     * @return array{list<float>, list<list<float>>} inverse blocks of points, and of lots by level
     */
    public function inverses(Matrix $matrix): array
    {
        $blocks = $matrix->blocks();

        return [Levels::inverted($blocks), $this->levels->inverses($blocks, $matrix->off, $matrix->bend)];
    }

    /**
     * @param  array{list<float>, list<list<float>>}  $inverses  as of `inverses`
     * @param  array<int, float>  $rx  N·s that are left
     * @param  array<int, float>  $ry
     * @param  array<int, float>  $rz
     * @param  array<int, float>  $dx  m/s, to begin with
     * @param  array<int, float>  $dy
     * @param  array<int, float>  $dz
     * @param  array<int, true>  $held  points that keep that
     * @param  Contacts  $touch  what of it places keep
     * @param  list<Partner>  $partners  what is free that some of them touch, begun
     * @param  float  $first  what was left when the sub-step was begun, measured; 0 where this begins it
     * @param  bool  $last  whether it is not solved once more with other contacts
     * @return array{list<float>, list<float>, list<float>} m/s
     */
    public function solved(Matrix $matrix, array $inverses, array $rx, array $ry, array $rz, array $dx, array $dy, array $dz, array $held, Contacts $touch, array $partners, float &$first, bool $last = true): array
    {
        $n = count($rx);
        foreach ($held as $i => $_) {
            $rx[$i] = $ry[$i] = $rz[$i] = 0.0;
        }
        $touch->takeOut($rx, $ry, $rz, true);
        [$inverse, $levels] = $inverses;
        $lot = $this->levels->lots[0] ?? [];
        $none = array_fill(0, $this->levels->sizes[0] ?? 0, 0.0);
        $old = 1.0;
        $again = $first > 0.0;
        $qx = $qy = $qz = [];
        $closely = $this->close && $last && $touch->touch !== [];
        $rounds = $closely ? self::CLOSELY * self::ROUNDS : self::ROUNDS;
        $solved = $closely ? self::CLOSELY_SOLVED : self::SOLVED;
        for ($round = 0; $round < $rounds; $round++) {
            $zx = $zy = $zz = [];
            $rho = 0.0;
            if ($lot !== []) {
                $sx = $sy = $sz = $none;
                foreach ($lot as $i => $to) {
                    $sx[$to] += $rx[$i];
                    $sy[$to] += $ry[$i];
                    $sz[$to] += $rz[$i];
                }
                [$sx, $sy, $sz] = $this->levels->say($levels, $sx, $sy, $sz);
                $k = 0;
                foreach ($lot as $i => $to) {
                    $a = $rx[$i];
                    $b = $ry[$i];
                    $c = $rz[$i];
                    $zx[] = $x = $inverse[$k] * $a + $inverse[$k + 3] * $b + $inverse[$k + 5] * $c + $sx[$to];
                    $zy[] = $y = $inverse[$k + 3] * $a + $inverse[$k + 1] * $b + $inverse[$k + 4] * $c + $sy[$to];
                    $zz[] = $z = $inverse[$k + 5] * $a + $inverse[$k + 4] * $b + $inverse[$k + 2] * $c + $sz[$to];
                    $rho += $a * $x + $b * $y + $c * $z;
                    $k += 6;
                }
            } else {
                for ($i = 0, $k = 0; $i < $n; $i++, $k += 6) {
                    $a = $rx[$i];
                    $b = $ry[$i];
                    $c = $rz[$i];
                    $zx[] = $x = $inverse[$k] * $a + $inverse[$k + 3] * $b + $inverse[$k + 5] * $c;
                    $zy[] = $y = $inverse[$k + 3] * $a + $inverse[$k + 1] * $b + $inverse[$k + 4] * $c;
                    $zz[] = $z = $inverse[$k + 5] * $a + $inverse[$k + 4] * $b + $inverse[$k + 2] * $c;
                    $rho += $a * $x + $b * $y + $c * $z;
                }
            }
            foreach ($partners as $partner) {
                $rho += $partner->look();
            }
            $first = max($first, $round === 0 ? $rho : 0.0);
            if ($rho <= $solved * $first && ($round > 0 || $again) || $rho <= 1e-300) {
                break;
            }
            foreach ($held as $i => $_) {
                $zx[$i] = $zy[$i] = $zz[$i] = 0.0;
            }
            $touch->takeOut($zx, $zy, $zz);
            $beta = $round === 0 ? 0.0 : $rho / $old;
            if ($round === 0) {
                [$qx, $qy, $qz] = [$zx, $zy, $zz];
            } else {
                foreach ($zx as $i => $x) {
                    $qx[$i] = $x + $beta * $qx[$i];
                    $qy[$i] = $zy[$i] + $beta * $qy[$i];
                    $qz[$i] = $zz[$i] + $beta * $qz[$i];
                }
            }
            foreach ($partners as $partner) {
                $partner->turn($beta);
            }
            if ($partners !== []) {
                $touch->carry($qx, $qy, $qz);
            }
            [$ax, $ay, $az, $curve] = $matrix->times($qx, $qy, $qz);
            foreach ($partners as $partner) {
                $curve += $partner->resists();
            }
            if ($curve <= 0.0) {
                break;
            }
            $step = $rho / $curve;
            foreach ($qx as $i => $x) {
                $dx[$i] += $step * $x;
                $dy[$i] += $step * $qy[$i];
                $dz[$i] += $step * $qz[$i];
                $rx[$i] -= $step * $ax[$i];
                $ry[$i] -= $step * $ay[$i];
                $rz[$i] -= $step * $az[$i];
            }
            foreach ($held as $i => $_) {
                $rx[$i] = $ry[$i] = $rz[$i] = 0.0;
            }
            foreach ($partners as $partner) {
                $partner->go($step);
            }
            $touch->takeOut($rx, $ry, $rz, true);
            $old = $rho;
        }

        return [$dx, $dy, $dz];
    }
}
