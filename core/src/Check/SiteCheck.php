<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Born\FromCracks;
use YardBreak\Core\Dust\Born\WhereMap;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Quantity;
use YardBreak\Core\Rigid\RigidSettings;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Weight\Coverage;

/** What is wrong or doubtful about a shot before it is baked: all of it at once, each with its place and remedy. */
final class SiteCheck
{
    /** Faces below which cloth is too coarse to fold: ten squares by ten (common practice). */
    private const FEW_TO_FOLD = 200;

    /** Share of a prop that must have come before physics has it. */
    private const COME = 0.999;

    public function __construct(private readonly PropMaker $maker)
    {
    }

    /**
     * @param  (callable(PropSpec): int)|null  $unusable  how many of a prop's pieces are too thin to be moved, as far as they are made
     * @param  (\Closure(string, int): (Coverage|null))|null  $coverage  how far a map has got at a frame, as far as that is worked out
     * @param  (\Closure(PropSpec): (list<Shard>|null))|null  $pieces  of a broken prop, as far as they are made
     * @param  (\Closure(PropSpec): (list<Solid>|null))|null  $solids  the pieces of a held prop as a bake takes them, as far as they are there
     * @return list<array{level: 'wrong'|'doubtful', path: string, prop: string, message: string, remedy: string, pieces?: list<int>, mends?: list<array{label: string, patch: list<array<string, mixed>>}>}>
     *   which pieces it is about, and edits that mend it
     */
    public function of(ShotSpec $shot, ?callable $unusable = null, ?\Closure $coverage = null, ?\Closure $pieces = null, ?\Closure $solids = null): array
    {
        $out = [];
        $colliders = new ColliderCheck($shot, $this->maker, $pieces, $solids);
        $free = false;
        foreach ($shot->props as $prop) {
            $path = 'props['.$shot->numberOf($prop->id).']';
            $say = static function (string $level, string $at, string $message, string $remedy, array $more = []) use (&$out, $path, $prop): void {
                /** @var 'wrong'|'doubtful' $level */
                $out[] = ['level' => $level, 'path' => $path.$at, 'prop' => $prop->id, 'message' => $prop->name.': '.$message, 'remedy' => $remedy] + $more;
            };
            $free = $free || $prop->motion->letsGo() || $prop->dust !== [];
            try {
                $fitness = $this->maker->fitness($prop);
            } catch (Problem $e) {
                $say('wrong', '.source', $e->getMessage(), $e->remedy);

                continue;
            }
            $cut = $prop->break !== null && (BreakCatalogue::needsSolid($prop->break) || ! $fitness->canPart());
            if (! $fitness->canBreak() && ($cut || $prop->motion->needsMass())) {
                foreach ($fitness->faults() as $fault) {
                    $say(
                        'wrong',
                        '.source',
                        $fault['fault'],
                        $fault['repair'] === null ? 'Mend the mesh where it was made.' : 'Use the repair "'.$fault['repair'].'" on the Props stage.',
                    );
                }
            }
            if ($cut && $fitness->canBreak() && $fitness->passesThroughItself()) {
                $say('doubtful', '.source', 'its surface passes through itself, so cuts through that place fail.', 'Use "rebuild" on the Props stage.');
            }
            if (
                $prop->motion->needsMass()
                && $prop->break !== null
                && $prop->break['pattern'] === 'flakes'
                && ($prop->break['values']['thickness'] ?? 1.0) <= 0.0
            ) {
                $say(
                    'wrong',
                    '.break.values.thickness',
                    'its flakes have no thickness, so they have no mass and cannot fall.',
                    'Give them a thickness on the Break stage, or make the prop fixed.',
                );
            }
            $films = $unusable === null || ! $prop->motion->needsMass() ? 0 : $unusable($prop);
            if ($films > 0) {
                $say(
                    'doubtful',
                    '.break',
                    ($films === 1 ? 'one of its pieces is a film' : $films.' of its pieces are films').', too thin to be moved well.',
                    'Take the next seed, or break it into fewer pieces.',
                );
            }
            $size = $fitness->bounds->diagonal();
            if ($size > 500 || $size < 0.005) {
                $say('doubtful', '.source', 'it is '.Quantity::show($size, 'm').' across.', 'Check the unit it was brought in with.');
            }
            $this->motion($shot, $prop, $fitness->bounds, $say, $coverage);
            self::holding($prop, $say, $pieces);
            self::pouring($shot, $prop, $fitness->bounds, $say);
            self::fabric($prop, $fitness, $say, $pieces);
            if (! $prop->motion->letsGo()) {
                $colliders->asCollider($prop, $fitness, $say);
            } elseif ($prop->motion->ledBy === null && ! $prop->motion->waves()) {
                $colliders->asFalling($prop, $say);
            } elseif ($prop->motion->settings instanceof ClothSettings) {
                $colliders->asCloth($prop, $say);
            }
        }
        if (! $free && array_filter($shot->props, Evaluation::needs(...)) === []) {
            $out[] = [
                'level' => 'doubtful',
                'path' => 'props',
                'prop' => '',
                'message' => 'Nothing is free to move, so the bake will only show what is keyed.',
                'remedy' => 'On the Motion stage, set a prop to Free.',
            ];
        }

        return [...$out, ...self::forces($shot), ...TimeCheck::of($shot)];
    }

