<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;

/** The contacts of a solve: places whose speeds are set along normals, and along surfaces where they stick. No two have a point in common. */
final readonly class Contacts
{
    /** @param  array<int, Contact>  $touch */
    public function __construct(public array $touch)
    {
    }

    /**
     * Takes out of what points have what contacts set.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     * @param  bool  $borne  whether what they touch bears it
     */
    public function takeOut(array &$x, array &$y, array &$z, bool $borne = false): void
    {
        foreach ($this->touch as $contact) {
            $u = $v = $w = 0.0;
            foreach ($contact->points as $k => $i) {
                $share = $contact->weights[$k];
                $u += $share * $x[$i];
                $v += $share * $y[$i];
                $w += $share * $z[$i];
            }
            $set = $contact->bound(new Vec3($u, $v, $w))->times(1.0 / $contact->square);
            self::add($contact, $set, -1.0, $x, $y, $z);
            if ($borne) {
                $contact->bear($set->x, $set->y, $set->z);
            }
        }
    }

    /**
     * Begins with all of them set.
     *
     * @param  \Closure(Contact): array{float, float, float}  $lacks  m/s that the place of one is short of what it is to have
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     */
    public function set(\Closure $lacks, array &$x, array &$y, array &$z): void
    {
        foreach ($this->touch as $contact) {
            self::add($contact, $contact->bound(new Vec3(...$lacks($contact))), 1.0 / $contact->square, $x, $y, $z);
        }
    }

    /**
     * Takes points along with what is free that they touch, as that turns next.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     */
    public function carry(array &$x, array &$y, array &$z): void
    {
        foreach ($this->touch as $contact) {
            if ($contact->partner !== null && $contact->arm !== null) {
                self::add($contact, $contact->bound($contact->partner->next($contact->arm)), 1.0 / $contact->square, $x, $y, $z);
            }
        }
    }

    /**
     * How points go with something free, and nothing else.
     *
     * @param  Vec3  $speed  m/s
     * @param  Vec3  $spin  rad/s
     * @return array<int, array{float, float, float}> by point that goes with it
     */
    public function moved(Partner $partner, Vec3 $speed, Vec3 $spin): array
    {
        $out = [];
        foreach ($this->touch as $contact) {
            if ($contact->partner !== $partner || $contact->arm === null) {
                continue;
            }
            $goes = $contact->bound($speed->plus($spin->cross($contact->arm)))->times(1.0 / $contact->square);
            foreach ($contact->points as $k => $i) {
                $out[$i] = $goes->times($contact->weights[$k])->toArray();
            }
        }

        return $out;
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     */
    private static function add(Contact $contact, Vec3 $what, float $times, array &$x, array &$y, array &$z): void
    {
        foreach ($contact->points as $k => $i) {
            $share = $times * $contact->weights[$k];
            $x[$i] += $share * $what->x;
            $y[$i] += $share * $what->y;
            $z[$i] += $share * $what->z;
        }
    }
}
