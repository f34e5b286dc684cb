<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Collide\SurfaceGap;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Quantity;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What is doubtful about what pieces fall on: where it has holes, what it costs, and what begins within it. */
final class ColliderCheck
{
    /** Faces from which it is said what they cost. */
    private const MANY = 100_000;

    /** Share of its size that it is offered to be off. */
    private const OFF = 5e-4;

    /** Seconds and bytes a face as they were measured on one core, about. */
    private const SECONDS = 4e-5;

    private const BYTES = 480;

    /** Faces beyond which it is not looked what begins within: that takes seconds there. */
    private const MOST_LOOKED = 120_000;

    /** Share of its thickness from which a piece lies deep in something, and of that one's size below which nothing does. */
    private const DEEP = 0.5;

    /** Share of it by which a point must lie within to count as such: what fits into a hole touches its wall. */
    private const JUST = 0.05;

    private const CLEAR = 1e-4;

    /** Points of a piece that are looked at, at most. */
    private const POINTS = 24;

    /** Of all of cloth. */
    private const OF_CLOTH = 1000;

    /** Heights that are tried to lift a prop clear. */
    private const LIFTS = 16;

    /** Places beside each other from which it is looked down on the ground. */
    private const SIGHTS = 3;

    /** @var array<string, Aabb> by prop, at the first frame */
    private array $boxes = [];

    /** @var array<string, list<array{ContactSurface, Vec3}>> by prop: of its pieces, and what in its coordinates each lies about */
    private array $surfaces = [];

    /**
     * @param  (\Closure(PropSpec): (list<Shard>|null))|null  $pieces  of a broken prop, as far as they are made
     * @param  (\Closure(PropSpec): (list<Solid>|null))|null  $solids  the pieces of a held prop as a bake takes them, as far as they are there
     */
    public function __construct(private readonly ShotSpec $shot, private readonly PropMaker $maker, private readonly ?\Closure $pieces, private readonly ?\Closure $solids = null)
    {
    }

    /** @param  \Closure(string, string, string, string, array<string, mixed>): void  $say  as of `SiteCheck` */
    public function asCollider(PropSpec $prop, Fitness $fitness, \Closure $say): void
    {
        if (! $fitness->oriented && $prop->break === null) {
            $say(
                'doubtful',
                '.source',
                'its faces point to one side and the other in turn'.($fitness->closed ? ', so what hits it may be let through.' : '; what falls on it meets them as if they were turned alike.'),
                'Use the repair "orient" on the Props stage.',
                [],
            );
        }
        if ($fitness->faces >= self::MANY && $prop->motion->simplify <= 0.0) {
            $off = self::roundedUp(self::OFF * $fitness->bounds->diagonal());
            $say('doubtful', '.source', sprintf(
                'what falls on it meets all its %s faces: that takes about %s once, and %s while it is baked.',
                number_format($fitness->faces),
                Quantity::show(self::SECONDS * $fitness->faces, 's'),
                number_format(self::BYTES * $fitness->faces / 1e6).' MB',
            ), 'Let what others meet of it lie a little off its surface, or remesh it with longer edges on the Props stage.', ['mends' => [[
                'label' => 'Simplify to '.Quantity::show($off, 'm'),
                'patch' => [['op' => 'add', 'path' => '/props/'.$this->shot->numberOf($prop->id).'/motion/simplify', 'value' => $off]],
            ]]]);
        }
    }

    /** @param  \Closure(string, string, string, string, array<string, mixed>): void  $say */
    public function asFalling(PropSpec $prop, \Closure $say): void
    {
        $this->overHoles($prop, $say);
        foreach ($this->shot->props as $other) {
            if ($other->id !== $prop->id && ! $other->motion->letsGo()) {
                try {
                    $this->within($prop, $other, $say);
                } catch (Problem) {
                    // What is wrong with the other is said where that is.
                }
            }
        }
    }

