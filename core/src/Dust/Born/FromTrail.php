<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** Pieces leave a trail as they move: as much as they have surface and way. */
final readonly class FromTrail implements Source
{
    private function __construct(private float $dense)
    {
    }

    public static function label(): string
    {
        return 'From what moves';
    }

    public static function meaning(): string
    {
        return 'Its pieces leave a trail';
    }

    public static function options(): array
    {
        return [new Option('dense', 'Grains', 'From each square metre, for each metre it moves.', NumberInTime::class, 500.0, 0.0, 1e7, '1/m³')];
    }

    public static function of(array $values): self
    {
        return new self($values['dense']);
    }

    public function hearsHits(): bool
    {
        return false;
    }

    public function countsCuts(): bool
    {
        return true;
    }

    public function bear(Birthplace $at): void
    {
        foreach ($at->areas() as $piece => $area) {
            $way = $at->seconds * $at->velocity($piece)->length();
            $n = $way > 0.0 ? $at->whole($this->dense * $area * $way) : 0;
            if ($n > 0) {
                $at->anywhere($piece, $n);
            }
        }
    }
}
