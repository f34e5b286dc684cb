<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Motion\Surroundings;

/** Points that rise from a prop at an even speed once its pieces are let go, the faster the higher a map: the least a mover can be. */
final class PlainMover implements Mover
{
    private float $risen = 0.0;

    private bool $free = false;

    /** @param  string  $map  id of the map that says how fast, where there is one */
    public function __construct(private readonly int $prop, private readonly string $map = '')
    {
    }

    public static function options(): array
    {
        return [];
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        $this->free = $this->free || $prop === $this->prop;

        return false;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        $speed = $this->map === '' ? 1.0 : array_sum($around->weights($this->map, true, $from->frame));
        $this->risen += $this->free ? $speed * $from->secondsTo($to) : 0.0;
    }

    public function arrive(Moment $at, Surroundings $around): void
    {
    }

    public function write(FrameWriter $frame): void
    {
        $frame->put($this->prop, StreamKind::Points, pack('g6', 0.0, $this->risen, 0.0, 1.0, $this->risen, 0.0));
    }

    public function pack(): string
    {
        $out = new PackWriter('PLAN', 1);
        $out->floats([$this->risen]);
        $out->flags([$this->free ? 1 : 0]);

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, 'PLAN', 1);
        [$this->risen] = $in->floats();
        $this->free = $in->flags() === [1];
        $in->end();
    }
}