    /**
     * Cloth that begins within what it is to meet, or nearer to it than it keeps off.
     *
     * @param  \Closure(string, string, string, string, array<string, mixed>): void  $say
     */
    public function asCloth(PropSpec $prop, \Closure $say): void
    {
        $settings = $prop->motion->settings;
        if (! $settings instanceof ClothSettings) {
            return;
        }
        // What is held, or let go later, may lie wherever its prop does until then.
        $when = $prop->motion->release->on === 'frame' ? $prop->motion->release->when?->at($this->shot->moments) : null;
        // Loose pieces begin on what they come off.
        $loose = $prop->break !== null && $settings->seam === null;
        $free = $settings->hold === '' && $when !== null && $when <= $this->shot->first;
        foreach ($this->shot->props as $other) {
            // What is free and broken lies where it was cut, in pieces too many to be looked through.
            if ($other->id === $prop->id || $other->motion->waves() || $other->motion->letsGo() && $other->break !== null) {
                continue;
            }
            if (! $free && ($prop->place->moves() || $other->place->moves())) {
                continue;
            }
            try {
                $surfaces = $this->boxOf($prop)->grown($settings->thickness)->meets($this->boxOf($other)) ? $this->surfaces($other) : [];
                $place = $this->placeOf($other)->inverse()->after($this->placeOf($prop));
                $off = $settings->thickness / $this->placeOf($other)->size;
                $depths = $surfaces === [] ? [] : array_map(static fn (Vec3 $p): float => self::depth($surfaces, [$p], $off), $this->someOf($prop, $place));
            } catch (Problem) {
                // What is wrong with the other is said where that is.
                continue;
            }
            $clear = self::CLEAR * $this->boxOf($other)->diagonal();
            $within = array_filter($depths, static fn (float $depth): bool => $depth > $clear);
            if (! $loose && $within === [] && $depths !== [] && max($depths) > -(1.0 - self::JUST) * $off) {
                $gap = max(0.0, -max($depths)) * $this->placeOf($other)->size;
                $say(
                    'doubtful', '.motion.values.thickness', sprintf('it keeps %s off what it meets, but has only %s to %s: it is pushed out by %s.', Quantity::show($settings->thickness, 'm', 2), Quantity::show($gap, 'm', 2), $other->name, Quantity::show($settings->thickness - $gap, 'm', 2)),
                    'Give it a thinner fabric, or move it farther from '.$other->name.'.', [],
                );
            }
            if ($free && $within !== []) {
                $say(
                    'doubtful', '.motion', sprintf('%d %% of it begins inside %s, %s deep at most: it is pushed out slowly.', max(1, (int) round(100 * count($within) / count($depths))), $other->name, Quantity::show(max($within) * $this->placeOf($other)->size, 'm', 1)),
                    'Move it clear of '.$other->name.', or hold it there by a map.', [],
                );
            }
        }
    }

    /** @param  \Closure(string, string, string, string, array<string, mixed>): void  $say */
    private function overHoles(PropSpec $prop, \Closure $say): void
    {
        $ground = $this->shot->ground === null ? $this->shot->prop($this->shot->groundProp) : null;
        if ($ground === null || $ground->id === $prop->id) {
            return;
        }
        $mesh = $this->placed($ground);
        $all = $this->boxOf($ground);
        $box = $this->boxOf($prop);
        $holes = $beyond = [];
        for ($i = 0; $i < self::SIGHTS; $i++) {
            for ($k = 0; $k < self::SIGHTS; $k++) {
                $x = $box->low->x + ($box->high->x - $box->low->x) * ($i + 0.5) / self::SIGHTS;
                $z = $box->low->z + ($box->high->z - $box->low->z) * ($k + 0.5) / self::SIGHTS;
                if (! self::isUnder($mesh, $x, $z)) {
                    $inside = $x > $all->low->x && $x < $all->high->x && $z > $all->low->z && $z < $all->high->z;
                    $inside ? $holes[] = [$x, $z] : $beyond[] = [$x, $z];
                }
            }
        }
        $at = static fn (array $place): string => Quantity::show($place[0], 'm').', '.Quantity::show($place[1], 'm');
        if ($holes !== []) {
            $say('doubtful', '.place.position', $ground->name.' has a hole under it, at x, z = '.$at($holes[0]).': what falls there falls for ever.', 'Use the repair "fill" on '.$ground->name.' on the Props stage, or move '.$prop->name.'.', []);
        } elseif ($beyond !== []) {
            $say('doubtful', '.place.position', $ground->name.' ends before x, z = '.$at($beyond[0]).', over which it stands: what falls there falls for ever.', 'Move '.$prop->name.', or make '.$ground->name.' larger.', []);
        }
    }

