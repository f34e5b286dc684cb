<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use YardBreak\Core\Bake\BakedPlaces;
use YardBreak\Core\Bake\Rebake;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Shot\DriftRun;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\PropSpec;

/** What must hold of any shot and any change to it. */
final class Truths
{
    /**
     * @return string|null what does not hold of the shot and the change of a seed, in words; nothing where all does
     *
     * @throws Problem where one of the two is no shot
     */
    public static function broken(int $seed): ?string
    {
        $shots = new RandomShots($seed);
        $before = $shots->document();
        $after = $shots->changed($before);
        $found = Rebake::of(Trials::ready($before), Trials::ready($after));
        $first = $before['frames']['first'];
        if ($found->differsAt !== null && $found->kept > $found->differsAt - $first) {
            return "kept $found->kept frames from $first on, but frame $found->differsAt is another one";
        }
        if ($found->resumedDiffersAt !== null) {
            return "kept $found->kept frames; taken up after them frame $found->resumedDiffersAt is another one than in a whole bake";
        }
        $lost = Trials::lost($after, 3);
        if ($lost !== []) {
            return 'the state of frame '.array_key_first($lost).' leads to another frame '.reset($lost);
        }

        return self::otherwise($after, new SeededRandom($seed));
    }

    /**
     * Weights and drift asked for in any order, and what drifts as it was baked.
     *
     * @param  array<string, mixed>  $document
     */
    private static function otherwise(array $document, SeededRandom $random): ?string
    {
        $bake = Trials::ready($document)->frames();
        $frames = iterator_to_array($bake, false);
        $shot = $bake->getReturn()->shot();
        [$shards, $parts] = Trials::made($shot);
        $keys = array_map(strval(...), array_keys($frames));
        $run = static fn (): MapRun => new MapRun(
            $shot,
            $parts,
            null,
            new BakedPlaces($shot, static fn (PropSpec $p): array => $shards[$p->id], static fn (int $k): array => $frames[$k]->streams, count($frames), $keys),
        );
        $inOrder = $run();
        $mixed = $run();
        $order = array_keys($frames);
        usort($order, static fn (): int => $random->share() < 0.5 ? -1 : 1);
        foreach ($shot->props as $number => $prop) {
            $map = $prop->weights[0]->id;
            $weights = [];
            foreach ($order as $k) {
                $weights[$k] = $mixed->weightsAt($map, MapRun::PIECES, $frames[$k]->number);
            }
            foreach ($frames as $k => $frame) {
                if ($inOrder->weightsAt($map, MapRun::PIECES, $frame->number) !== $weights[$k]) {
                    return "the weights of $map at frame $frame->number depend on the order they are asked for in";
                }
            }
            if ($prop->motion->drift === null || $prop->motion->letsGo()) {
                continue;
            }
            foreach ($frames as $frame) {
                $baked = array_values((array) unpack('g*', $frame->streams[$number][StreamKind::Poses->value]));
                [$poses] = (new DriftRun($inOrder))->at($prop->id, (float) $frame->number);
                foreach ($poses as $i => $v) {
                    if ($i % 8 !== 3 && abs(abs($v) - abs($baked[$i])) > 1e-4) {
                        return "$prop->id drifts at frame $frame->number to ".round($v, 5).', and is baked at '.round($baked[$i], 5);
                    }
                }
            }
        }

        return null;
    }
}
