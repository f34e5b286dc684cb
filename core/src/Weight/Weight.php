<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Values;

/** A weight that stands still, as what steers a break: one source with its values, possibly inverted. */
final readonly class Weight
{
    /** The edge of a weight, where something either acts or does not. */
    public const EDGE = 0.5;

    private function __construct(private Pointwise $source, private bool $invert)
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
        $all = array_filter(WeightCatalogue::SOURCES, static fn (string $class): bool => is_subclass_of($class, Pointwise::class));
        $class = $all[$name] ?? throw Problem::inValue('source', isset(WeightCatalogue::SOURCES[$name]) ? 'A break cannot be steered by "'.$name.'" itself.' : 'There is no source of weights called "'.mb_substr($name, 0, 40).'".', 'Choose one of: '.implode(', ', array_keys($all)).'; or make a map on the Weights stage and take that.');
        $values = Values::of($class::options(), is_array($value['values'] ?? null) ? $value['values'] : []);
        if ($values->moves()) {
            throw Problem::inValue((string) array_key_first($values->tracks()), 'A break is the same at every frame, so what steers it cannot have keys.', 'Give a number.');
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
}
