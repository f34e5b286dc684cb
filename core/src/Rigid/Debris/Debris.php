<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Debris;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Option;
use YardBreak\Core\Rigid\Tolerances;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Values;
use YardBreak\Core\Weight\MapKind;

/** What pieces of a prop do once they are let go, beside falling: what they meet, how heavy they are, when they rest, and when they go. */
final readonly class Debris
{
    public const EVERYTHING = 'everything';

    /** All but pieces of its own prop. */
    public const OTHERS = 'others';

    /** Only what is fixed, keyed or held, and the ground. */
    public const STANDING = 'standing';

    private const MEETING = 'What its pieces meet';

    private const RESTING = 'Weight and rest';

    private const GOING = 'Pieces that go';

    /**
     * @param  float  $ball  how large a ball is that a piece collides as, as a share of its size; 0 for one of like volume
     * @param  string  $meets  one of the constants above
     * @param  float  $afterWay  m that a piece travels before it meets its own kind; 0 for none
     * @param  float  $afterTime  s after which it does all the same; 0 for never
     * @param  float  $apart  m that other props and the ground are kept off
     * @param  float  $lightest  density of the smallest pieces as a share of the largest ones'
     * @param  float  $smoothest  friction, likewise
     * @param  float  $rolling  rolling resistance: its arm as a share of half the size
     * @param  float  $limit  m/s that contacts and pushes may bring a piece to; 0 for any
     * @param  float  $restAfter  s of keeping still after which it rests
     * @param  float  $restWithin  share of its size that counts as still
     * @param  float  $goneAfter  s of rest after which a piece goes; 0 for never
     * @param  list<float>  $box  m, width, height and depth of the box about the prop's first place which pieces must not leave; all 0 for none
     * @param  string  $goneMap  a piece goes as this map reaches a half; empty for none
     * @param  float  $goneIn  s in which it shrinks to nothing
     */
    private function __construct(
        public float $ball,
        public string $meets,
        public float $afterWay,
        public float $afterTime,
        public float $apart,
        public float $lightest,
        public float $smoothest,
        public float $rolling,
        public float $limit,
        public float $restAfter,
        public float $restWithin,
        public float $goneAfter,
        public array $box,
        public string $goneMap,
        public float $goneIn,
    ) {
    }

    /** @return list<Option> */
    public static function options(): array
    {
        return [
            new Option(
                'ball', 'Ball across', 'Share of the size of a piece; half to six tenths lie inside most. 0 for a ball of like volume.', Number::class, 0.0, 0.0, 2.0,
                with: 'shape='.Solid::BALL, part: self::MEETING,
            ),
            new Option(
                'meets', 'Meets', 'Everything; all but its own pieces; or only what stands or is keyed.', Choice::class, self::EVERYTHING,
                choices: [self::EVERYTHING, self::OTHERS, self::STANDING], part: self::MEETING,
            ),
            new Option(
                'afterWay', 'Its own after', 'Pieces pass through each other until they have come so far from where they were let go; 10 cm parts most cleanly. 0 for at once.',
                Number::class, 0.0, 0.0, 1000.0, 'm', with: 'meets='.self::EVERYTHING, ofPieces: true, part: self::MEETING,
            ),
            new Option(
                'afterTime', 'Or after', 'So long after they were let go, however far they came. 0 for never.',
                Number::class, 0.0, 0.0, 1000.0, 's', with: 'meets='.self::EVERYTHING, ofPieces: true, part: self::MEETING,
            ),
            new Option('apart', 'Thickness', 'Other props and the ground stay so far off its pieces; two that have a thickness, off by both. Its own pieces lie on each other as they were cut.', Number::class, 0.0, 0.0, 1.0, 'm', part: self::MEETING),
            new Option('limit', 'No faster than', 'What hits and pushes bring a piece to; what forces do is never held back. 0 for any speed.', Number::class, 0.0, 0.0, 100000.0, 'm/s', part: self::MEETING),
            new Option(
                'lightest', 'Smallest weigh', 'Density of the smallest pieces as a share of the largest ones’; those between go by their volume.',
                Number::class, 1.0, 0.01, 100.0, ofPieces: true, part: self::RESTING,
            ),
            new Option('smoothest', 'Smallest rub', 'Friction of the smallest pieces, likewise.', Number::class, 1.0, 0.0, 100.0, ofPieces: true, part: self::RESTING),
            new Option(
                'rolling', 'Rolling resistance', 'How far off its middle a rolling piece presses, as a share of half its size: a ball on stone 0.005, rubble on gravel 0.1.',
                Number::class, 0.0, 0.0, 1.0, part: self::RESTING,
            ),
            new Option('restAfter', 'Rests after', 'Keeping still so long.', Number::class, Tolerances::REST_AFTER, 0.02, 1000.0, 's', part: self::RESTING),
            new Option('restWithin', 'Still within', 'Share of its size that counts as not having moved.', Number::class, Tolerances::REST_SHIFT, 0.0001, 0.5, part: self::RESTING),
            new Option('goneAfter', 'Goes after', 'So long at rest. 0 for never.', Number::class, 0.0, 0.0, 100000.0, 's', part: self::GOING),
            new Option('box', 'Goes beyond', 'Sides of a box about where the prop was at first, which pieces vanish on leaving. 0 for no box.', Point::class, [0.0, 0.0, 0.0], 0, 100000, 'm', part: self::GOING),
            new Option('goneMap', 'Goes where', 'A piece goes as this map reaches a half on it.', MapKind::class, '', choices: ['nowhere'], part: self::GOING),
            new Option('goneIn', 'Shrinks in', 'The time it takes to go.', Number::class, 0.5, 0.0, 1000.0, 's', part: self::GOING),
        ];
    }

    public static function of(Values $values): self
    {
        $v = $values->still();

        return new self(
            $v['ball'], $v['meets'], $v['afterWay'], $v['afterTime'], $v['apart'], $v['lightest'], $v['smoothest'], $v['rolling'], $v['limit'], $v['restAfter'], $v['restWithin'], $v['goneAfter'],
            array_map(floatval(...), $v['box']), $v['goneMap'], $v['goneIn'],
        );
    }

    public function acts(Acts $acts): void
    {
        $acts->always('debris', get_object_vars($this));
    }

    /** Whether pieces pass through their own kind at first. */
    public function waits(): bool
    {
        return $this->meets === self::EVERYTHING && ($this->afterWay > 0.0 || $this->afterTime > 0.0);
    }

    /** Whether pieces ever go. */
    public function lets(): bool
    {
        return $this->goneAfter > 0.0 || $this->goneMap !== '' || array_sum($this->box) > 0.0;
    }

    /**
     * What each piece has of a property of the largest.
     *
     * @param  list<float>  $volumes  m³
     * @param  float  $smallest  share that the smallest has
     * @return list<float>
     */
    public static function bySize(array $volumes, float $smallest): array
    {
        $logs = array_map(static fn (float $v): float => log(max(1e-300, $v)), $volumes);
        $high = max($logs);
        $range = $high - min($logs);
        if ($smallest === 1.0 || $range <= 0.0) {
            return array_fill(0, count($volumes), 1.0);
        }
        if ($smallest <= 0.0) {
            return array_map(static fn (float $l): float => 1.0 - ($high - $l) / $range, $logs);
        }

        return array_map(static fn (float $l): float => $smallest ** (($high - $l) / $range), $logs);
    }
}
