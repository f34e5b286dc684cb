<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;

/**
 * The contacts of a solve: places whose speeds are set along normals, and along surfaces where they stick. Those that have points in common
 * are set together, by their own small system; of what depends on others the first counts.
 */
final class Contacts
{
    /** Share of itself that a condition must have for itself, beside those before it, to count. */
    private const OWN = 0.4;

    /** Conditions at most that are set together. */
    private const MOST = 120;

    private const AXES = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]];

    /** @var list<list<array{Contact, float, float, float}>> conditions by group: contact, and the direction */
    private array $groups = [];

    /** @var list<list<list<float>>> by group: rows of the lower half of what conditions have in common, decomposed (Cholesky) */
    private array $roots = [];

    /** @param  array<int, Contact>  $touch  the most important first */
    public function __construct(public readonly array $touch)
    {
        foreach (self::together($touch) as $contacts) {
            $this->group($contacts);
        }
    }

    /**
     * @param  array<int, Contact>  $touch
     * @return array<int, non-empty-list<Contact>> those that have points in common, in their order
     */
    private static function together(array $touch): array
    {
        /** @var array<int, int> $root */
        $root = [];
        $first = [];
        $find = static function (int $k) use (&$root): int {
            while ($root[$k] !== $k) {
                $k = $root[$k];
            }

            return $k;
        };
        foreach ($touch as $key => $contact) {
            $root[$key] = $key;
            foreach ($contact->points as $i) {
                if (isset($first[$i])) {
                    $root[$find($key)] = $find($first[$i]);
                } else {
                    $first[$i] = $key;
                }
            }
        }
        $out = [];
        foreach ($touch as $key => $contact) {
            $out[$find($key)][] = $contact;
        }

        return $out;
    }

    /** @param  list<Contact>  $contacts */
    private function group(array $contacts): void
    {
        $rows = $roots = [];
        foreach ($contacts as $contact) {
            foreach ($contact->sticks ? self::AXES : [[$contact->nx, $contact->ny, $contact->nz]] as [$x, $y, $z]) {
                if (count($rows) >= self::MOST) {
                    break;
                }
                $root = [];
                $own = $contact->square;
                foreach ($rows as $k => [$other, $u, $v, $w]) {
                    $sum = $contact === $other ? 0.0 : self::common($contact, $other) * ($x * $u + $y * $v + $z * $w);
                    foreach ($root as $j => $done) {
                        $sum -= $done * $roots[$k][$j];
                    }
                    $root[] = $sum /= $roots[$k][$k];
                    $own -= $sum * $sum;
                }
                if ($own > self::OWN * $contact->square) {
                    $root[] = sqrt($own);
                    $rows[] = [$contact, $x, $y, $z];
                    $roots[] = $root;
                }
            }
        }
        $this->groups[] = $rows;
        $this->roots[] = $roots;
    }

    /** How much of two places is the same. */
    private static function common(Contact $one, Contact $other): float
    {
        $sum = 0.0;
        foreach ($one->points as $k => $i) {
            foreach ($other->points as $l => $j) {
                $sum += $i === $j ? $one->weights[$k] * $other->weights[$l] : 0.0;
            }
        }

        return $sum;
    }

    /**
     * Takes out of what points have what goes along conditions.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     * @param  bool  $borne  whether what they touch bears it
     */
    public function takeOut(array &$x, array &$y, array &$z, bool $borne = false): void
    {
        foreach ($this->groups as $g => $rows) {
            $along = [];
            foreach ($rows as [$contact, $u, $v, $w]) {
                $sum = 0.0;
                foreach ($contact->points as $k => $i) {
                    $sum += $contact->weights[$k] * ($u * $x[$i] + $v * $y[$i] + $w * $z[$i]);
                }
                $along[] = $sum;
            }
            $this->add($g, $along, -1.0, $x, $y, $z);
            if ($borne) {
                foreach ($this->solved($g, $along) as $r => $force) {
                    [$contact, $u, $v, $w] = $rows[$r];
                    $contact->bear($force * $u, $force * $v, $force * $w);
                }
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
        foreach ($this->groups as $g => $rows) {
            $along = [];
            foreach ($rows as [$contact, $u, $v, $w]) {
                [$a, $b, $c] = $lacks($contact);
                $along[] = $u * $a + $v * $b + $w * $c;
            }
            $this->add($g, $along, 1.0, $x, $y, $z);
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
        foreach ($this->groups as $g => $rows) {
            $along = [];
            $any = false;
            foreach ($rows as [$contact, $u, $v, $w]) {
                $speed = $contact->partner?->next($contact->arm ?? Vec3::zero());
                $along[] = $speed === null ? 0.0 : $u * $speed->x + $v * $speed->y + $w * $speed->z;
                $any = $any || $speed !== null;
            }
            if ($any) {
                $this->add($g, $along, 1.0, $x, $y, $z);
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
        $x = $y = $z = [];
        foreach ($this->groups as $g => $rows) {
            $along = [];
            $any = false;
            foreach ($rows as [$contact, $u, $v, $w]) {
                $at = $contact->partner === $partner ? $speed->plus($spin->cross($contact->arm ?? Vec3::zero())) : Vec3::zero();
                $any = $any || $contact->partner === $partner;
                $along[] = $u * $at->x + $v * $at->y + $w * $at->z;
            }
            if (! $any) {
                continue;
            }
            foreach ($rows as [$contact]) {
                foreach ($contact->points as $i) {
                    $x[$i] ??= 0.0;
                    $y[$i] ??= 0.0;
                    $z[$i] ??= 0.0;
                }
            }
            $this->add($g, $along, 1.0, $x, $y, $z);
        }
        $out = [];
        foreach ($x as $i => $u) {
            $out[$i] = [$u, $y[$i], $z[$i]];
        }

        return $out;
    }

    /**
     * Points go so that conditions of a group have so much more.
     *
     * @param  list<float>  $along
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  array<int, float>  $z
     */
    private function add(int $g, array $along, float $times, array &$x, array &$y, array &$z): void
    {
        foreach ($this->solved($g, $along) as $r => $force) {
            [$contact, $u, $v, $w] = $this->groups[$g][$r];
            foreach ($contact->points as $k => $i) {
                $f = $times * $contact->weights[$k] * $force;
                $x[$i] += $f * $u;
                $y[$i] += $f * $v;
                $z[$i] += $f * $w;
            }
        }
    }

    /**
     * @param  list<float>  $along
     * @return list<float>
     */
    private function solved(int $g, array $along): array
    {
        $roots = $this->roots[$g];
        $n = count($along);
        for ($r = 0; $r < $n; $r++) {
            $root = $roots[$r];
            $sum = $along[$r];
            for ($c = 0; $c < $r; $c++) {
                $sum -= $root[$c] * $along[$c];
            }
            $along[$r] = $sum / $root[$r];
        }
        for ($r = $n - 1; $r >= 0; $r--) {
            $sum = $along[$r];
            for ($c = $r + 1; $c < $n; $c++) {
                $sum -= $roots[$c][$r] * $along[$c];
            }
            $along[$r] = $sum / $roots[$r][$r];
        }

        return $along;
    }
}
