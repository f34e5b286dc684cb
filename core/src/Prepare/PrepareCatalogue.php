<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Entries;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** Every step of preparation, by name. */
final class PrepareCatalogue
{
    /** @var array<string, class-string<Step>> */
    public const STEPS = [
        'repair' => RepairAll::class,
        'rebuild' => Rebuild::class,
        'weld' => Weld::class,
        'degenerates' => DropDegenerates::class,
        'doubles' => DropDoubles::class,
        'orient' => Orient::class,
        'fill' => Fill::class,
        'remesh' => Remesh::class,
        'subdivide' => Subdivide::class,
        'push' => Push::class,
        'thicken' => Thicken::class,
        'mirror' => Mirror::class,
        'cut' => CutAway::class,
    ];

    /** Steps that may take longer than a moment. */
    public const SLOW = ['remesh', 'subdivide', 'rebuild'];

    /**
     * @param  list<array{step: string, values?: array<string, mixed>}>  $steps
     *
     * @throws Problem with the path of the step that is wrong or cannot be done
     */
    public static function apply(Mesh $mesh, array $steps): Mesh
    {
        foreach ($steps as $i => $step) {
            try {
                $class = self::known($step['step']);
                $mesh = $class::apply($mesh, Option::resolve($class::options(), $step['values'] ?? []));
            } catch (Problem $e) {
                throw $e->at('prepare['.$i.']');
            }
        }

        return $mesh;
    }

    /**
     * @param  list<array{step: string, values?: array<string, mixed>}>  $steps
     *
     * @throws Problem with the path of the first value that is wrong
     */
    public static function check(array $steps): void
    {
        foreach ($steps as $i => $step) {
            try {
                Option::resolve(self::known($step['step'])::options(), $step['values'] ?? []);
            } catch (Problem $e) {
                throw $e->at('prepare['.$i.']'.($e->path === 'step' ? '' : '.values'));
            }
        }
    }

    /**
     * Lengths that suit a prop of this size better than the defaults, by step.
     *
     * @return array<string, array<string, mixed>>
     */
    public static function lengths(Vec3 $size): array
    {
        return array_filter(array_map(static fn (string $class): array => Option::suiting($class::options(), $size->toArray()), self::STEPS));
    }

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return Entries::describe(self::STEPS);
    }

    /** @return class-string<Step> */
    private static function known(string $name): string
    {
        return self::STEPS[$name]
            ?? throw Problem::inValue(
                'step',
                'There is no step called "'.mb_substr($name, 0, 40).'".',
                'Choose one of: '.implode(', ', array_keys(self::STEPS)).'.',
            );
    }
}
