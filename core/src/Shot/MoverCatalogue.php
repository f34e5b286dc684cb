<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Cloth\ClothMover;
use YardBreak\Core\Drift\DriftMover;
use YardBreak\Core\Dust\DustMover;
use YardBreak\Core\Motion\Leads;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Rigid\RigidMover;

/** The ways a prop can move, beside standing still and following its keys. */
final readonly class MoverCatalogue
{
    /** What pieces that were led are handed over to. */
    public const PHYSICS = 'free';

    /** @var array<string, class-string<Mover>> by kind of motion */
    private const MOVERS = [self::PHYSICS => RigidMover::class, 'cloth' => ClothMover::class, 'drift' => DriftMover::class];

    /** Kinds of motion without a mover. */
    public const BY_KEYS = ['fixed', 'keyed'];

    /** @param  array<string, class-string<Mover>>  $movers  by kind of motion */
    public function __construct(public array $movers = self::MOVERS)
    {
    }

    /**
     * The same with one more.
     *
     * @param  class-string<Mover>  $mover
     */
    public function with(string $kind, string $mover): self
    {
        return new self([...$this->movers, $kind => $mover]);
    }

    /** @throws Problem where there is no such kind of motion */
    public function check(string $kind): void
    {
        $kinds = [...self::BY_KEYS, ...array_keys($this->movers)];
        if (! in_array($kind, $kinds, true)) {
            throw Problem::inValue('kind', 'There is no kind of motion called "'.mb_substr($kind, 0, 40).'".', 'Choose one of: '.implode(', ', $kinds).'.');
        }
    }

    /** @return class-string<Leads>|null what leads pieces of a prop of this kind until they are let go */
    public function leader(string $kind): ?string
    {
        $class = $this->movers[$kind] ?? null;

        return $class !== null && is_subclass_of($class, Leads::class) ? $class : null;
    }

    /** @return class-string<Mover> what moves pieces of a prop of this kind once they are let go, if ever they are */
    public function mover(string $kind): string
    {
        return $this->leader($kind) === null ? $this->movers[$kind] ?? $this->movers[self::PHYSICS] : $this->movers[self::PHYSICS];
    }

    /**
     * @param  bool  $dusty  whether anything gives off dust
     * @return list<class-string<Mover>> in the order they move: what moves point by point first, for it sees what it pushes where the step begins; what is led
     *   comes last, for what is let go is moved by others, and dust goes by all of them
     */
    public function inOrder(bool $dusty = false): array
    {
        $classes = array_values($this->movers);

        $byPoints = static fn (string $c): bool => in_array(StreamKind::Points, $c::streams(), true);

        return [
            ...array_filter($classes, static fn (string $c): bool => ! is_subclass_of($c, Leads::class) && $byPoints($c)),
            ...array_filter($classes, static fn (string $c): bool => ! is_subclass_of($c, Leads::class) && ! $byPoints($c)),
            ...array_filter($classes, static fn (string $c): bool => is_subclass_of($c, Leads::class)),
            ...($dusty ? [DustMover::class] : []),
        ];
    }

    /** @return array<string, array{label: string, meaning: string, leads: bool, mass: bool, waves: bool, options: list<array<string, mixed>>}> by kind of motion */
    public function describe(): array
    {
        $out = [];
        foreach ($this->movers as $kind => $class) {
            $out[$kind] = [
                'label' => $class::label(),
                'meaning' => $class::meaning(),
                'leads' => $this->leader($kind) !== null,
                'waves' => in_array(StreamKind::Points, $class::streams(), true),
                'mass' => $this->mover($kind)::needsMass(),
                'options' => array_map(static fn (Option $o): array => $o->toArray(), $this->mover($kind)::options()),
            ];
        }

        return $out;
    }
}
