<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\Shot\Release;
use YardBreak\Core\Shot\ShotSpec;

/** Which pieces are still held, what lets them go, and when that is, as soon as it is known. */
final class Holds
{
    /** @var array<int, array<int, true>> pieces held, by number of a free prop */
    private array $held = [];

    /** @var array<int, array<int, float>> the frame at which a piece goes, by prop and piece, where that is known */
    private array $due = [];

    /** @var array<int, array<int, float>> when pieces were let go whose neighbours have not been looked at yet, by prop and piece */
    private array $gone = [];

    /** @var array<int, array<int, float>> weights of the frame before, by prop and piece */
    private array $before = [];

    /** @var array<int, bool> by prop */
    private array $began = [];

    /** @var array<int, list<Release|null>> by prop and piece */
    private array $releases = [];

    /** @var array<string, list<float>> frames pieces wait, by prop and release */
    private array $waits = [];

    /** @var array<int, array<int, list<int>>> pieces beside a piece, by prop */
    private array $beside = [];

    /**
     * @param  list<Prepared>  $props  in the order of the shot
     */
    public function __construct(private ShotSpec $shot, private readonly array $props)
    {
        foreach ($shot->props as $k => $prop) {
            if ($prop->motion->letsGo()) {
                $this->held[$k] = array_fill_keys(array_keys($props[$k]->names), true);
                $this->releases[$k] = $this->releasesOf($k);
            }
        }
    }

    /** @return list<Release|null> of each piece of a prop; null of those that stay held */
    private function releasesOf(int $k): array
    {
        $out = [];
        foreach ($this->shot->props[$k]->motion->releases($this->props[$k]->names) as $piece => $release) {
            $out[] = isset($this->props[$k]->anchored[$piece]) ? null : $release;
        }

        return $out;
    }

    /** Takes over the shot as it is from now on. */
    public function follow(ShotSpec $shot): void
    {
        $this->shot = $shot;
        foreach (array_keys($this->releases) as $k) {
            $this->releases[$k] = $this->releasesOf($k);
        }
        $this->waits = [];
    }

    /**
     * What a frame lets go.
     *
     * @param  callable(string, int): list<float>  $weights  of the pieces of a map's prop at a frame
     * @return array<int, list<int>> pieces by number of the prop
     */
    public function due(int $frame, callable $weights): array
    {
        $out = [];
        foreach (array_keys($this->held) as $k) {
            if ($this->held[$k] === []) {
                continue;
            }
            $this->byMoments($k, $frame);
            $this->byWeights($k, $frame, $weights);
            // Neighbours of what goes now may go in the same frame.
            do {
                $now = [];
                foreach ($this->held[$k] as $piece => $_) {
                    if (($this->due[$k][$piece] ?? INF) <= $frame + 1e-9) {
                        $now[] = $piece;
                    }
                }
                foreach ($now as $piece) {
                    $out[$k][] = $piece;
                    $this->letGo($k, [$piece], max($this->due[$k][$piece], (float) $this->shot->first));
                }
                $this->followNeighbours($k, $frame);
            } while ($now !== []);
        }

        return $out;
    }

    /**
     * What a touch lets go at once; what it lets go later is known from then on.
     *
     * @param  string  $other  id of what touched, or `ground`
     * @param  callable(int): Vec3  $place  where a piece of the prop is now
     * @return list<int> pieces
     */
    public function touched(Touch $touch, string $other, callable $place): array
    {
        $k = $touch->prop;
        $this->began[$k] = false;
        $held = $this->held[$k] ?? [];
        if (! isset($held[$touch->piece])) {
            return [];
        }
        // A piece that does not wait for touches is none that is touched, unless a blow on it is one on all it moves with.
        if (! $touch->asOne && ! ($this->releases[$k][$touch->piece]?->waitsForTouch() ?? false)) {
            return [];
        }
        $now = [];
        foreach ($held as $piece => $_) {
            $release = $this->releases[$k][$piece];
            if ($release === null || ! $release->counts($other, $touch->speed)) {
                continue;
            }
            $far = $release->reach === null && $release->on === 'touch'
                ? 0.0
                : ($piece === $touch->piece && $release->on === 'touch' ? 0.0 : $place($piece)->minus($touch->at)->length());
            if ($release->reach !== null && $far > $release->reach) {
                continue;
            }
            $this->began[$k] = true;
            $later = $this->wait($k, $piece, $release) + ($release->on === 'shockwave' ? $far / $release->wave / $this->shot->frameTime() : 0.0);
            if ($later <= 0.0) {
                $now[] = $piece;
            } else {
                $this->set($k, $piece, $this->shot->pace->later($touch->frame, $later));
            }
        }

        return $now;
    }