    /**
     * Fabric that cannot do what is asked of it.
     *
     * @param  \Closure(string, string, string, string): void  $say
     * @param  (\Closure(PropSpec): (list<Shard>|null))|null  $pieces
     */
    private static function fabric(PropSpec $prop, Fitness $fitness, \Closure $say, ?\Closure $pieces): void
    {
        $settings = $prop->motion->settings;
        if (! $settings instanceof ClothSettings) {
            return;
        }
        if ($fitness->faces < self::FEW_TO_FOLD) {
            $say('doubtful', '.source', 'it is cloth of '.($fitness->faces === 1 ? 'one face' : $fitness->faces.' faces').': it bends at the edges between them only, and these are too few to fold.', 'Give it more segments, or remesh it with shorter edges on the Props stage.');
        }
        if ($fitness->nonmanifoldEdges > 0) {
            $say('doubtful', '.source', 'more than two faces meet at '.($fitness->nonmanifoldEdges === 1 ? 'one of its edges' : $fitness->nonmanifoldEdges.' of its edges').': as cloth it is stiffer there.', 'Use "rebuild" on the Props stage where that is not wanted.');
        }
        if ($fitness->boundaryEdges > 0 && $settings->puffs()) {
            $say('doubtful', '.motion.values.pressure', 'its surface is open, so pressure carries it off rather than puffing it up.', 'Hold it at its rim by a map, or close it with the repair "fill" on the Props stage.');
        }
        if (0.5 * $prop->finish->thickness > $settings->thickness) {
            $say('doubtful', '.finish.thickness', 'finished it is '.Quantity::show($prop->finish->thickness, 'm', 2).' thick, half of it to either side, but it keeps only '.Quantity::show($settings->thickness, 'm', 2).' off what it meets: that shows through.', 'Finish it thinner, or choose a fabric of its own that is '.Quantity::show(0.5 * $prop->finish->thickness, 'm', 2).' thick.');
        }
        $shards = $settings->seam === null || $prop->break === null || $pieces === null ? null : $pieces($prop);
        if ($shards !== null && array_filter($shards, static fn (Shard $s): bool => $s->mass->volume <= 0.0) === []) {
            $say('doubtful', '.motion.values.seams', 'its pieces are closed, so there are no rims for seams to sew together.', 'Break it in flakes of no thickness, with no core, or take its seams away.');
        }
    }

    /**
     * Dust that would come to more grains at once than there may be, or whose grains are wider than what they come from.
     *
     * @param  \Closure(string, string, string, string): void  $say
     */
    private static function pouring(ShotSpec $shot, PropSpec $prop, Aabb $bounds, \Closure $say): void
    {
        $wide = max($bounds->size()->toArray());
        foreach ($prop->dust as $k => $dust) {
            $grain = $dust->grain((float) $shot->first);
            if ($grain->size * (1.0 + $grain->varies) > $wide) {
                $say(
                    'doubtful', '.dust['.$k.'].values.size', 'grains of its dust '.$dust->name.' are up to '.Quantity::show($grain->size * (1.0 + $grain->varies), 'm').' across, wider than itself.',
                    'Make them smaller: it is '.Quantity::show($wide, 'm').' across.',
                );
            }
            $rates = $dust->rates($shot->first, $shot->last);
            $life = max(1, (int) ceil($dust->grain((float) $shot->first)->life / $shot->frameTime()));
            $most = $at = 0.0;
            foreach ($rates as $frame => $rate) {
                $at += ($rate - ($rates[$frame - $life] ?? 0.0)) * $shot->frameTime();
                $most = max($most, $at);
            }
            if ($most > Birthplace::MOST) {
                $fits = max($rates) * Birthplace::MOST / $most;
                $say(
                    'doubtful', '.dust['.$k.'].values.rate', 'its dust '.$dust->name.' would come to '.number_format($most).' grains at once; there are '.number_format(Birthplace::MOST).' at most.',
                    'Pour no more than '.number_format(floor($fits)).' a second, or let them last less long.',
                );
            }
        }
    }

