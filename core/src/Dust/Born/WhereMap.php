<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Weight\MapKind;

/** The surface goes over into grains where a map passes a level, each place of it once. */
final readonly class WhereMap implements Source
{
    private function __construct(private string $map, private float $level, private int $grains)
    {
    }

    public static function label(): string
    {
        return 'Where a map passes';
    }

    public static function meaning(): string
    {
        return 'Its surface turns to grains as a weight rises';
    }

    public static function options(): array
    {
        return [
            new Option('map', 'Map', 'Of this prop.', MapKind::class, ''),
            new Option('level', 'From', 'The weight from which a place has gone.', Number::class, 0.5, 0.0, 1.0),
            new Option('grains', 'Grains', 'From all of its surface.', Whole::class, 20000, 1, Birthplace::MOST),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['map'], $values['level'], $values['grains']);
    }

    public function bear(Birthplace $at): void
    {
        if ($this->map === '') {
            return;
        }
        $weights = $at->weights($this->map);
        $at->each($this->grains, fn (int $piece): bool => $weights[$piece] >= $this->level);
    }
}
