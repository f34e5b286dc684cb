<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Track3;
use YardBreak\Core\Timing\When;

/** How a prop moves, and what lets its pieces go. */
final readonly class Motion
{
    /**
     * @param  'fixed'|'keyed'|'free'  $kind
     * @param  'still'|'whole'  $held  what a free prop does until release: stay, or move as one piece
     * @param  When|null  $release  null where a touch lets it go
     * @param  float|null  $reach  metres round a touch within which pieces are let go; null for all
     * @param  list<array{name: string, when: When, pieces: list<string>}>  $groups  pieces let go at a moment of their own
     * @param  Track3  $velocity  m/s, what pieces are pushed with as they are let go
     * @param  Track3  $spin  °/s
     */
    public function __construct(
        public string $kind,
        public string $held,
        public ?When $release,
        public ?float $reach,
        public array $groups,
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
        $release = $m['release'] ?? ['on' => 'frame', 'frame' => 0];
        $groups = [];
        foreach ($m['groups'] ?? [] as $k => $group) {
            $groups[] = ['name' => $group['name'], 'when' => Reading::when($group, $cues, $path.'.groups['.$k.']'), 'pieces' => $group['pieces']];
        }

        return new self(
            $m['kind'], $m['held'] ?? 'still',
            $release['on'] === 'touch' ? null : Reading::when($release, $cues, $path.'.release'),
            isset($release['reach']) ? (float) $release['reach'] : null, $groups,
            Reading::point($m['velocity'] ?? [0, 0, 0], $cues, $path.'.velocity'), Reading::point($m['spin'] ?? [0, 0, 0], $cues, $path.'.spin'),
        );
    }

    public function isFree(): bool
    {
        return $this->kind === 'free';
    }

    /** @return array<string, When> by name of the piece: when those with a moment of their own are let go; of two groups the last one counts */
    public function ownMoments(): array
    {
        $out = [];
        foreach ($this->groups as $group) {
            foreach ($group['pieces'] as $piece) {
                $out[$piece] = $group['when'];
            }
        }

        return $out;
    }

    /** @return array<string, Track> by name of the value */
    public function tracks(): array
    {
        $out = [];
        foreach (['velocity' => $this->velocity, 'spin' => $this->spin] as $name => $three) {
            foreach (['x', 'y', 'z'] as $k => $axis) {
                $out[$name.' '.$axis] = $three->axes()[$k];
            }
        }

        return $out;
    }
}
