<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
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
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\Values;

/** Once its pieces are let go, waves run along x through the surface of a prop and lift its points. */
final class WaveMover implements Mover
{
    use WithoutBodies;

    /** Waves a second. */
    public const RATE = 1.5;

    /** @var array<int, float> seconds since pieces were let go, by prop */
    private array $since = [];

    /**
     * @param  array<int, Member>  $members  those it moves, by number
     * @param  \Closure(int): list<Shard>  $shards
     */
    private function __construct(private readonly array $members, private readonly \Closure $shards, private readonly Surroundings $around)
    {
    }

    public static function label(): string
    {
        return 'Wave';
    }

    public static function meaning(): string
    {
        return 'Its surface waves';
    }

    public static function options(): array
    {
        return [
            new Option('height', 'Height', 'Of a crest.', NumberInTime::class, 0.1, 0.0, 10.0, 'm'),
            new Option('length', 'Length', 'From crest to crest.', Number::class, 0.5, 0.01, 100.0, 'm'),
        ];
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
        return new self(array_filter($cast->members, static fn (Member $m): bool => $m->movedBy === self::class), $cast->shards, $around);
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        if (! isset($this->members[$prop])) {
            return false;
        }
        $this->since[$prop] ??= 0.0;

        return true;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        foreach ($this->since as $prop => $seconds) {
            $this->since[$prop] = $seconds + $from->secondsTo($to);
        }
    }

    public function write(FrameWriter $frame): void
    {
        foreach ($this->members as $prop => $_) {
            $member = $this->around->member($prop);
            $settings = $member->settings;
            assert($settings instanceof PlainSettings);
            ['height' => $height, 'length' => $length] = $settings->values->at($frame->frame);
            $place = $member->place->at($frame->frame);
            $out = '';
            foreach (($this->shards)($prop) as $shard) {
                foreach ($shard->mesh->x as $v => $x) {
                    $p = $place->point(new Vec3($x, $shard->mesh->y[$v], $shard->mesh->z[$v]));
                    $lift = isset($this->since[$prop]) ? $height * sin(2.0 * M_PI * (self::RATE * $this->since[$prop] - $p->x / $length)) : 0.0;
                    $out .= pack('g3', $p->x, $p->y + $lift, $p->z);
                }
            }
            $frame->put($prop, StreamKind::Points, $out);
        }
    }

    public function pack(): string
    {
        $out = new PackWriter('WAVE', 1);
        $out->small(array_keys($this->since));
        $out->floats(array_values($this->since));

        return $out->bytes();
    }

    public function unpack(string $state): void
    {
        $in = new PackReader($state, 'WAVE', 1);
        $this->since = array_combine($in->small(), $in->floats());
        $in->end();
    }
}