    /** @param  list<int>  $pieces */
    public function letGo(int $prop, array $pieces, float $frame): void
    {
        foreach ($pieces as $piece) {
            unset($this->held[$prop][$piece], $this->due[$prop][$piece]);
            if ($this->shot->props[$prop]->motion->follow !== null) {
                $this->gone[$prop][$piece] = $frame;
            }
        }
    }

    /** Whether the last touch of a prop let something of it go, or began what will. */
    public function began(int $prop): bool
    {
        return $this->began[$prop] ?? false;
    }

    /** @return list<int> the numbers of a prop's pieces */
    public function pieces(int $prop): array
    {
        return array_keys($this->props[$prop]->names);
    }

    /** @return list<int> pieces of a prop that are held and may be let go */
    public function heldPieces(int $prop): array
    {
        return array_values(array_filter(array_keys($this->held[$prop] ?? []), fn (int $piece): bool => $this->releases[$prop][$piece] !== null));
    }

    /** Whether a touch could still let something of a prop go. */
    public function waitsForTouch(int $prop): bool
    {
        return ($this->held[$prop] ?? []) !== [] && $this->shot->props[$prop]->motion->waitsForTouch();
    }

    /** @return int pieces of a prop that were let go */
    public function released(int $prop): int
    {
        return isset($this->held[$prop]) ? count($this->props[$prop]->names) - count($this->held[$prop]) : 0;
    }

    /** @return array{held: object, due: object, gone: object, before: object} all that cannot be told from the shot */
    public function state(): array
    {
        return [
            'held' => (object) array_map(array_keys(...), $this->held),
            'due' => self::object($this->due),
            'gone' => self::object($this->gone),
            'before' => self::object($this->before),
        ];
    }

    /** @param  array{held: array<int, list<int>>, due: array<int, array<int, float>>, gone: array<int, array<int, float>>, before: array<int, array<int, float>>}  $state */
    public function restore(array $state): void
    {
        foreach ($state['held'] as $prop => $pieces) {
            $this->held[$prop] = array_fill_keys($pieces, true);
        }
        $floats = static fn (array $by): array => array_map(static fn (array $own): array => array_map(floatval(...), $own), $by);
        $this->due = $floats($state['due']);
        $this->gone = $floats($state['gone']);
        $this->before = $floats($state['before']);
    }

    /** @param  array<int, array<int, float>>  $by */
    private static function object(array $by): object
    {
        return (object) array_map(static fn (array $own): object => (object) $own, array_filter($by));
    }

    /** What goes at a moment that is known, or as a shockwave that starts at one reaches it. */
    private function byMoments(int $k, int $frame): void
    {
        $place = null;
        foreach ($this->held[$k] as $piece => $_) {
            $release = $this->releases[$k][$piece];
            if ($release?->when === null || isset($this->due[$k][$piece])) {
                continue;
            }
            $at = $release->when->at($this->shot->moments);
            if ($at === null || $at > $frame) {
                continue;
            }
            $later = $this->wait($k, $piece, $release);
            if ($release->on === 'shockwave' && $release->from !== null) {
                $place ??= $this->shot->props[$k]->place->at($at);
                $far = $this->props[$k]->middles[$piece]->minus($release->from)->length() * $place->size;
                if ($release->reach !== null && $far > $release->reach) {
                    continue;
                }
                $later += $far / $release->wave / $this->shot->frameTime();
            }
            $this->set($k, $piece, $this->shot->pace->later($at, $later));
        }
    }

