<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** The values of some options, each of those that can be keyed over frames. */
final readonly class Values
{
    /**
     * @param  array<string, mixed>  $still  by option name: what never changes
     * @param  array<string, Track|Track3>  $tracks  by option name: what may
     * @param  array<string, array{When, float|null}>  $moments  by option name: when something happens, and the frame of it as far as that is known
     */
    private function __construct(private array $still, private array $tracks, private array $moments)
    {
    }

    /**
     * @param  list<Option>  $options
     * @param  array<string, mixed>  $given
     *
     * @throws Problem with the path of what is wrong among them
     */
    public static function of(array $options, array $given, Cues $cues = new Cues): self
    {
        $still = $tracks = $moments = [];
        $values = Option::resolve($options, $given);
        foreach ($options as $option) {
            $value = $values[$option->name];
            try {
                if ($option->kind === NumberInTime::class && is_array($value)) {
                    $tracks[$option->name] = Track::of($value, $cues);
                } elseif ($option->kind === PointInTime::class && is_array($value) && array_filter($value, is_array(...)) !== []) {
                    $tracks[$option->name] = Track3::of($value, $cues);
                } elseif ($option->kind === MomentKind::class) {
                    $when = MomentKind::when($value, $cues);
                    $moments[$option->name] = [$when, $when->at($cues)];
                } else {
                    $still[$option->name] = $value;
                }
            } catch (Problem $e) {
                throw $e->about($option->name.($e->path === '' || $e->path[0] === '[' ? '' : '.').$e->path);
            }
        }

        return new self($still, $tracks, $moments);
    }

    /** @return array<string, mixed> what each is at a frame; of a moment its frame, INF where that is not known yet */
    public function at(float $frame): array
    {
        $out = $this->still;
        foreach ($this->moments as $name => [, $moment]) {
            $out[$name] = $moment ?? INF;
        }
        foreach ($this->tracks as $name => $track) {
            $out[$name] = $track instanceof Track ? $track->at($frame) : $track->at($frame)->toArray();
        }

        return $out;
    }

    /** One that is a number. */
    public function number(string $name): Track
    {
        $track = $this->tracks[$name] ?? null;

        return $track instanceof Track ? $track : Track::constant($this->still[$name]);
    }

    /** One that is three numbers. */
    public function point(string $name): Track3
    {
        $track = $this->tracks[$name] ?? null;

        return $track instanceof Track3 ? $track : Track3::constant(Vec3::of($this->still[$name]));
    }

    /** @return list<string> ids of the cues their keys are tied to */
    public function ties(): array
    {
        $moments = array_filter(array_map(static fn (array $m): ?string => $m[0]->cue, array_values($this->moments)), static fn (?string $cue): bool => $cue !== null);

        return array_merge(array_values($moments), ...array_values(array_map(static fn (Track|Track3 $t): array => $t->ties(), $this->tracks)));
    }

    public function moves(): bool
    {
        return $this->tracks !== [];
    }

    /** @param  string  $name  whose values they are */
    public function acts(Acts $acts, string $name): void
    {
        $acts->always($name, $this->still);
        foreach ($this->moments as $of => [, $moment]) {
            if ($moment !== null) {
                $acts->at($acts->frameOf($moment), $name.' '.$of, $moment);
            }
        }
        foreach ($this->tracks as $of => $track) {
            if ($track instanceof Track) {
                $acts->values($name.' '.$of, $track);
            } else {
                $track->acts($acts, $name.' '.$of);
            }
        }
    }

    /** @return list<string> names of those that may change */
    public function keyed(): array
    {
        return array_keys($this->tracks);
    }

    /** @return array<string, mixed> by option name: what never changes */
    public function still(): array
    {
        return $this->still;
    }
}