    /** @param  \Closure(string, string, string, string, array<string, mixed>): void  $say */
    private function within(PropSpec $prop, PropSpec $other, \Closure $say): void
    {
        $box = $this->boxOf($prop);
        $around = $this->boxOf($other);
        if (! $box->meets($around)) {
            return;
        }
        $surfaces = $this->surfaces($other);
        if ($surfaces === []) {
            return;
        }
        $pieces = $this->points($prop, $this->placeOf($other)->inverse()->after($this->placeOf($prop)));
        $shards = $this->piecesOf($prop);
        $deep = array_keys(array_filter(
            $pieces,
            static fn (array $points, int $k): bool => ! in_array($shards[$k]->name, $prop->motion->anchors, true)
                && self::isDeep($surfaces, $points, $shards[$k]->thickness()),
            ARRAY_FILTER_USE_BOTH,
        ));
        if ($deep === []) {
            return;
        }
        $names = array_map(static fn (Shard $s): string => $s->name, $shards);
        $broken = $prop->break !== null;
        $first = implode(', ', array_map(static fn (int $k): string => $names[$k], array_slice($deep, 0, 3))).(count($deep) > 3 ? ' …' : '');
        $mends = [];
        $position = $prop->place->position;
        $number = $this->shot->numberOf($prop->id);
        $lift = $position->y->isConstant() ? $this->lift($surfaces, $other, $prop, $around->high->y - $box->low->y) : null;
        if ($lift !== null) {
            $mends[] = [
                'label' => 'Lift it by '.Quantity::show($lift, 'm'),
                'patch' => [['op' => 'replace', 'path' => "/props/$number/place/position/1", 'value' => round($position->y->at($this->shot->first) + $lift, 6)]],
            ];
        }
        if ($broken && count($deep) < count($pieces)) {
            $kept = array_values(array_unique([...$prop->motion->anchors, ...array_map(static fn (int $k): string => $names[$k], $deep)]));
            $mends[] = ['label' => count($deep) === 1 ? 'Hold that piece' : 'Hold these '.count($deep), 'patch' => [['op' => 'add', 'path' => "/props/$number/motion/anchors", 'value' => $kept]]];
        }
        $say(
            'doubtful',
            '.motion',
            ($broken ? (count($deep) === 1 ? 'one of its pieces begins' : count($deep).' of its pieces begin') : 'it begins').' deep inside '.$other->name.($broken ? ': '.$first : '').'; it is pressed out wherever that is nearest.',
            'Move it clear of '.$other->name.($broken ? ', or hold those pieces.' : '.'),
            ['mends' => $mends] + ($broken ? ['pieces' => $deep] : []),
        );
    }

    /**
     * Metres by which a prop is to be lifted so that nothing of it lies within another.
     *
     * @param  list<array{ContactSurface, Vec3}>  $surfaces  of the other
     */
    private function lift(array $surfaces, PropSpec $other, PropSpec $prop, float $most): ?float
    {
        $place = $this->placeOf($prop);
        for ($k = 1; $k <= self::LIFTS; $k++) {
            $lift = self::roundedUp($most * $k / self::LIFTS);
            $there = new Placement($place->position->plus(new Vec3(0.0, $lift, 0.0)), $place->turn, $place->size);
            $points = array_merge(...$this->points($prop, $this->placeOf($other)->inverse()->after($there)));
            if (self::depth($surfaces, $points) < self::CLEAR * $this->boxOf($other)->diagonal()) {
                return $lift;
            }
        }

        return null;
    }

    /** To two digits. */
    private static function roundedUp(float $length): float
    {
        $digit = 10.0 ** (floor(log10(max(1e-9, $length))) - 1.0);

        return (float) sprintf('%.6g', $digit * ceil($length / $digit));
    }

    /**
     * Whether a point of it lies half its thickness within, or most of them lie within at all.
     *
     * @param  list<array{ContactSurface, Vec3}>  $surfaces
     * @param  list<Vec3>  $points  in their axes
     */
    private static function isDeep(array $surfaces, array $points, float $thickness): bool
    {
        $depths = array_map(static fn (Vec3 $p): float => self::depth($surfaces, [$p]), $points);

        return max($depths) > self::DEEP * $thickness || 2 * count(array_filter($depths, static fn (float $d): bool => $d > self::JUST * $thickness)) > count($points);
    }

    /**
     * @param  list<array{ContactSurface, Vec3}>  $surfaces
     * @param  list<Vec3>  $points  in their axes
     * @param  float  $off  metres
     * @return float metres, how far the deepest of them lies within one; below 0 how near to one, where that is nearer than `off`
     */
    private static function depth(array $surfaces, array $points, float $off = 0.0): float
    {
        $deepest = -$off;
        foreach ($surfaces as [$surface, $about]) {
            [$x0, $x1, $y0, $y1, $z0, $z1] = $surface->box;
            foreach ($points as $p) {
                [$x, $y, $z] = [$p->x - $about->x, $p->y - $about->y, $p->z - $about->z];
                if ($x > $x0 - $off && $x < $x1 + $off && $y > $y0 - $off && $y < $y1 + $off && $z > $z0 - $off && $z < $z1 + $off) {
                    $deepest = max($deepest, -SurfaceGap::to($surface, $x, $y, $z, $surface->size));
                }
            }
        }

        return $deepest;
    }

