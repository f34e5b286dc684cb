<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Problem;

/** What a bake of a changed shot keeps of the one before the change, and whether that is what a whole bake gives. */
final readonly class Rebake
{
    /**
     * @param  int  $kept  frames of the first bake that are kept
     * @param  int|null  $differsAt  number of the first frame in which whole bakes of both differ; null where they share all frames that both have
     * @param  int|null  $resumedDiffersAt  number of the first frame, of those kept and those computed after them, that a whole bake has otherwise; null
     *   where there is none
     * @param  string|null  $reason  what makes the first frame that is not kept another one, in words
     */
    private function __construct(public int $kept, public ?int $differsAt, public ?int $resumedDiffersAt, public ?string $reason)
    {
    }

    /** @throws Problem */
    public static function of(Bakeable $before, Bakeable $after): self
    {
        [$then, $states, $found] = self::whole($before);
        [$whole] = self::whole($after);
        $first = $after->shot->first;
        if ($before->shot->first !== $first) {
            return new self(0, null, null, 'first frame');
        }
        $was = History::of($before->shot, $found);
        $is = History::of($after->shot, $found);
        $kept = $was->shares($is, min(count($then), count($whole)));
        $differs = self::difference($then, $whole);
        $resumed = null;
        if ($kept > 0) {
            $again = array_slice($then, 0, $kept);
            $baker = $after->baker($states[$kept - 1]);
            while ($baker->frameNumber() < $after->shot->last) {
                $again[] = self::record($baker->nextFrame());
            }
            $resumed = self::difference($again, $whole);
        }

        return new self(
            $kept,
            $differs === null ? null : $first + $differs,
            $resumed === null ? null : $first + $resumed,
            $was->partsFrom($is)['what'] ?? null,
        );
    }

    /** @return array{list<string>, list<string>, array<array-key, float>} records, the state after each frame, and cues by id as they were found */
    private static function whole(Bakeable $shot): array
    {
        $baker = $shot->baker();
        $records = [self::record($baker->firstFrame())];
        $states = [$baker->pack()];
        while ($baker->frameNumber() < $shot->shot->last) {
            $records[] = self::record($baker->nextFrame());
            $states[] = $baker->pack();
        }

        return [$records, $states, $baker->shot()->moments->happened()];
    }

    private static function record(Frame $frame): string
    {
        return FrameRecord::encode($frame->number, $frame->streams);
    }

    /**
     * @param  list<string>  $one
     * @param  list<string>  $other
     */
    private static function difference(array $one, array $other): ?int
    {
        for ($k = 0, $n = min(count($one), count($other)); $k < $n; $k++) {
            if ($one[$k] !== $other[$k]) {
                return $k;
            }
        }

        return null;
    }
}
