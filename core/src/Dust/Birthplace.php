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

    /** Those places, packed: there may be half a million. */
    private string $places = '';

    /**
     * @param  \Closure(): Skin  $skin
     * @param  \Closure(int, Vec3, Vec3): void  $take  piece, place and way out, in the prop's own coordinates
     * @param  \Closure(int, Vec3, Vec3): void  $takeAbout  likewise, the place about the middle of the piece
     */
    public function __construct(
        private readonly int $prop,
        private readonly Surroundings $around,
        private readonly \Closure $skin,
        private readonly \Closure $take,
        private readonly \Closure $takeAbout,
        public float $frame,
        public float $seconds,
        private SeededRandom $random,
        private readonly int $seed,
    ) {
    }

    /** Goes on to another frame, with chances of its own. */
    public function reach(float $frame, float $seconds): void
    {
        $this->frame = $frame;
        $this->seconds = $seconds;
        $this->random = new SeededRandom($this->seed * 7919 + (int) round(64.0 * $frame) + 1);
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

    /** One is born at a place of the scene, on a piece, and leaves upwards. */
    public function addIn(int $piece, Vec3 $at): void
    {
        $pose = $this->around->poseOf($this->prop, $piece);
        $back = $pose->turn->inverse();
        ($this->takeAbout)($piece, $back->turn($at->minus($pose->at)), $back->turn(new Vec3(0.0, 1.0, 0.0)));
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

    /** One is born at a place of a piece, and leaves that way; both in the prop's own coordinates. */
    public function add(int $piece, Vec3 $at, Vec3 $out): void
    {
        ($this->take)($piece, $at, $out);
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
     */
    public function each(int $count, \Closure $may): void
    {
        if ($this->gone !== '' && ! str_contains($this->gone, "\0")) {
            $this->places = '';

            return;
        }
        if ($this->places === '') {
            // The same ones, whenever that is asked.
            $random = new SeededRandom($this->seed);
            for ($k = 0; $k < $count; $k++) {
                $place = ($this->skin)()->anywhere($random);
                if ($place === null) {
                    return;
                }
                $this->places .= pack('Ve6', $place[0], ...$place[1]->toArray(), ...$place[2]->toArray());
            }
        }
        $this->gone = str_pad($this->gone, $count, "\0");
        for ($k = strpos($this->gone, "\0"); $k !== false; $k = strpos($this->gone, "\0", $k + 1)) {
            $place = unpack('Vpiece/e6', $this->places, self::PLACE * $k) ?: [];
            if ($may((int) $place['piece'])) {
                $this->gone[$k] = "\1";
                $this->add((int) $place['piece'], new Vec3($place[1], $place[2], $place[3]), new Vec3($place[4], $place[5], $place[6]));
            }
        }
    }
}