    /**
     * What mortar and anchors hold, or cannot.
     *
     * @param  \Closure(string, string, string, string): void  $say
     * @param  (\Closure(PropSpec): (list<Shard>|null))|null  $pieces
     */
    private static function holding(PropSpec $prop, \Closure $say, ?\Closure $pieces): void
    {
        $settings = $prop->motion->settings;
        $cracks = $settings instanceof RigidSettings && $settings->mortar !== null && $prop->break !== null;
        foreach ($prop->dust as $k => $dust) {
            if ($dust->source === WhereMap::class && $dust->map() === '') {
                $say('doubtful', '.dust['.$k.'].values.map', 'its dust '.$dust->name.' goes by no map yet, so there is none.', 'Choose one of its maps on the Motion stage.');
            }
            if ($dust->source === FromCracks::class && ! $cracks) {
                $say('doubtful', '.dust['.$k.']', 'its dust '.$dust->name.' comes from cracks, but it has no mortar that could crack.', 'Give it mortar on the Motion stage, or let the dust come from what moves.');
            }
        }
        if ($settings instanceof RigidSettings && $settings->mortar !== null) {
            $idle = match (true) {
                $prop->break === null => ['it is in one piece, so its mortar has nothing to hold together.', 'Break it on the Break stage, or take its mortar away.'],
                $prop->motion->ledBy !== null => ['it is led until its pieces are let go one by one, so its mortar holds nothing.', 'Make it Free, or take its mortar away.'],
                ! $prop->place->size->isConstant() => ['its size is keyed, so its mortar holds nothing.', 'Key something else, or take its mortar away.'],
                default => null,
            };
            if ($idle !== null) {
                $say('doubtful', '.motion.values.mortar', ...$idle);
            }
        }
        $anchors = $prop->motion->anchors;
        if ($prop->motion->letsGo() && $anchors !== [] && $prop->break !== null) {
            $names = array_map(static fn (Shard $s): string => $s->name, ($pieces === null ? null : $pieces($prop)) ?? []);
            if ($names !== [] && array_diff($names, $anchors) === []) {
                $say('doubtful', '.motion.anchors', 'all of its pieces are anchored, so nothing of it moves.', 'Free some of them on the Motion stage.');
            }
        }
    }

    /**
     * @param  \Closure(string, string, string, string): void  $say
     * @param  (\Closure(string, int): (Coverage|null))|null  $coverage
     */
    private function motion(ShotSpec $shot, PropSpec $prop, Aabb $box, \Closure $say, ?\Closure $coverage): void
    {
        $this->handOver($shot, $prop, $say, $coverage);
        foreach ($prop->motion->drift?->reads((float) $shot->first) ?? [] as $id) {
            if ($shot->prop($id)?->motion->letsGo() === true) {
                $say(
                    'doubtful',
                    '.motion.drift',
                    'it drifts toward '.$shot->prop($id)->name.', which physics moves; it goes to where that stands before.',
                    'Drift toward a keyed prop, or toward a point.',
                );
            }
        }
        if (! $prop->motion->letsGo() || $prop->motion->ledBy !== null) {
            return;
        }
        $release = $prop->motion->release->when?->at($shot->moments);
        if ($release !== null && $release > $shot->last) {
            $say('doubtful', '.motion.release', 'it is released at frame '.$release.', after the last frame.', 'Set an earlier frame, or a later end.');
        }
        if (
            $prop->motion->release->waitsForTouch()
            && $prop->motion->settings?->movesHeld() !== true
            && ! $prop->place->moves()
            && ! $this->somethingMoves($shot, $prop)
        ) {
            $say(
                'doubtful',
                '.motion.release.on',
                'it waits for a touch, but nothing else moves.',
                'Let it fall as one piece, key a striker, or release it at a frame.',
            );
        }
        if (! $shot->hasGround() && $shot->gravity->y->at($shot->first) < 0 && ! $this->somethingStands($shot, $prop)) {
            $say('doubtful', '.motion', 'there is no ground, so its pieces will fall for ever.', 'Switch the ground on.');
        }
        $place = $prop->place->at($shot->first);
        $lowest = INF;
        foreach ([$box->low, $box->high] as $a) {
            foreach ([$box->low, $box->high] as $b) {
                foreach ([$box->low, $box->high] as $c) {
                    $corner = $place->point(new Vec3($a->x, $b->y, $c->z));
                    $lowest = min($lowest, $corner->y - ($shot->ground?->height($corner->x, $corner->z) ?? 0.0));
                }
            }
        }
        if ($shot->ground !== null && $lowest < -0.02 * $box->diagonal()) {
            $say(
                'doubtful',
                '.place.position',
                'it reaches '.Quantity::show(-$lowest, 'm').' below the ground.',
                'Raise it, or its pieces will be pressed out.',
            );
        }
    }

