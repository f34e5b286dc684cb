<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Motion\Push\Push;
use YardBreak\Core\Motion\Push\PushCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track3;
use YardBreak\Core\Timing\Values;

/** How a prop moves, and what lets its pieces go. */
final readonly class Motion
{
    /**
     * @param  'fixed'|'keyed'|'free'|'drift'  $kind
     * @param  'still'|'whole'  $held  what a free prop does until release: stay, or move as one piece
     * @param  list<array{name: string, release: Release, pieces: list<string>}>  $groups  pieces let go in a way of their own
     * @param  list<string>  $anchors  pieces that stay held whatever happens
     * @param  list<array{class-string<Push>, Values, string}>  $pushes  what it is, its values, and the id of the map that says how much of it, or nothing
     * @param  Drift|null  $drift  how its pieces drift, where they do
     * @param  bool  $handsOver  whether drifting pieces that are released are moved by physics from then on
     * @param  Track3  $velocity  m/s, what pieces are pushed with as they are let go
     * @param  Track3  $spin  °/s
     */
    public function __construct(
        public string $kind,
        public string $held,
        public Release $release,
        public array $groups,
        public ?Follow $follow,
        public array $anchors,
        public array $pushes,
        public ?Drift $drift,
        public bool $handsOver,
        public Track3 $velocity,
        public Track3 $spin,
    ) {
    }

    /**
     * @param  array<string, mixed>  $m  already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $m, Cues $cues, string $path): self
    {
        $groups = $pushes = [];
        foreach ($m['groups'] ?? [] as $k => $group) {
            $groups[] = ['name' => $group['name'], 'release' => Release::of($group['release'], $cues, $path.'.groups['.$k.'].release'), 'pieces' => $group['pieces']];
        }
        foreach ($m['pushes'] ?? [] as $k => $push) {
            $class = PushCatalogue::PUSHES[$push['push']] ?? throw Problem::inValue($path.'.pushes['.$k.'].push', 'There is no push called "'.$push['push'].'".', 'Choose one of: '.implode(', ', array_keys(PushCatalogue::PUSHES)).'.');
            try {
                $pushes[] = [$class, Values::of($class::options(), $push['values'], $cues), $push['map'] ?? ''];
            } catch (Problem $e) {
                throw $e->at($path.'.pushes['.$k.'].values');
            }
        }

        $drift = null;
        if ($m['kind'] === 'drift') {
            try {
                $drift = Drift::of($m['drift'] ?? throw Problem::inValue('', 'It is to drift, but nothing says how.', 'Choose a weight map and a move on the Motion stage.'), $cues);
            } catch (Problem $e) {
                throw $e->at($path.'.drift');
            }
        }

        return new self(
            $m['kind'], $m['held'] ?? 'still',
            Release::of($m['release'] ?? ['on' => 'frame', 'frame' => 0], $cues, $path.'.release'), $groups,
            Follow::of($m['follow'] ?? null), $m['anchors'] ?? [], $pushes, $drift, $drift !== null && ($m['drift']['handOver'] ?? false),
            Reading::point($m['velocity'] ?? [0, 0, 0], $cues, $path.'.velocity'), Reading::point($m['spin'] ?? [0, 0, 0], $cues, $path.'.spin'),
        );
    }

    public function isFree(): bool
    {
        return $this->kind === 'free';
    }

    /** Whether its pieces are ever let go to physics. */
    public function letsGo(): bool
    {
        return $this->kind === 'free' || $this->handsOver;
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
        return $this->letsGo() && $this->release->waitsForTouch() || array_filter($this->groups, static fn (array $g): bool => $g['release']->waitsForTouch()) !== [];
    }

    /** @return list<string> ids of the maps that say how far pieces drift, which go when, or how much they are pushed */
    public function maps(): array
    {
        $maps = [$this->drift->map ?? '', ...$this->letsGo() ? [$this->release->map, ...array_map(static fn (array $g): string => $g['release']->map, $this->groups), ...array_column($this->pushes, 2)] : []];

        return array_values(array_unique(array_filter($maps, static fn (string $m): bool => $m !== '')));
    }

    public function acts(Acts $acts, Cues $cues): void
    {
        $acts->always('kind of motion', [$this->kind, $this->handsOver]);
        $this->drift?->acts($acts, $this->handsOver);
        if (! $this->letsGo()) {
            return;
        }
        $acts->always('kind of release', [$this->held, $this->anchors]);
        $this->follow?->acts($acts);
        $pushes = $this->pushes !== [] || $this->follow !== null || $this->held !== 'still';
        $acts->always('groups', array_column($this->groups, 'pieces'));
        $releases = [['release', $this->release], ...array_map(static fn (array $group): array => ['release of '.$group['name'], $group['release']], $this->groups)];
        foreach ($releases as $k => [$name, $release]) {
            $moment = $release->acts($acts, 'release '.$k, $name, $cues);
            if ($moment !== null) {
                $frame = $acts->frameOf($moment);
                $acts->at($frame, 'let go '.$k, [$this->velocity->at($frame)->toArray(), $this->spin->at($frame)->toArray()], $name);
            }
            $pushes = $pushes || ! $release->isAtItsMoment();
        }
        // What is let go at a moment is pushed then; otherwise a push may act at any time.
        if ($pushes) {
            $this->velocity->acts($acts, 'velocity');
            $this->spin->acts($acts, 'spin');
        }
        foreach ($this->pushes as $k => [$class, $values, $map]) {
            $acts->always('kind of push '.($k + 1), [$class, $map], 'push '.($k + 1));
            $values->acts($acts, 'push '.($k + 1));
            if ($map !== '') {
                $acts->map($map, true);
            }
        }
    }
}
