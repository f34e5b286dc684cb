<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Geometry\Vec3;

/**
 * Where pieces were on the way that was gone last, from station to station: for frames that show moments in between. Between two
 * stations a piece flies on freely from the one and came freely to the other; where both ways cross it was hit. So free flight and a
 * single hit are as they were, and anything else is passed over evenly.
 */
final class Trail
{
    /** @var list<array{float, array<int, array<int, array{Pose, Vec3}>>}> seconds since its start, and pose and m/s of each piece by prop */
    private array $stations = [];

    public function begin(): void
    {
        $this->stations = [];
    }

    /** @param  array<int, array<int, array{Pose, Vec3}>>  $pieces  by prop and piece */
    public function add(float $seconds, array $pieces): void
    {
        $this->stations[] = [$seconds, $pieces];
    }

    /** Seconds it is long. */
    public function length(): float
    {
        return $this->stations === [] ? 0.0 : $this->stations[count($this->stations) - 1][0];
    }

    /** @return Pose|null null where it is not known */
    public function at(float $seconds, int $prop, int $piece, Vec3 $gravity): ?Pose
    {
        for ($k = count($this->stations) - 1; $k > 0; $k--) {
            if ($this->stations[$k - 1][0] <= $seconds) {
                break;
            }
        }
        $from = $this->stations[max(0, $k - 1)] ?? null;
        $to = $this->stations[max(0, $k)] ?? null;
        if ($from === null || $to === null || ! isset($from[1][$prop][$piece], $to[1][$prop][$piece])) {
            return null;
        }
        $span = $to[0] - $from[0];
        [$start, $speed] = $from[1][$prop][$piece];
        [$end, $came] = $to[1][$prop][$piece];
        if ($span <= 0.0 || $start->at == $end->at && $start->turn == $end->turn && $start->size === $end->size) {
            return $start;
        }
        $t = max(0.0, min($span, $seconds - $from[0]));
        $share = $t / $span;

        return new Pose(
            self::between($start, $speed, $end, $came, $t, $span, $gravity),
            $start->turn->towards($end->turn, $share),
            $start->size + $share * ($end->size - $start->size),
            $start->state === Pose::HELD ? Pose::HELD : $end->state,
        );
    }

    private static function between(Pose $start, Vec3 $speed, Pose $end, Vec3 $came, float $t, float $span, Vec3 $gravity): Vec3
    {
        if ($start->state !== Pose::MOVING || $end->state !== Pose::MOVING) {
            return $start->at->plus($end->at->minus($start->at)->times($t / $span));
        }
        $ahead = static fn (float $s): Vec3 => $start->at->plus($speed->times($s))->plus($gravity->times(0.5 * $s * $s));
        $back = static fn (float $s): Vec3 => $end->at->minus($came->times($span - $s))->plus($gravity->times(0.5 * ($span - $s) ** 2));
        // How far both ways are apart goes evenly with time: where they come nearest is the hit.
        $off = $ahead(0.0)->minus($back(0.0));
        $rate = $ahead($span)->minus($back($span))->minus($off);
        $square = $rate->dot($rate);
        $hit = $square > 1e-18 ? max(0.0, min(1.0, -$off->dot($rate) / $square)) : 0.5;
        $left = $off->plus($rate->times($hit));
        $share = $t / $span;

        // What is left between them there is made up for along either way.
        return $share < $hit ? $ahead($t)->minus($left->times(0.5 * $share / $hit)) : $back($t)->plus($left->times($hit < 1.0 ? 0.5 * (1.0 - $share) / (1.0 - $hit) : 0.0));
    }
}
