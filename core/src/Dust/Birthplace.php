<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\Touch;
use YardBreak\Core\SeededRandom;

/** Where grains of one prop are born on the way to a frame. */
final class Birthplace
{
    /** Grains of a prop at once. */
    public const MOST = 500000;

    /** Bytes of a place: its piece, and six numbers. */
    private const PLACE = 52;

    /** A byte for each place that is born once, as far as that has begun: 1 where it has gone. */
    public string $gone = '';

    /** The frame it comes from. */
    private float $before = 0.0;

    /** s a frame lasts on the clock. */
    private float $clockTime = 1.0;

    /** s before the frame at which all that is added now is born; null for any time on the way, each its own. */
    public ?float $ahead = null;

    /** Those places, packed: there may be half a million. */
    private string $places = '';

    /**
     * @param  \Closure(): Skin  $skin
     * @param  \Closure(int, Vec3, Vec3, float|null): void  $take  piece, place and way out, in the prop's own coordinates; and the share of its speed it leaves
     *   with straight away, null for about all of it and spread
     * @param  \Closure(int): Vec3  $middle  of a piece, likewise
     */
    public function __construct(
        private readonly int $prop,
        private readonly Surroundings $around,
        private readonly \Closure $skin,
        private readonly \Closure $take,
        private readonly \Closure $middle,
        public float $frame,
        public float $seconds,
        private SeededRandom $random,
        private readonly int $seed,
    ) {
    }

    /** Goes on to another frame, with chances of its own. */
    public function reach(float $frame, float $seconds, float $frameTime, float $clockTime): void
    {
        $this->before = $frame - $seconds / $frameTime;
        $this->clockTime = $clockTime;
        $this->ahead = null;
        $this->frame = $frame;
        $this->seconds = $seconds;
        $this->random = new SeededRandom($this->seed * 7919 + (int) round(64.0 * $this->around->onTheClock($frame)) + 1);
    }

    public function between(float $low, float $high): float
    {
        return $this->random->between($low, $high);
    }

    /** A whole number that is so much on the mean. */
    public function whole(float $amount): int
    {
        return (int) floor(min((float) self::MOST, $amount) + $this->random->share());
    }

    /** @return list<float> of its pieces, at this frame */
    public function weights(string $map): array
    {
        return $this->around->weights($map, true, $this->frame);
    }

    /** @return list<Joint> */
    public function openings(): array
    {
        return $this->around->openings($this->prop);
    }

    /** @return list<Touch> what hit it on the way */
    public function hits(): array
    {
        return $this->around->hits($this->prop);
    }

    /**
     * One is born at a place of the scene, on a piece, and leaves that way.
     *
     * @param  float|null  $share  of its speed, straight away; null for about all of it, spread
     */
    public function addIn(int $piece, Vec3 $at, Vec3 $out, ?float $share = null): void
    {
        $pose = $this->around->poseOf($this->prop, $piece);
        $back = $pose->turn->inverse();
        ($this->take)($piece, ($this->middle)($piece)->plus($back->turn($at->minus($pose->at))), $back->turn($out), $share);
    }

    /** Whether a moment falls on the way to this frame; at the first frame, whether it is that one. */
    public function passes(float $moment): bool
    {
        return $moment <= $this->frame && $moment > $this->before || $this->seconds <= 0.0 && $moment === $this->frame;
    }

    /** s since a moment; below zero before it, and where it is not known yet. */
    public function since(float $moment): float
    {
        return is_finite($moment) ? ($this->around->onTheClock($this->frame) - $this->around->onTheClock($moment)) * $this->clockTime : -INF;
    }

    /** @return array<int, float> m² of each piece */
    public function areas(): array
    {
        return ($this->skin)()->areas;
    }

    /** m/s, of the middle of a piece. */
    public function velocity(int $piece): Vec3
    {
        $body = $this->around->body($this->prop, $piece);

        return $body === null ? Vec3::zero() : $body->velocityAt($this->around->poseOf($this->prop, $piece)->at);
    }

    /**
     * One is born at a place of a piece, and leaves that way; both in the prop's own coordinates.
     *
     * @param  float|null  $share  of its speed, straight away; null for about all of it, spread
     */
    public function add(int $piece, Vec3 $at, Vec3 $out, ?float $share = null): void
    {
        ($this->take)($piece, $at, $out, $share);
    }

    /** So many are born anywhere on a piece. */
    public function anywhere(int $piece, int $count): void
    {
        for (; $count > 0; $count--) {
            $place = ($this->skin)()->anywhereOn($piece, $this->random);
            if ($place !== null) {
                $this->add(...$place);
            }
        }
    }

    /**
     * Of so many places strewn over all of it, those are born that may and were not yet.
     *
     * @param  \Closure(int): bool  $may  by piece
     * @param  bool  $within  strewn through it, not over its surface
     */
    public function each(int $count, \Closure $may, bool $within = false): void
    {
        $strewn = function () use ($count, $within): iterable {
            // The same ones, whenever that is asked.
            $random = new SeededRandom($this->seed);
            for ($k = 0; $k < $count; $k++) {
                $place = $within ? ($this->skin)()->within($random) : ($this->skin)()->anywhere($random);
                if ($place === null) {
                    return;
                }
                yield $place;
            }
        };
        $this->once($strewn, static fn (int $piece, Vec3 $at): bool => $may($piece));
    }

    /** @return list<array{int, Vec3, Vec3}> piece, place and outward normal at the middle of each cell of a grid that looks at it along an axis, where it meets it */
    public function gridded(Vec3 $axis, int $columns, int $rows): array
    {
        return ($this->skin)()->gridded($axis, $columns, $rows);
    }

    /** The axis along which it is thinnest, in its own coordinates. */
    public function thinnest(): Vec3
    {
        return ($this->skin)()->thinnest();
    }

    /**
     * Of some places those are born that may and were not yet.
     *
     * @param  \Closure(): iterable<array{int, Vec3, Vec3}>  $strewn  piece, place and way out, the same ones whenever that is asked
     * @param  \Closure(int, Vec3): bool  $may  by piece and place
     */
    public function once(\Closure $strewn, \Closure $may): void
    {
        if ($this->gone !== '' && ! str_contains($this->gone, "\0")) {
            $this->places = '';

            return;
        }
        if ($this->places === '') {
            foreach ($strewn() as $place) {
                $this->places .= pack('Ve6', $place[0], ...$place[1]->toArray(), ...$place[2]->toArray());
            }
        }
        $this->gone = str_pad($this->gone, intdiv(strlen($this->places), self::PLACE), "\0");
        for ($k = strpos($this->gone, "\0"); $k !== false; $k = strpos($this->gone, "\0", $k + 1)) {
            $place = unpack('Vpiece/e6', $this->places, self::PLACE * $k) ?: [];
            $here = new Vec3($place[1], $place[2], $place[3]);
            if ($may((int) $place['piece'], $here)) {
                $this->gone[$k] = "\1";
                $this->add((int) $place['piece'], $here, new Vec3($place[4], $place[5], $place[6]));
            }
        }
    }
}
