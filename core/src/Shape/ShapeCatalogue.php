<?php

declare(strict_types=1);

namespace YardBreak\Core\Shape;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Every shape a prop can be built from, by name. */
final class ShapeCatalogue
{
    /** @var array<string, class-string<Shape>> */
    public const SHAPES = [
        'box' => Box::class,
        'ball' => Ball::class,
        'cylinder' => Cylinder::class,
        'cone' => Cone::class,
        'ring' => Ring::class,
        'lathe' => Lathe::class,
        'sheet' => Sheet::class,
        'beam' => Beam::class,
        'sweep' => Sweep::class,
        'outline' => Cutout::class,
        'text' => Text::class,
    ];

    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem for an unknown shape or value
     */
    public static function mesh(string $name, array $values): Mesh
    {
        $class = self::known($name);

        return $class::mesh(Option::resolve($class::options(), $values));
    }

    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem for an unknown shape, or a value that is unknown or out of range
     */
    public static function check(string $name, array $values): void
    {
        Option::resolve(self::known($name)::options(), $values);
    }

    /** @return class-string<Shape> */
    private static function known(string $name): string
    {
        return self::SHAPES[$name]
            ?? throw Problem::inValue(
                'shape',
                'There is no shape called "'.mb_substr($name, 0, 40).'".',
                'Choose one of: '.implode(', ', array_keys(self::SHAPES)).'.',
            );
    }

    /** @return array<string, array{label: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return array_map(static fn (string $class): array => [
            'label' => $class::label(),
            'options' => array_map(static fn (Option $o): array => $o->toArray(), $class::options()),
        ], self::SHAPES);
    }
}
