<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * What pushes the pieces of a prop and stays: as it is on the mean over a while, so that it does not depend on how finely time
 * is stepped. What comes all of a sudden is a hit instead.
 */
final class Bearing
{
    /** m/s: what would send a piece off so fast, if nothing held it, is a hit and no weight, where what pushes moves itself. */
    private const HIT = 2.0;

    /** s over which the mean is taken. */
    private const STEADY = 0.05;

    private const NOTHING = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

    /** @var array<int, array{float, float, float, float, float, float}> N and N·m about its middle, by piece: of what gives way */
    private array $pressed = [];

    /** @var array<int, array{float, float, float, float, float, float}> likewise of what does not */
    private array $carried = [];

    /** @var array<int, list<array{Vec3, Vec3}>> where that bears it, by piece: place, and normal into the piece */
    private array $feet = [];

    /**
     * @param  list<Vec3>  $middle  of the pieces
     * @param  list<float>  $mass  kg
     */
    public function __construct(private readonly array $middle, private readonly array $mass)
    {
    }

    /**
     * @param  array<int, list<Push>>  $pushes  of a span, by piece
     * @param  array<int, true>  $struck  pieces of which it is known that they were hit in it
     * @param  \Closure(int): bool  $rests  whether a piece rests: then what bears it goes on bearing it
     * @return list<array{int, Vec3, Vec3}> hits: piece, place, and N·s
     */
    public function take(array $pushes, array $struck, float $seconds, \Closure $rests): array
    {
        $hits = [];
        foreach ($pushes + $this->pressed + $this->carried + $this->feet as $piece => $_) {
            if (! isset($pushes[$piece]) && $rests($piece)) {
                continue;
            }
            $sums = [self::NOTHING, self::NOTHING];
            $feet = [];
            foreach (isset($struck[$piece]) ? [] : $pushes[$piece] ?? [] as $push) {
                $sums[(int) $push->firm] = self::plus($sums[(int) $push->firm], $push->impulse, $push->at->minus($this->middle[$piece])->cross($push->impulse));
                if ($push->firm) {
                    $feet[] = [$push->at, $push->normal];
                }
            }
            $now = self::force($sums[0]);
            $more = $now->minus(self::force($this->pressed[$piece] ?? self::NOTHING)->times($seconds));
            if ($more->length() > self::HIT * $this->mass[$piece] && $more->dot($now) > 0.0) {
                $hits[] = [$piece, $this->middle[$piece], $more];

                continue;
            }
            if ($feet !== []) {
                $this->feet[$piece] = $feet;
            } else {
                unset($this->feet[$piece]);
            }
            self::mean($this->pressed, $piece, $sums[0], $seconds, $this->mass[$piece]);
            self::mean($this->carried, $piece, $sums[1], $seconds, $this->mass[$piece]);
        }

        return $hits;
    }

    /**
     * Puts on a cluster what presses it, and what bears it.
     *
     * @return string what it is borne at: another, where that is another
     */
    public function load(Cluster $cluster): string
    {
        $places = '';
        foreach ($cluster->pieces as $piece) {
            if (isset($this->pressed[$piece])) {
                [$x, $y, $z, $p, $q, $r] = $this->pressed[$piece];
                $cluster->add($piece, new Vec3($x, $y, $z), new Vec3($p, $q, $r));
            }
            if (isset($this->carried[$piece])) {
                [$x, $y, $z, $p, $q, $r] = $this->carried[$piece];
                $cluster->carry($piece, new Vec3($x, $y, $z), new Vec3($p, $q, $r));
            }
            $places .= isset($this->feet[$piece]) ? $piece.' ' : '';
            foreach ($this->feet[$piece] ?? [] as [$at, $normal]) {
                $cluster->support($piece, $at, $normal);
            }
        }

        return $places;
    }

    /** @param  list<int>  $pieces */
    public function isFree(array $pieces): bool
    {
        foreach ($pieces as $piece) {
            if (isset($this->pressed[$piece]) || isset($this->carried[$piece])) {
                return false;
            }
        }

        return true;
    }

    public function pack(PackWriter $out): void
    {
        foreach ([$this->pressed, $this->carried] as $loads) {
            $out->small(array_keys($loads));
            $out->floats(array_merge(...array_values($loads)));
        }
        $out->small(array_keys($this->feet));
        $out->small(array_map(count(...), array_values($this->feet)));
        $flat = [];
        foreach ($this->feet as $feet) {
            foreach ($feet as [$at, $normal]) {
                array_push($flat, ...$at->toArray(), ...$normal->toArray());
            }
        }
        $out->floats($flat);
    }

    public function unpack(PackReader $in): void
    {
        [$this->pressed, $this->carried] = [self::loads($in), self::loads($in)];
        $pieces = $in->small();
        $counts = $in->small();
        $flat = array_chunk($in->floats(), 6);
        $this->feet = [];
        foreach ($pieces as $k => $piece) {
            $this->feet[$piece] = array_map(
                static fn (array $f): array => [new Vec3($f[0], $f[1], $f[2]), new Vec3($f[3], $f[4], $f[5])], array_splice($flat, 0, $counts[$k]),
            );
        }
    }

    /** @return array<int, array{float, float, float, float, float, float}> */
    private static function loads(PackReader $in): array
    {
        $out = [];
        $pieces = $in->small();
        foreach (array_chunk($in->floats(), 6) as $k => [$x, $y, $z, $p, $q, $r]) {
            $out[$pieces[$k]] = [$x, $y, $z, $p, $q, $r];
        }

        return $out;
    }

    /**
     * @param  array<int, array{float, float, float, float, float, float}>  $loads
     * @param  array{float, float, float, float, float, float}  $sum  of the span, N·s
     */
    private static function mean(array &$loads, int $piece, array $sum, float $seconds, float $mass): void
    {
        $left = min(1.0, $seconds / self::STEADY);
        $mean = $loads[$piece] ?? self::NOTHING;
        $most = 0.0;
        foreach ($sum as $k => $v) {
            $mean[$k] += $left * ($v / $seconds - $mean[$k]);
            $most = max($most, abs($mean[$k]));
        }
        // What has died away is none, so that nothing is looked at for ever.
        if ($most > 1e-3 * $mass) {
            $loads[$piece] = $mean;
        } else {
            unset($loads[$piece]);
        }
    }

    /** @param  array{float, float, float, float, float, float}  $load */
    private static function force(array $load): Vec3
    {
        return new Vec3($load[0], $load[1], $load[2]);
    }

    /**
     * @param  array{float, float, float, float, float, float}  $load
     * @return array{float, float, float, float, float, float}
     */
    private static function plus(array $load, Vec3 $force, Vec3 $moment): array
    {
        return [$load[0] + $force->x, $load[1] + $force->y, $load[2] + $force->z, $load[3] + $moment->x, $load[4] + $moment->y, $load[5] + $moment->z];
    }
}
