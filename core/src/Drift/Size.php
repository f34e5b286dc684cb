<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** Smaller or larger, to nothing too. */
final readonly class Size implements Move
{
    private function __construct(private float $to, private float $random, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Size';
    }

    public static function meaning(): string
    {
        return 'Smaller or larger, to nothing too';
    }

    public static function options(): array
    {
        return [
            new Option('to', 'To', 'Times its own size; 0 is nothing.', NumberInTime::class, 0.0, 0, 100),
            new Option('random', 'Random share', 'How much less some pieces change.', NumberInTime::class, 0.0, 0, 1),
            new Option('seed', 'Seed', 'Another number changes others less.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['to'], $values['random'], $values['seed']);
    }

    public function reads(): string
    {
        return '';
    }

    public function add(Pieces $pieces, array $amounts, ?array $there, Flight $to): void
    {
        $chance = $pieces->chance($this->seed);
        $less = 0.5 * $this->random;
        foreach ($amounts as $i => $d) {
            $share = $d * (1.0 - $less * (1.0 - $chance[$i]));
            $to->size[$i] *= max(0.0, 1.0 + $share * ($this->to - 1.0));
        }
    }
}
