<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/** A weight as a document says it: a source with its values, possibly inverted. */
final readonly class Weight
{
    /** The edge of a weight, where something either acts or does not. */
    public const EDGE = 0.5;

    /** @var array<string, class-string<Source>> */
    public const SOURCES = [
        'ball' => Ball::class,
        'front' => Front::class,
        'box' => Box::class,
        'stripes' => Stripes::class,
        'grain' => Grain::class,
    ];

    private function __construct(private Source $source, private bool $invert)
    {
    }

    /**
     * @param  array<mixed>  $value  `source`, `values` and `invert`
     *
     * @throws Problem for an unknown source or value
     */
    public static function of(array $value): self
    {
        $name = is_string($value['source'] ?? null) ? $value['source'] : '';
        $class = self::SOURCES[$name] ?? throw Problem::inValue('source', 'There is no source of weights called "'.mb_substr($name, 0, 40).'".', 'Choose one of: '.implode(', ', array_keys(self::SOURCES)).'.');

        return new self($class::of(Option::resolve($class::options(), is_array($value['values'] ?? null) ? $value['values'] : [])), (bool) ($value['invert'] ?? false));
    }

    /**
     * A weight in one line, as on the command line: `ball middle=0,1,0 full=0.1 none=0.3 invert`.
     *
     * @return array{source: string, values: array<string, mixed>, invert: bool} as in a document
     */
    public static function inWords(string $line): array
    {
        $words = preg_split('/\s+/', trim($line)) ?: [];
        $values = [];
        $invert = false;
        foreach (array_slice($words, 1) as $word) {
            if ($word === 'invert') {
                $invert = true;

                continue;
            }
            [$name, $value] = explode('=', $word, 2) + [1 => ''];
            $values[$name] = $value;
        }

        return ['source' => $words[0] ?? '', 'values' => $values, 'invert' => $invert];
    }

    /** @return float 0…1 */
    public function at(float $x, float $y, float $z): float
    {
        $w = $this->source->at($x, $y, $z);

        return $this->invert ? 1.0 - $w : $w;
    }

    /** @return list<float> one number a vertex, 0…1 */
    public function over(Mesh $mesh): array
    {
        $out = [];
        foreach ($mesh->x as $i => $x) {
            $out[] = $this->at($x, $mesh->y[$i], $mesh->z[$i]);
        }

        return $out;
    }

    /** @return array<string, array{label: string, meaning: string, options: list<array<string, mixed>>}> */
    public static function describe(): array
    {
        return array_map(static fn (string $class): array => [
            'label' => $class::label(),
            'meaning' => $class::meaning(),
            'options' => array_map(static fn (Option $o): array => $o->toArray(), $class::options()),
        ], self::SOURCES);
    }
}
