<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Quantity;
use YardBreak\Core\Rigid\Mortar\Bonded;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\Shot\Anchors;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What the mortar of a prop holds, before anything is baked: in words, and bond by bond. */
final readonly class MortarFigures
{
    /** A piece stands on the ground that reaches lower than this share of its size. */
    private const GROUNDED = 0.02;

    /** m/s at which it is said how heavy a thing breaks it. */
    private const SPEED = 5.0;

    /** More words than these numbers of bonds are of no use. */
    private const DIGITS = 5;

    /**
     * @param  list<string>  $words
     * @param  list<list<float|int>>  $sections  of each bond: its two pieces, its middle, half the two sides of a rectangle that stands for it (all in the prop's
     *   own coordinates), the share of the strength that it has, and how much of what it bears its own weight is
     */
    private function __construct(public array $words, public array $sections)
    {
    }

    /**
     * @param  list<Solid>  $solids
     * @param  list<Joint>  $joints
     */
    public static function of(ShotSpec $shot, PropSpec $prop, array $solids, array $joints, PropParts $parts): self
    {
        $mortar = $prop->motion->settings instanceof RigidSettings ? $prop->motion->settings->mortar : null;
        if ($mortar === null) {
            return new self([], []);
        }
        if (count($solids) < 2 || $joints === []) {
            return new self([count($solids) < 2 ? $prop->name.' is in one piece: there is nothing for mortar to hold together. Break it first.' : 'No two pieces of '.$prop->name.' lie face to face, so mortar holds nothing.'], []);
        }
        $names = array_map(static fn (Solid $s): string => $s->name, $solids);
        $anchors = array_keys(Anchors::of($shot, $prop, $names, static fn (int $piece): array => $solids[$piece]->corners(), $parts));
        if (count($anchors) === count($solids)) {
            return new self(['All pieces of '.$prop->name.' are anchored, so nothing of it can break off.'], []);
        }
        $bonded = new Bonded($joints, $solids, $prop->material->density, $mortar, false);
        $bonded->strengthen($mortar->amount((float) $shot->first), $mortar->map === '' ? null : (new MapRun($shot, $parts))->weightsAt($mortar->map, MapRun::PIECES, $shot->first));
        $bonded->letGo(array_values(array_diff(array_keys($solids), $anchors)));
        $feet = self::feet($shot, $prop, $solids);
        $place = $prop->place->at($shot->first);
        $strains = $bonded->underWeight($place->turn->inverse()->turn($shot->gravity->at($shot->first)), $feet);

        return new self([...self::standing($prop, $bonded, $strains, count($anchors), count(array_unique(array_column($feet, 0)))), ...self::hit($solids, $bonded, $anchors)], self::sections($bonded, $strains));
    }

    /**
     * @param  array<int, float>  $strains
     * @return list<string>
     */
    private static function standing(PropSpec $prop, Bonded $bonded, array $strains, int $anchors, int $feet): array
    {
        $clusters = count($bonded->groups());
        $holds = self::several($bonded->bonds->count(), 'bond').($clusters === 1 ? ' hold it together' : ' hold it together in '.$clusters.' parts');
        $by = match (true) {
            $anchors > 0 => '; it hangs on '.self::several($anchors, 'anchored piece').($feet > 0 ? ' and stands on the ground' : ''),
            $feet > 0 => '; it stands on the ground with '.self::several($feet, 'piece'),
            default => '; nothing bears it, so it falls as '.($clusters === 1 ? 'one' : $clusters),
        };
        if ($strains === []) {
            return [$holds.$by.'.'];
        }
        $over = count(array_filter($strains, static fn (float $s): bool => $s >= 1.0));

        return [$holds.$by.'.', $over > 0
            ? 'It does not bear its own weight: '.self::several($over, 'bond').' would break, the most strained has to bear '.self::times(max($strains)).' what it can.'
            : 'Its own weight is '.self::percent(max($strains)).' of what the most strained bond bears.'];
    }

    /**
     * What a hit on the piece nearest the middle may bring, straight at the thinnest side of it all.
     *
     * @param  list<Solid>  $solids
     * @param  list<int>  $anchors
     * @return list<string>
     */
    private static function hit(array $solids, Bonded $bonded, array $anchors): array
    {
        $all = array_map(static fn (Solid $s): Vec3 => $s->centre, $solids);
        $middle = Vec3::mean($all);
        $nearest = null;
        $spread = [0.0, 0.0, 0.0];
        foreach ($all as $piece => $at) {
            foreach ($at->minus($middle)->toArray() as $axis => $far) {
                $spread[$axis] += $far * $far;
            }
            if (! in_array($piece, $anchors, true) && ($nearest === null || $at->minus($middle)->length() < $all[$nearest]->minus($middle)->length())) {
                $nearest = $piece;
            }
        }
        if ($nearest === null) {
            return [];
        }
        $towards = array_map(static fn (float $s): float => $s === min($spread) ? 1.0 : 0.0, $spread);
        $strain = $bonded->underHit($nearest, Vec3::of($towards)->unit());

        return $strain <= 0.0 || ! is_finite($strain) ? [] : ['Hit square in its middle it bears '.Quantity::show(1.0 / $strain, 'N·s').': '.Quantity::show(1.0 / $strain / self::SPEED, 'kg').' at '.Quantity::show(self::SPEED, 'm/s').'.'];
    }

    /**
     * @param  list<Solid>  $solids
     * @return list<array{int, Vec3, Vec3}> corners that stand on the ground: piece, place and normal, in the prop's own coordinates
     */
    private static function feet(ShotSpec $shot, PropSpec $prop, array $solids): array
    {
        if ($shot->ground === null) {
            return [];
        }
        $place = $prop->place->at($shot->first);
        $up = $place->turn->inverse()->turn(new Vec3(0.0, 1.0, 0.0));
        $out = [];
        foreach ($solids as $piece => $solid) {
            [$x, $y, $z] = $solid->corners();
            foreach ($x as $i => $v) {
                $own = new Vec3($v, $y[$i], $z[$i]);
                $at = $place->point($own);
                if ($at->y - $shot->ground->height($at->x, $at->z) < self::GROUNDED * $solid->size()) {
                    $out[] = [$piece, $own, $up];
                }
            }
        }

        return $out;
    }

    /**
     * @param  array<int, float>  $strains
     * @return list<list<float|int>>
     */
    private static function sections(Bonded $bonded, array $strains): array
    {
        $bonds = $bonded->bonds;
        $out = [];
        for ($k = 0, $n = $bonds->count(); $k < $n; $k++) {
            [$u, $v] = $bonds->halves($k);
            $numbers = [...$bonds->middle[$k]->toArray(), ...$u->toArray(), ...$v->toArray(), $bonded->share($k), min(1e6, $strains[$k] ?? 0.0)];
            $out[] = [$bonds->one[$k], $bonds->other[$k], ...array_map(static fn (float $v): float => (float) sprintf('%.'.self::DIGITS.'g', $v), $numbers)];
        }

        return $out;
    }

    private static function several(int $count, string $of): string
    {
        return number_format($count).' '.$of.($count === 1 ? '' : 's');
    }

    private static function percent(float $share): string
    {
        return $share < 0.0005 ? 'less than 0.1 %' : trim(Quantity::show(100.0 * $share, '%', 2));
    }

    private static function times(float $share): string
    {
        return $share > 1e5 ? 'far more than' : trim(Quantity::show($share, '', 2)).' times';
    }
}
