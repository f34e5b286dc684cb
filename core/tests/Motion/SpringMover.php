<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Motion\Body;
use YardBreak\Core\Motion\Cast;
use YardBreak\Core\Motion\Figures;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\Member;
use YardBreak\Core\Motion\Moment;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;
use YardBreak\Core\Motion\PlainSettings;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Motion\Surroundings;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Values;

/** A prop of one piece as a point of mass on a spring to the first piece of prop 0, whoever moves that: each pulls the other. */
final class SpringMover implements Mover
{
    private bool $free = false;

    private Vec3 $at;

    private Vec3 $velocity;

    private function __construct(private readonly ?Member $member, private readonly ?Solid $solid, private readonly Surroundings $around, Moment $start)
    {
        $this->at = $member === null || $solid === null ? Vec3::zero() : $member->place->at($start->frame)->point($solid->centre);
        $this->velocity = Vec3::zero();
    }

    public static function label(): string
    {
        return 'Spring';
    }

    public static function meaning(): string
    {
        return 'Hangs on the first prop by a spring';
    }

    public static function options(): array
    {
        return [
            new Option('stiffness', 'Stiffness', 'N a metre.', Number::class, 400.0, 0.0, 1e6, 'N/m'),
            new Option('exchanges', 'Exchanges', 'Steps a frame.', Whole::class, 32, 1, 1000),
        ];
    }

    public static function streams(): array
    {
        return [];
    }

    public static function settings(Values $values): PlainSettings
    {
        return new PlainSettings($values);
    }

    public static function needsMass(): bool
    {
        return true;
    }

    public static function begin(Cast $cast, Moment $start, Surroundings $around): self
    {
        $own = array_values(array_filter($cast->members, static fn (Member $m): bool => $m->movedBy === self::class))[0] ?? null;

        return new self($own, $own === null ? null : $cast->solids[$own->number][0], $around, $start);
    }

    public function has(int $prop, int $piece): bool
    {
        return $this->free && $prop === $this->member?->number;
    }

    public function release(int $prop, array $pieces, Moment $at, array $sent): bool
    {
        $this->free = $this->free || $prop === $this->member?->number;

        return $prop === $this->member?->number;
    }

    public function exchanges(Moment $from): int
    {
        return $this->free ? (int) $this->set()['exchanges'] : 1;
    }

    public function advance(Moment $from, Moment $to, Surroundings $around): void
    {
        $other = $this->free ? $around->body(0, 0) : null;
        if ($other === null) {
            return;
        }
        $seconds = $from->secondsTo($to);
        $pull = $other->at->minus($this->at)->times($this->set()['stiffness'] * $seconds);
        $this->velocity = $this->velocity->plus($pull->times(1.0 / $this->mass()));
        $around->push(0, 0, $other->at, $pull->times(-1.0));
        $this->at = $this->at->plus($this->velocity->times($seconds));
    }

    public function arrive(Moment $at, Surroundings $around): void
    {
    }

    public function pose(int $prop, int $piece, float $back = 0.0): Pose
    {
        return new Pose($this->at, $this->around->member($prop)->place->at(0.0)->turn, 1.0, Pose::MOVING);
    }

    public function velocityOf(int $prop, int $piece, Vec3 $at): Vec3
    {
        return $this->velocity;
    }

    public function body(int $prop, int $piece): Body
    {
        $pose = $this->pose($prop, $piece);

        return new Body($this->mass(), [1.0, 1.0, 1.0, 0.0, 0.0, 0.0], $pose->at, $pose->turn, $this->velocity, Vec3::zero());
    }

    public function push(int $prop, int $piece, Vec3 $at, Vec3 $impulse): void
    {
        $this->velocity = $this->velocity->plus($impulse->times(1.0 / $this->mass()));
    }

    public function settle(int $one, int $other): void
    {
    }

    public function write(FrameWriter $frame): void
    {
    }

    public function openings(int $prop): array
    {
        return [];
    }

    public function figures(): Figures
    {
        return new Figures($this->free ? 1 : 0, 0, 0.5 * $this->mass() * $this->velocity->dot($this->velocity));
    }

    public function pack(): string
    {
        $out = new PackWriter('SPRG', 1);
        $out->flags([$this->free ? 1 : 0]);
        $out->floats([...$this->at->toArray(), ...$this->velocity->toArray()]);

        return $out->bytes();
    }

    /** @throws Problem */
    public function unpack(string $state): void
    {
        $in = new PackReader($state, 'SPRG', 1);
        $this->free = $in->flags() === [1];
        $numbers = $in->floats();
        $this->at = Vec3::of(array_slice($numbers, 0, 3));
        $this->velocity = Vec3::of(array_slice($numbers, 3));
        $in->end();
    }

    private function mass(): float
    {
        return $this->solid === null || $this->member === null ? 0.0 : $this->solid->mass->volume * $this->member->density;
    }

    /** @return array<string, mixed> */
    private function set(): array
    {
        $settings = $this->member?->settings;

        return $settings instanceof PlainSettings ? $settings->values->still() : [];
    }
}
