<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\NoParts;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\When;

/**
 * What a bake depends on, in the order of time. A frame's fingerprint takes in all that acts up to it; two shots share
 * frames up to where their fingerprints part.
 */
final readonly class History
{
    /**
     * @param  array<string, string>  $always  what acts from the start, by key
     * @param  array<int, array<string, string>>  $events  what comes to act in computing a frame, by key
     * @param  array<string, string>  $words  what the keys stand for
     */
    private function __construct(private ShotSpec $shot, private array $always, private array $events, private array $words)
    {
    }

    /** @param  array<array-key, float>  $anchored  cues by id as a bake found them: what is tied to them acts only from there on */
    public static function of(ShotSpec $shot, array $anchored = []): self
    {
        $shot = $anchored === [] ? $shot : $shot->with($shot->moments->allAnchored($anchored));
        $always = [
            'first' => (string) $shot->first, 'rate' => json_encode($shot->rate->toArray()), 'quality' => $shot->quality.' '.ShotSpec::BAKE_VERSION,
            'ground' => $shot->ground ? 'on' : 'off', 'order' => json_encode(array_column($shot->props, 'id')),
        ];
        $words = ['first' => 'first frame', 'rate' => 'frame rate', 'order' => 'number or order of props'];
        foreach ($shot->cues as $cue) {
            if ($cue->isFound()) {
                // Where nobody has looked yet when it comes, what is tied to it may act at any time.
                $unknown = $shot->isForeseen($cue) && $shot->moments->frame($cue->id) === null && $shot->tiedTo($cue->id) !== [];
                $always['cue '.$cue->id] = json_encode([$cue->one, $cue->other, $cue->speed, $cue->map, $cue->share, $unknown ? $shot->movingParts() : '']);
                $words['cue '.$cue->id] = 'cue '.$cue->name;
            }
        }
        $tracks = ['gravity x' => $shot->gravity->x, 'gravity y' => $shot->gravity->y, 'gravity z' => $shot->gravity->z, 'ground friction' => $shot->groundFriction, 'ground bounce' => $shot->groundBounce];
        $events = [];
        foreach ($shot->props as $prop) {
            foreach (self::standing($prop) as $name => $what) {
                $always[$name.' '.$prop->id] = $what;
                $words[$name.' '.$prop->id] = $name.' of '.$prop->name;
            }
            foreach (self::tracks($prop) as $name => $track) {
                $tracks[$name.' '.$prop->id] = $track;
                $words[$name.' '.$prop->id] = $name.' of '.$prop->name;
            }
            self::releases($shot, $prop, $events, $words);
        }
        foreach ($tracks as $name => $track) {
            foreach ($track->acts() as [$after, $what]) {
                if ($after < $shot->first) {
                    $always[$name] = ($always[$name] ?? '').$what.'|';
                } else {
                    $frame = (int) floor($after) + 1;
                    $events[$frame][$name] = ($events[$frame][$name] ?? '').$what.'|';
                }
            }
        }
        ksort($events);

        return new self($shot, $always, $events, $words);
    }

    /** @return list<string> 16 bytes for each frame from the first to the last */
    public function chain(): array
    {
        $hash = self::hash('', $this->always + ($this->events[$this->shot->first] ?? []));
        $out = [$hash];
        for ($frame = $this->shot->first + 1; $frame <= $this->shot->last; $frame++) {
            $out[] = $hash = self::hash($hash, $this->events[$frame] ?? []);
        }

        return $out;
    }

    /**
     * The first thing by which another shot differs.
     *
     * @return array{frame: int, what: string}|null the first frame that is another one, and what makes it so, in words
     */
    public function partsFrom(self $other): ?array
    {
        $words = $other->words + $this->words;
        $what = self::difference($this->always, $other->always);
        if ($what !== null) {
            return ['frame' => $this->shot->first, 'what' => $words[$what] ?? $what];
        }
        $frames = array_unique([...array_keys($this->events), ...array_keys($other->events)]);
        sort($frames);
        foreach ($frames as $frame) {
            $what = self::difference($this->events[$frame] ?? [], $other->events[$frame] ?? []);
            if ($what !== null) {
                return ['frame' => $frame, 'what' => $words[$what] ?? $what];
            }
        }

        return null;
    }

    /** @param  array<string, string>  $acts */
    private static function hash(string $before, array $acts): string
    {
        foreach ($acts as $key => $what) {
            $before .= "\0".$key.'='.$what;
        }

        return hash('xxh128', $before, true);
    }

    /**
     * @param  array<string, string>  $one
     * @param  array<string, string>  $other
     */
    private static function difference(array $one, array $other): ?string
    {
        foreach ($one + $other as $key => $_) {
            if (($one[$key] ?? null) !== ($other[$key] ?? null)) {
                return $key;
            }
        }

        return null;
    }

    /**
     * Where the weights that let its pieces go, or say how much they are pushed, become others.
     *
     * @param  array<int, array<string, string>>  $events
     * @param  array<string, string>  $words
     */
    private static function weights(ShotSpec $shot, PropSpec $prop, array &$events, array &$words): void
    {
        foreach ($prop->motion->maps() as $map) {
            $key = 'map '.$map;
            $words[$key] = 'weight map '.$shot->map($map)?->name;
            $before = '';
            foreach ((new MapRun($shot, new NoParts))->keys($map, MapRun::PIECES) as $k => $of) {
                if ($of !== $before) {
                    $events[$shot->first + $k][$key] = $before = $of;
                }
            }
        }
    }

    /** @return array<string, string> what of a prop acts always */
    private static function standing(PropSpec $prop): array
    {
        $m = $prop->motion;

        return [
            'shape or break' => $prop->shardKey(),
            'density' => json_encode($prop->material->density),
            'turning' => $prop->place->shortest ? 'shortest' : 'axes',
            'kind of motion' => json_encode([$m->kind, $m->drift === null ? null : [$m->drift->standing(), $m->handsOver], ...! $m->letsGo() ? [] : [$m->held, $m->release->key(), array_map(static fn (array $g): array => [$g['release']->key(), $g['pieces']], $m->groups), $m->follow, $m->anchors, array_map(static fn (array $p): array => [$p[0], $p[1]->still(), $p[2]], $m->pushes)]]),
        ];
    }

    /** @return array<string, Track> */
    private static function tracks(PropSpec $prop): array
    {
        $tracks = $prop->tracks() + ['visibility' => $prop->seen] + $prop->material->looks();
        $m = $prop->motion;

        // What is let go at a moment is pushed then; otherwise a push may act at any time.
        return $m->isFree() && $m->release->when !== null && $m->release->on !== 'shockwave' && $m->release->wait === 0.0 && $m->follow === null && $m->held === 'still' && $m->pushes === [] ? array_diff_key($tracks, $m->tracks()) : $tracks;
    }

    /**
     * @param  array<int, array<string, string>>  $events
     * @param  array<string, string>  $words
     */
    private static function releases(ShotSpec $shot, PropSpec $prop, array &$events, array &$words): void
    {
        $m = $prop->motion;
        self::weights($shot, $prop, $events, $words);
        if (! $m->letsGo()) {
            return;
        }
        $at = static function (?When $when, string $name, int $number) use ($shot, $prop, $m, &$events, &$words): void {
            $key = 'release '.$prop->id.' '.$number;
            $words[$key] = $name.' of '.$prop->name;
            $frame = $when?->at($shot->moments);
            if ($frame !== null) {
                $frame = max($shot->first, (int) ceil($frame));
                $events[$frame][$key] = 'let go '.json_encode([$m->velocity->at($frame)->toArray(), $m->spin->at($frame)->toArray()]);
            }
        };
        $at($m->release->when, 'release', 0);
        foreach ($m->groups as $k => $group) {
            $at($group['release']->when, 'release of '.$group['name'], $k + 1);
        }
    }
}