    /** @return list<array{level: 'doubtful', path: string, prop: string, message: string, remedy: string}> forces that act on nothing, or are nothing */
    private static function forces(ShotSpec $shot): array
    {
        $out = [];
        foreach ($shot->forces as $k => $force) {
            $say = static function (string $at, string $message, string $remedy) use (&$out, $k, $force): void {
                $out[] = ['level' => 'doubtful', 'path' => 'forces['.$k.']'.$at, 'prop' => '', 'message' => $force->name.': '.$message, 'remedy' => $remedy];
            };
            $moved = array_filter($shot->props, static fn (PropSpec $p): bool => ($p->motion->letsGo() || $p->dust !== []) && $force->actsOn($p->id));
            if ($moved === []) {
                $say('.on', 'it acts on nothing that physics moves.', 'Let it act on a prop that is free or gives off dust, or make one so on the Motion stage.');
            } elseif ($force->map !== '' && array_filter($moved, static fn (PropSpec $p): bool => $p->id === $shot->map($force->map)?->prop) === []) {
                $say('.map', 'it goes by a weight map of a prop that it does not act on.', 'Choose a map of what it acts on, or none.');
            }
            if ($force->isNever()) {
                $say('.amount', 'there is none of it at any frame.', 'Raise its amount, or remove it.');
            }
            if ($force->isOfNoDensity()) {
                $say('.values.density', 'it has no density, so nothing is slowed or borne by it.', 'Give it one above 0: air has 1.2 kg/m³.');
            }
        }

        return $out;
    }

    /**
     * Pieces that come must have come before physics has them.
     *
     * @param  \Closure(string, string, string, string): void  $say
     * @param  (\Closure(string, int): (Coverage|null))|null  $coverage
     */
    private function handOver(ShotSpec $shot, PropSpec $prop, \Closure $say, ?\Closure $coverage): void
    {
        $drift = $prop->motion->letsGo() ? $prop->motion->drift : null;
        $at = $prop->motion->release->when?->at($shot->moments);
        if ($drift === null || ! $drift->assemble || $at === null || $at > $shot->last) {
            return;
        }
        $frame = max($shot->first, (int) ceil($at));
        $full = $coverage === null ? null : $coverage($drift->map, $frame)?->full;
        if ($full !== null && $full < self::COME) {
            $say(
                'doubtful',
                '.motion.release.frame',
                'it is handed over to physics at frame '.$frame.', where only '.round(100.0 * $full).' % of it has come.',
                'Let it go at the frame at which its map is full, or let the map fill sooner.',
            );
        }
    }

    private function somethingMoves(ShotSpec $shot, PropSpec $but): bool
    {
        foreach ($shot->props as $p) {
            if ($p->id !== $but->id && $p->motion->kind !== 'fixed') {
                return true;
            }
        }

        return false;
    }

    private function somethingStands(ShotSpec $shot, PropSpec $but): bool
    {
        foreach ($shot->props as $p) {
            if ($p->id !== $but->id && ! $p->motion->letsGo()) {
                return true;
            }
        }

        return false;
    }
}
