<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Collide\FlatGround;
use YardBreak\Core\Collide\Ground;
use YardBreak\Core\Collide\RoughGround;
use YardBreak\Core\Entries;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** What things can fall on, beside a prop that is the ground, and beside none. */
final class GroundCatalogue
{
    public const NONE = 'none';

    public const PROP = 'prop';

    /** @var array<string, class-string<Ground>> */
    public const GROUNDS = ['flat' => FlatGround::class, 'rough' => RoughGround::class];

    /**
     * @param  array<string, mixed>  $ground  as in the document, already of the schema's form
     * @return Ground|null null where there is none, or a prop is it
     *
     * @throws Problem
     */
    public static function of(array $ground): ?Ground
    {
        $kind = $ground['kind'];
        if ($kind === self::NONE || $kind === self::PROP) {
            return null;
        }
        $class = self::GROUNDS[$kind]
            ?? throw Problem::inValue(
                'kind',
                'There is no ground called "'.mb_substr($kind, 0, 40).'".',
                'Choose one of: '.implode(', ', [...array_keys(self::GROUNDS), self::PROP, self::NONE]).'.',
            );
        try {
            return $class::of(Option::resolve($class::options(), $ground['values'] ?? []));
        } catch (Problem $e) {
            throw $e->at('values');
        }
    }

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        $none = ['options' => []];

        return [
            ...Entries::describe(self::GROUNDS),
            self::PROP => ['label' => 'A prop', 'meaning' => 'A prop of the shot is the ground: what waits for the ground waits for it'] + $none,
            self::NONE => ['label' => 'None', 'meaning' => 'Everything falls for ever'] + $none,
        ];
    }
}
