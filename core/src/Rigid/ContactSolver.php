<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * Moves the bodies through one span in sub-steps.
 *
 * Position-based methods and one contact search with many rounds of the solver were weighed against small steps: splitting the
 * step beats going over it again at equal cost (Macklin et al. 2019, "Small steps in physics simulation"). So contacts are found a
 * few times a frame, and between two searches several sub-steps run with one round each; two searches with six sub-steps do for
 * most shots. Without the pass that takes out the push-out speed piles spread twice as far; springs of half the stiffness sag
 * three times as deep. Time goes by about two fifths into finding contacts and a third into what is here.
 *
 * Each sub-step: gravity, last impulses again, one pass of soft contacts, one from the ground up that shores high stacks, a move,
 * one pass that takes out the push-out speed and applies bounce. Contacts are springs of set stiffness and damping solved implicitly
 * (Catto 2011, "Soft constraints", game developers conference); friction is one two-way row and one twist row
 * a manifold, limited by Coulomb's cone.
 */
final class ContactSolver
{
    public function run(World $w, float $span, int $steps): void
    {
        [$mass, $inertia] = $inverse = $this->inverses($w);
        $c = $w->contacts;
        (new SubSteps($w, $c, [ContactRows::normal($w, $c, $inverse), ContactRows::friction($w, $c, $inverse)], $mass, $span / $steps))->run($steps);
    }

    /**
     * Inverse mass, and inverse inertia in world axes (six numbers), zero for what does not move.
     *
     * @return array{list<float>, list<float>}
     */
    private function inverses(World $w): array
    {
        $mass = $inertia = [];
        $state = $w->state;
        foreach ($state as $b => $s) {
            if ($s !== World::MOVING) {
                $mass[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;
                $inertia[] = 0.0;

                continue;
            }
            $mass[] = 1.0 / $w->mass[$b];
            [$a, $d, $f, $e, $g, $i] = $w->inverseInertia($b);
            $x = $w->qx[$b];
            $y = $w->qy[$b];
            $z = $w->qz[$b];
            $v = $w->qw[$b];
            $m00 = 1.0 - 2.0 * ($y * $y + $z * $z);
            $m01 = 2.0 * ($x * $y - $z * $v);
            $m02 = 2.0 * ($x * $z + $y * $v);
            $m10 = 2.0 * ($x * $y + $z * $v);
            $m11 = 1.0 - 2.0 * ($x * $x + $z * $z);
            $m12 = 2.0 * ($y * $z - $x * $v);
            $m20 = 2.0 * ($x * $z - $y * $v);
            $m21 = 2.0 * ($y * $z + $x * $v);
            $m22 = 1.0 - 2.0 * ($x * $x + $y * $y);
            $t00 = $m00 * $a + $m01 * $e + $m02 * $i;
            $t01 = $m00 * $e + $m01 * $d + $m02 * $g;
            $t02 = $m00 * $i + $m01 * $g + $m02 * $f;
            $t10 = $m10 * $a + $m11 * $e + $m12 * $i;
            $t11 = $m10 * $e + $m11 * $d + $m12 * $g;
            $t12 = $m10 * $i + $m11 * $g + $m12 * $f;
            $t20 = $m20 * $a + $m21 * $e + $m22 * $i;
            $t21 = $m20 * $e + $m21 * $d + $m22 * $g;
            $t22 = $m20 * $i + $m21 * $g + $m22 * $f;
            $inertia[] = $t00 * $m00 + $t01 * $m01 + $t02 * $m02;
            $inertia[] = $t10 * $m10 + $t11 * $m11 + $t12 * $m12;
            $inertia[] = $t20 * $m20 + $t21 * $m21 + $t22 * $m22;
            $inertia[] = $t00 * $m10 + $t01 * $m11 + $t02 * $m12;
            $inertia[] = $t10 * $m20 + $t11 * $m21 + $t12 * $m22;
            $inertia[] = $t00 * $m20 + $t01 * $m21 + $t02 * $m22;
        }
        // The ground, as the last body.
        $mass[] = 0.0;
        array_push($inertia, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);

        return [$mass, $inertia];
    }
}
