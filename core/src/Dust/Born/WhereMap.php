<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Weight\MapKind;

/** The surface, or what it encloses, goes over into grains where a map passes a level, each place of it once. */
final readonly class WhereMap implements Source
{
    private function __construct(private string $map, private float $level, private int $grains, private bool $within)
    {
    }

    public static function label(): string
    {
        return 'Where a map passes';
    }

    public static function meaning(): string
    {
        return 'It turns to grains as a weight rises';
    }

    public static function options(): array
    {
        return [
            new Option('map', 'Map', 'Of this prop.', MapKind::class, ''),
            new Option('level', 'From', 'The weight from which a place has gone.', Number::class, 0.5, 0.0, 1.0),
            new Option('from', 'From its', 'Surface, or all that it encloses.', Choice::class, 'surface', choices: ['surface', 'volume']),
            new Option('grains', 'Grains', 'From all of it.', Whole::class, 20000, 1, Birthplace::MOST),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['map'], $values['level'], $values['grains'], $values['from'] === 'volume');
    }

    public function hearsHits(): bool
    {
        return false;
    }

    public function countsCuts(): bool
    {
        return $this->within;
    }

    public function bear(Birthplace $at): void
    {
        if ($this->map === '') {
            return;
        }
        $weights = $at->weights($this->map);
        $at->each($this->grains, fn (int $piece): bool => $weights[$piece] >= $this->level, $this->within);
    }
}
