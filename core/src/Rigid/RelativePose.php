<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** Where a second body is, seen from a first: its shift in the first's axes (3) and its turn (4). */
final class RelativePose
{
    /**
     * @param  array<int, float>  $m  rotation of the first
     * @param  float  $dx  from the first to the second, in the world; the turns are those of both
     * @return array{float, float, float, float, float, float, float}
     */
    public static function of(
        array $m, float $dx, float $dy, float $dz, float $ax, float $ay, float $az, float $aw, float $bx, float $by, float $bz, float $bw,
    ): array {
        return [
            $m[0] * $dx + $m[3] * $dy + $m[6] * $dz,
            $m[1] * $dx + $m[4] * $dy + $m[7] * $dz,
            $m[2] * $dx + $m[5] * $dy + $m[8] * $dz,
            $aw * $bx - $ax * $bw - $ay * $bz + $az * $by,
            $aw * $by + $ax * $bz - $ay * $bw - $az * $bx,
            $aw * $bz - $ax * $by + $ay * $bx - $az * $bw,
            $aw * $bw + $ax * $bx + $ay * $by + $az * $bz,
        ];
    }

    /**
     * Whether two of them differ so little that what was found of the one holds of the other.
     *
     * @param  array<int, float>  $now
     * @param  array<int, float>  $then
     * @param  float  $size  metres, of the smaller of the two
     */
    public static function isSame(array $now, array $then, float $size): bool
    {
        $dx = $now[0] - $then[0];
        $dy = $now[1] - $then[1];
        $dz = $now[2] - $then[2];
        $shift = Tolerances::REUSE_SHIFT * $size;
        if ($dx * $dx + $dy * $dy + $dz * $dz >= $shift * $shift) {
            return false;
        }
        $dot = $now[3] * $then[3] + $now[4] * $then[4] + $now[5] * $then[5] + $now[6] * $then[6];

        return $dot * $dot > 1.0 - 0.25 * Tolerances::REUSE_TURN * Tolerances::REUSE_TURN;
    }

    /**
     * @param  array<int, float>  $values
     * @return list<float> as a packed state keeps them, in single precision
     */
    public static function kept(array $values): array
    {
        return array_values(unpack('g*', pack('g*', ...$values)) ?: []);
    }
}