    /** @param  callable(string, int): list<float>  $weights */
    private function byWeights(int $k, int $frame, callable $weights): void
    {
        foreach ($this->held[$k] as $piece => $_) {
            $release = $this->releases[$k][$piece];
            if ($release === null || $release->on !== 'weight' || isset($this->due[$k][$piece])) {
                continue;
            }
            $now = $weights($release->map, $frame)[$piece] ?? 0.0;
            $before = $this->before[$k][$piece] ?? $now;
            $this->before[$k][$piece] = $now;
            if ($now >= $release->level) {
                // Between two frames it goes evenly from one to the other.
                $share = $now > $before && $before < $release->level ? ($release->level - $before) / ($now - $before) : 1.0;
                $this->set($k, $piece, $this->shot->pace->later($frame - 1.0 + $share, $this->wait($k, $piece, $release)));
            }
        }
    }

    private function followNeighbours(int $k, int $frame): void
    {
        $follow = $this->shot->props[$k]->motion->follow;
        if ($follow === null || ($this->gone[$k] ?? []) === []) {
            return;
        }
        $this->beside[$k] ??= $this->props[$k]->beside();
        foreach ($this->gone[$k] as $piece => $at) {
            foreach ($follow->after === null ? [] : $this->beside[$k][$piece] ?? [] as $other) {
                if (isset($this->held[$k][$other]) && $this->releases[$k][$other] !== null) {
                    $this->set($k, $other, $this->shot->pace->later($at, $follow->after / $this->shot->frameTime() + $this->random($k, 'follow', $follow->wait, $follow->seed)[$other]));
                }
            }
        }
        $this->gone[$k] = [];
        if ($follow->unsupported) {
            foreach ($this->unsupported($k) as $piece) {
                $this->set($k, $piece, (float) $frame);
            }
        }
    }

    /**
     * Pieces that are held but hang on nothing: no way from piece to piece leads to one that is anchored or stands on the
     * ground. Where a prop has neither, nothing is said to hold it.
     *
     * @return list<int>
     */
    private function unsupported(int $k): array
    {
        $own = $this->props[$k];
        $ask = [];
        foreach ($own->names as $piece => $_) {
            if ($this->releases[$k][$piece] === null || isset($own->grounded[$piece])) {
                $ask[] = $piece;
            }
        }
        if ($ask === []) {
            return [];
        }
        $ask = array_values(array_filter($ask, fn (int $piece): bool => isset($this->held[$k][$piece])));
        $borne = array_fill_keys($ask, true);
        while (($piece = array_pop($ask)) !== null) {
            foreach ($this->beside[$k][$piece] ?? [] as $other) {
                if (! isset($borne[$other]) && isset($this->held[$k][$other])) {
                    $borne[$other] = true;
                    $ask[] = $other;
                }
            }
        }

        return array_values(array_filter(array_keys($this->held[$k]), static fn (int $piece): bool => ! isset($borne[$piece])));
    }

    /** Of two moments the earlier counts. */
    private function set(int $k, int $piece, float $frame): void
    {
        $this->due[$k][$piece] = min($this->due[$k][$piece] ?? INF, $frame);
    }

    /** @return float frames a piece waits before it goes */
    private function wait(int $k, int $piece, Release $release): float
    {
        return $this->random($k, 'release', $release->wait, $release->seed, $release)[$piece];
    }

    /** @return list<float> frames, by piece */
    private function random(int $k, string $for, float $wait, int $seed, ?Release $release = null): array
    {
        return $this->waits[$k.' '.$for.' '.$wait.' '.$seed] ??= array_map(
            fn (float $s): float => $s / $this->shot->frameTime(),
            ($release ?? Release::waiting($wait, $seed))->waits(count($this->props[$k]->names)),
        );
    }
}
