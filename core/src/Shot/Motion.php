<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Motion\Leads;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\Push\Push;
use YardBreak\Core\Motion\Push\PushCatalogue;
use YardBreak\Core\Motion\Settings;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Values;

/** How a prop moves, and what lets its pieces go. */
final readonly class Motion
{
    /**
     * @param  string  $kind  fixed, keyed, or one of the catalogue of movers
     * @param  class-string<Leads>|null  $ledBy  what leads its pieces until they are let go, if anything does
     * @param  class-string<Mover>|null  $movedBy  what moves its pieces once they are let go; null where they never are
     * @param  Settings|null  $settings  for what moves them then
     * @param  list<array{name: string, release: Release, pieces: list<string>}>  $groups  pieces let go in a way of their own
     * @param  list<string>  $anchors  pieces that stay held whatever happens
     * @param  AnchoredBy  $anchoredBy  what else anchors pieces
     * @param  list<array{class-string<Push>, Values, string}>  $pushes  what it is, its values, and the id of the map that says how much of it, or nothing
     * @param  Drift|null  $drift  how its pieces drift, where they do
     * @param  float  $simplify  metres that what others meet of it may lie off its surface, while it is held or driven
     * @param  list<string>  $passes  ids of props that it passes through, and they through it
     */
    public function __construct(
        public string $kind,
        public ?string $ledBy,
        public ?string $movedBy,
        public ?Settings $settings,
        public Release $release,
        public array $groups,
        public ?Follow $follow,
        public array $anchors,
        public AnchoredBy $anchoredBy,
        public array $pushes,
        public ?Drift $drift,
        public float $simplify,
        public array $passes,
    ) {
    }

    /**
     * @param  array<string, mixed>  $m  already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $m, Cues $cues, string $path, MoverCatalogue $movers): self
    {
        try {
            $movers->check($m['kind']);
        } catch (Problem $e) {
            throw $e->at($path);
        }
        $groups = $pushes = [];
        foreach ($m['groups'] ?? [] as $k => $group) {
            $groups[] = [
                'name' => $group['name'],
                'release' => Release::of($group['release'], $cues, $path.'.groups['.$k.'].release'),
                'pieces' => $group['pieces'],
            ];
        }
        foreach ($m['pushes'] ?? [] as $k => $push) {
            $class = PushCatalogue::PUSHES[$push['push']]
                ?? throw Problem::inValue(
                    $path.'.pushes['.$k.'].push',
                    'There is no push called "'.$push['push'].'".',
                    'Choose one of: '.implode(', ', array_keys(PushCatalogue::PUSHES)).'.',
                );
            try {
                $pushes[] = [$class, Values::of($class::options(), $push['values'], $cues), $push['map'] ?? ''];
            } catch (Problem $e) {
                throw $e->at($path.'.pushes['.$k.'].values');
            }
        }

        $drift = null;
        if ($m['kind'] === 'drift') {
            try {
                $drift = Drift::of(
                    $m['drift'] ?? throw Problem::inValue('', 'It is to drift, but nothing says how.', 'Choose a weight map and a move on the Motion stage.'),
                    $cues,
                );
            } catch (Problem $e) {
                throw $e->at($path.'.drift');
            }
        }

        $leader = $movers->leader($m['kind']);
        $mover = $movers->mover($m['kind']);
        try {
            $settings = $mover::settings(Values::of($mover::options(), $m['values'] ?? [], $cues));
        } catch (Problem $e) {
            throw $e->at($path.'.values');
        }
        $letsGo = $leader === null ? isset($movers->movers[$m['kind']]) : ($m['drift']['handOver'] ?? false);

        return new self(
            $m['kind'], $leader, $letsGo ? $mover : null, $letsGo ? $settings : null,
            Release::of($m['release'] ?? ['on' => 'frame', 'frame' => 0], $cues, $path.'.release'), $groups,
            Follow::of($m['follow'] ?? null), $m['anchors'] ?? [], AnchoredBy::of($m['anchoredBy'] ?? null), $pushes, $drift, (float) ($m['simplify'] ?? 0.0), $m['passes'] ?? [],
        );
    }

    /** Whether its pieces are ever let go. */
    public function letsGo(): bool
    {
        return $this->movedBy !== null;
    }

    /** What others meet of it, in a word: what that is made of its pieces is kept under. */
    public function collidesAs(): string
    {
        return $this->letsGo() ? $this->settings?->shape().(($this->settings?->ball() ?? 0.0) > 0.0 ? '-'.$this->settings->ball() : '') : 'surfaces'.($this->simplify > 0.0 ? '-'.$this->simplify : '');
    }

    /** Whether keys alone say where it is. */
    public function goesByKeys(): bool
    {
        return $this->ledBy === null && $this->movedBy === null;
    }

    /** Whether points of its surface move by themselves. */
    public function waves(): bool
    {
        return $this->movedBy !== null && in_array(StreamKind::Points, $this->movedBy::streams(), true);
    }

    /** Whether it must have mass. */
    public function needsMass(): bool
    {
        return $this->movedBy !== null && $this->movedBy::needsMass();
    }

    /**
     * What lets each piece go: of two groups the last one counts.
     *
     * @param  list<string>  $names  of the pieces
     * @return list<Release|null> null for anchors
     */
    public function releases(array $names): array
    {
        $own = [];
        foreach ($this->groups as $group) {
            $own = array_replace($own, array_fill_keys($group['pieces'], $group['release']));
        }
        $own = array_replace($own, array_fill_keys($this->anchors, null));

        return array_map(fn (string $name): ?Release => array_key_exists($name, $own) ? $own[$name] : $this->release, $names);
    }

    /** Whether a touch may let any of its pieces go. */
    public function waitsForTouch(): bool
    {
        return $this->letsGo()
            && $this->release->waitsForTouch()
            || array_filter($this->groups, static fn (array $g): bool => $g['release']->waitsForTouch()) !== [];
    }

    /** @return list<string> ids of the maps that say how far pieces drift, which go when, or how much they are pushed */
    public function maps(): array
    {
        $maps = $this->letsGo() ? $this->mapsNamed() : array_intersect_key($this->mapsNamed(), ['drift.map' => '']);

        return array_values(array_unique($maps));
    }

    /** @return array<string, string> ids of the maps it names, by where it does, whether they act or not */
    public function mapsNamed(): array
    {
        $out = ['drift.map' => $this->drift->map ?? '', 'release.map' => $this->release->map, 'anchoredBy.map' => $this->anchoredBy->map];
        foreach ($this->groups as $k => $group) {
            $out['groups['.$k.'].release.map'] = $group['release']->map;
        }
        foreach ($this->pushes as $k => [, , $map]) {
            $out['pushes['.$k.'].map'] = $map;
        }

        foreach ($this->settings?->maps() ?? [] as $option => $map) {
            $out['values.'.$option] = $map;
        }

        return array_filter($out, static fn (string $map): bool => $map !== '');
    }

    public function acts(Acts $acts, Cues $cues): void
    {
        $acts->always('kind of motion', [$this->kind, $this->letsGo()]);
        $acts->always('simplified', $this->letsGo() ? 0.0 : $this->simplify);
        $acts->always('passes through', $this->passes);
        $this->drift?->acts($acts, $this->letsGo());
        if ($this->settings === null) {
            return;
        }
        $acts->always('anchors', $this->anchors);
        $this->anchoredBy->acts($acts);
        $this->follow?->acts($acts);
        $atAnyTime = $this->pushes !== [] || $this->follow !== null;
        $acts->always('groups', array_column($this->groups, 'pieces'));
        $moments = [];
        $releases = [
            ['release', $this->release],
            ...array_map(static fn (array $group): array => ['release of '.$group['name'], $group['release']], $this->groups),
        ];
        foreach ($releases as $k => [$name, $release]) {
            $moment = $release->acts($acts, 'release '.$k, $name, $cues);
            if ($moment !== null) {
                $moments[] = [$moment, 'release '.$k, $name];
            }
            $atAnyTime = $atAnyTime || ! $release->isAtItsMoment();
        }
        $this->settings->acts($acts, $moments, $atAnyTime);
        foreach ($this->pushes as $k => [$class, $values, $map]) {
            $acts->always('kind of push '.($k + 1), [$class, $map], 'push '.($k + 1));
            $values->acts($acts, 'push '.($k + 1));
            if ($map !== '') {
                $acts->map($map, true);
            }
        }
    }
}
