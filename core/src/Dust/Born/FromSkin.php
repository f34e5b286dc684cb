<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Weight\MapKind;

/** All of the surface gives off so many a second. */
final readonly class FromSkin implements Source
{
    private function __construct(private string $map, private float $rate)
    {
    }

    public static function label(): string
    {
        return 'From its surface';
    }

    public static function meaning(): string
    {
        return 'So many a second from each square metre';
    }

    public static function options(): array
    {
        return [
            new Option('map', 'As much as', 'A map of this prop.', MapKind::class, ''),
            new Option('rate', 'Grains', 'A second from each square metre.', NumberInTime::class, 2000.0, 0.0, 1e8, '1/m²s'),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['map'], $values['rate']);
    }

    public function hearsHits(): bool
    {
        return false;
    }

    public function countsCuts(): bool
    {
        return false;
    }

    public function bear(Birthplace $at): void
    {
        $weights = $this->map === '' ? [] : $at->weights($this->map);
        foreach ($at->areas() as $piece => $area) {
            $n = $at->whole($this->rate * $area * $at->seconds * ($weights[$piece] ?? 1.0));
            if ($n > 0) {
                $at->anywhere($piece, $n);
            }
        }
    }
}
