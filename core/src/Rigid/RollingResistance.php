<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Geometry\Vec3;

/**
 * What rolls presses a little ahead of its middle, and so is slowed: a moment of μ_r·R·N against its spin, R half its size (the
 * coefficient of rolling friction of the trade's tables as a length is μ_r·R). A ball rolling on the level then loses 5/7·μ_r·g.
 */
final class RollingResistance
{
    /** @param  int  $steps  sub-steps of the span that was gone through */
    public static function act(World $w, int $steps): void
    {
        $pressed = [];
        $c = $w->contacts;
        foreach ($c->a as $m => $a) {
            $sum = 0.0;
            for ($k = $c->first[$m], $end = $c->first[$m + 1]; $k < $end; $k++) {
                $sum += $c->push[$k];
            }
            if ($sum > 0.0) {
                $pressed[$a] = ($pressed[$a] ?? 0.0) + $sum;
                $pressed[$c->b[$m]] = ($pressed[$c->b[$m]] ?? 0.0) + $sum;
            }
        }
        foreach ($pressed as $b => $impulse) {
            $share = $b < 0 || $w->state[$b] !== World::MOVING ? 0.0 : ($w->rolling[$w->groupOf($b)] ?? 0.0);
            $spin = $share > 0.0 ? new Vec3($w->wx[$b], $w->wy[$b], $w->wz[$b]) : Vec3::zero();
            $fast = $spin->length();
            if ($fast <= 0.0) {
                continue;
            }
            $momentum = $w->angularMomentum($b);
            $inertia = abs($momentum->dot($spin)) / ($fast * $fast);
            $lost = $share * 0.5 * $w->size[$b] * $impulse * $steps / max(1e-30, $inertia);
            $k = $lost >= $fast ? 0.0 : 1.0 - $lost / $fast;
            $w->wx[$b] *= $k;
            $w->wy[$b] *= $k;
            $w->wz[$b] *= $k;
        }
    }
}