    /**
     * Some points of each piece of a prop.
     *
     * @return list<list<Vec3>>
     */
    private function points(PropSpec $prop, Placement $place): array
    {
        $out = [];
        foreach ($this->piecesOf($prop) as $shard) {
            $m = $shard->mesh;
            $step = max(1, intdiv(count($m->x), self::POINTS));
            $points = [];
            for ($v = 0, $n = count($m->x); $v < $n; $v += $step) {
                $points[] = $place->point(new Vec3($m->x[$v], $m->y[$v], $m->z[$v]));
            }
            $out[] = $points;
        }

        return $out;
    }

    /** @return list<Vec3> some points of all its pieces */
    private function someOf(PropSpec $prop, Placement $place): array
    {
        $pieces = $this->piecesOf($prop);
        $step = max(1, (int) ceil(array_sum(array_map(static fn (Shard $s): int => count($s->mesh->x), $pieces)) / self::OF_CLOTH));
        $out = [];
        $next = 0;
        foreach ($pieces as $shard) {
            $m = $shard->mesh;
            for ($n = count($m->x); $next < $n; $next += $step) {
                $out[] = $place->point(new Vec3($m->x[$next], $m->y[$next], $m->z[$next]));
            }
            $next -= $n;
        }

        return $out;
    }

    /** @return list<Shard> of a broken prop only what is made of it */
    private function piecesOf(PropSpec $prop): array
    {
        return $prop->break === null ? [PropMaker::asOne($this->maker->mesh($prop))] : ($this->pieces === null ? [] : ($this->pieces)($prop) ?? []);
    }

    /** @return list<array{ContactSurface, Vec3}> of what of a held prop encloses anything; none where its pieces are not made yet, or very fine */
    private function surfaces(PropSpec $prop): array
    {
        if (! isset($this->surfaces[$prop->id])) {
            $kept = $this->solids === null ? null : ($this->solids)($prop);
            $all = $kept !== null
                ? array_map(static fn (Solid $s): array => [$s->surface, $s->centre], $kept)
                : array_map(static fn (Shard $s): array => [new ContactSurface($s->mesh), Vec3::zero()], $this->coarse($this->piecesOf($prop)));
            $this->surfaces[$prop->id] = [];
            foreach ($all as [$surface, $about]) {
                if ($surface !== null && $surface->closed) {
                    $this->surfaces[$prop->id][] = [$surface, $about];
                }
            }
        }

        return $this->surfaces[$prop->id];
    }

    /**
     * @param  list<Shard>  $pieces
     * @return list<Shard> none where finding their surfaces would take seconds
     */
    private function coarse(array $pieces): array
    {
        return array_sum(array_map(static fn (Shard $s): int => $s->mesh->faceCount(), $pieces)) > self::MOST_LOOKED ? [] : $pieces;
    }

    private function placeOf(PropSpec $prop): Placement
    {
        return $prop->place->at($this->shot->first);
    }

    private function placed(PropSpec $prop): Mesh
    {
        return $this->maker->mesh($prop)->placed($this->placeOf($prop));
    }

    private function boxOf(PropSpec $prop): Aabb
    {
        return $this->boxes[$prop->id] ??= Aabb::around($this->placed($prop));
    }

    /** Whether a mesh lies under, or over, a place on the plan. */
    private static function isUnder(Mesh $mesh, float $x, float $z): bool
    {
        $f = $mesh->faces;
        for ($i = 0, $n = count($f); $i < $n; $i += 3) {
            [$a, $b, $c] = [$f[$i], $f[$i + 1], $f[$i + 2]];
            [$ax, $bx, $cx] = [$mesh->x[$a] - $x, $mesh->x[$b] - $x, $mesh->x[$c] - $x];
            if ($ax > 0.0 && $bx > 0.0 && $cx > 0.0 || $ax < 0.0 && $bx < 0.0 && $cx < 0.0) {
                continue;
            }
            [$az, $bz, $cz] = [$mesh->z[$a] - $z, $mesh->z[$b] - $z, $mesh->z[$c] - $z];
            $u = $ax * $bz - $az * $bx;
            $v = $bx * $cz - $bz * $cx;
            $w = $cx * $az - $cz * $ax;
            if ($u >= 0.0 && $v >= 0.0 && $w >= 0.0 && $u + $v + $w > 0.0 || $u <= 0.0 && $v <= 0.0 && $w <= 0.0 && $u + $v + $w < 0.0) {
                return true;
            }
        }

        return false;
    }
}
