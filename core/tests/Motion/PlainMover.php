<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use YardBreak\Core\Kinds\Words;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Member;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\PlainSettings;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Motion\WithoutBodies;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\Values;

/** Points that rise from a prop at an even speed once its pieces are let go, the faster the higher a map: the least a mover can be. */
final class PlainMover implements Mover
{
    use WithoutBodies;

    /** @var array<int, float> metres, by prop that was let go */
    private array $risen = [];

    /** @param  list<Member>  $members  those it moves */
    private function __construct(private readonly array $members)
    {
    }

    public static function label(): string
    {
        return 'Plain';
    }

    public static function meaning(): string
    {
        return 'Two points rise from it';
    }

    public static function options(): array
    {
        return [new Option('map', 'Map', 'What says how fast.', Words::class, '', 0, 40)];
    }

    public static function streams(): array
    {
        return [StreamKind::Points];
    }

    public static function settings(Values $values): PlainSettings
    {
        return new PlainSettings($values);
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        return new self(array_values(array_filter($cast->members, static fn (Member $m): bool => $m->movedBy === self::class)));
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        foreach ($this->members as $member) {
            if ($member->number === $prop) {
                $this->risen[$prop] ??= 0.0;

                return true;
            }
        }

        return false;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        foreach (array_keys($this->risen) as $prop) {
            $settings = $around->member($prop)->settings;
            $map = $settings instanceof PlainSettings ? $settings->values->still()['map'] : '';
            $this->risen[$prop] += ($map === '' ? 1.0 : array_sum($around->weights($map, true, $from->frame))) * $from->secondsTo($to);
        }
    }

    public function write(FrameWriter $frame): void
    {
        foreach ($this->members as $member) {
            $risen = $this->risen[$member->number] ?? 0.0;
            $frame->put($member->number, StreamKind::Points, pack('g6', 0.0, $risen, 0.0, 1.0, $risen, 0.0));
        }
    }

    public function pack(): string
    {
        $out = new PackWriter('PLAN', 1);
        $out->small(array_keys($this->risen));
        $out->floats(array_values($this->risen));

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, 'PLAN', 1);
        $props = $in->small();
        $this->risen = array_combine($props, $in->floats());
        $in->end();
    }
}
