<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** What another map gives, of the same prop, or of another by the place of it that is nearest at the moment. */
final readonly class AnotherMap implements Source
{
    private function __construct(private string $map)
    {
    }

    public static function label(): string
    {
        return 'Another map';
    }

    public static function meaning(): string
    {
        return 'What another map gives';
    }

    public static function options(): array
    {
        return [new Option('map', 'Map', 'Of this prop or another.', MapKind::class, '')];
    }

    public static function of(array $values): self
    {
        if ($values['map'] === '') {
            throw Problem::inValue('map', 'No map is chosen yet.', 'Choose the map to take over.');
        }

        return new self($values['map']);
    }

    public function reads(): array
    {
        return [];
    }

    public function inWorld(): bool
    {
        return true;
    }

    public function drifts(): bool
    {
        return true;
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        [$prop, $values] = $scene->map($this->map, $on);
        if ($prop === $on->prop) {
            return $values;
        }

        return Carried::over($values, $on->placed($scene->place($prop)->inverse()->after($scene->place($on->prop))), $scene->surface($prop));
    }
}
