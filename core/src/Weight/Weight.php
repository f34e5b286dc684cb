<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Values;

/** A weight that stands still, as what steers a break: one source with its values, or a map as it is at a frame; possibly inverted. */
final readonly class Weight
{
    /** The edge of a weight, where something either acts or does not. */
    public const EDGE = 0.5;

    private function __construct(private ?Anywhere $source, private bool $invert)
    {
    }

    /**
     * @param  array<mixed>  $value  `source`, `values` and `invert`; of a map `frame` too, and as `over` what it gives there, before it is asked
     *
     * @throws Problem for an unknown source or value
     */
    public static function of(array $value): self
    {
        $name = is_string($value['source'] ?? null) ? $value['source'] : '';
        if ($name === 'map') {
            if (! is_string($value['values']['map'] ?? null) || $value['values']['map'] === '') {
                throw Problem::inValue('source', 'No map is chosen yet.', 'Choose the map to go by.');
            }

            return new self(($value['over'] ?? null) instanceof Anywhere ? $value['over'] : null, (bool) ($value['invert'] ?? false));
        }
        $all = array_filter(WeightCatalogue::SOURCES, static fn (string $class): bool => is_subclass_of($class, Pointwise::class));
        $class = $all[$name]
            ?? throw Problem::inValue(
                'source',
                isset(WeightCatalogue::SOURCES[$name]) ? 'A break cannot be steered by "'.$name.'" itself.' : 'There is no source of weights called "'.mb_substr($name, 0, 40).'".',
                'Choose one of: '.implode(', ', [...array_keys($all), 'map']).'.',
            );
        $values = Values::of($class::options(), is_array($value['values'] ?? null) ? $value['values'] : []);
        if ($values->moves()) {
            throw Problem::inValue($values->keyed()[0], 'A break is the same at every frame, so what steers it cannot have keys.', 'Give a number.');
        }
        /** @var Pointwise $source */
        $source = $class::of($values->at(0.0));

        return new self($source, (bool) ($value['invert'] ?? false));
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
        $w = ($this->source ?? throw new Problem(
            'internal',
            'A weight map was asked before it was made.',
            '',
            'Report this; it is a fault of Yard Break.',
        ))->at($x, $y, $z);

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
}
