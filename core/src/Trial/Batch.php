<?php

declare(strict_types=1);

namespace YardBreak\Core\Trial;

use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\ShotValue;

/** Variants of a shot: every value of up to three axes with every value of the others, the last changing fastest. */
final readonly class Batch
{
    public const MOST_AXES = 3;

    /** Variants at most. */
    public const MOST = 1000;

    /** @param  list<Axis>  $axes */
    private function __construct(public array $axes)
    {
    }

    /**
     * @param  list<array{path: string, values: string}>  $written
     * @param  list<ShotValue>  $all  of the shot
     *
     * @throws Problem where there is nothing to try, too much of it, or something that cannot be
     */
    public static function of(array $written, array $all): self
    {
        if ($written === [] || count($written) > self::MOST_AXES) {
            throw Problem::inValue('axes', $written === [] ? 'Nothing is chosen to be tried.' : 'At most three values can be tried with each other.', 'Choose one to three values.');
        }
        $by = array_column($all, null, 'path');
        $axes = array_map(static fn (array $axis): Axis => Axis::of(self::tryable($by[$axis['path']] ?? null), $axis['values']), $written);
        $paths = array_column($written, 'path');
        foreach ($paths as $k => $one) {
            foreach ($paths as $j => $other) {
                if ($j !== $k && str_starts_with("$one/", "$other/")) {
                    throw Problem::inValue('axes', $one === $other ? 'The same value is chosen twice.' : 'A pattern and a value of it cannot be tried with each other.', 'Take one of them away.');
                }
            }
        }
        $batch = new self($axes);
        if ($batch->count() > self::MOST) {
            throw Problem::inValue('axes', 'These would be '.number_format($batch->count()).' variants; there are '.number_format(self::MOST).' at most.', 'Try fewer values.');
        }

        return $batch;
    }

    private static function tryable(?ShotValue $value): ShotValue
    {
        if ($value === null) {
            throw Problem::inValue('axes', 'The shot has no such value any more.', 'Choose another.');
        }
        if ($value->isKeyed()) {
            throw Problem::inValue('axes', $value->label.($value->of === '' ? '' : ' of '.$value->of).' has keys.', 'Set it to one value first.');
        }

        return $value;
    }

    public function count(): int
    {
        return (int) array_product(array_map(static fn (Axis $axis): int => count($axis->values), $this->axes));
    }

    /**
     * @param  array<string, mixed>  $document  the shot
     * @param  \Closure(string): array{float, float, float}  $size  of a prop at a place in the document, metres
     * @return list<array{words: string, patch: list<array{op: 'add'|'replace', path: string, value: mixed}>}> what each is, and the JSON Patch that makes it
     */
    public function variants(array $document, \Closure $size): array
    {
        $out = [];
        for ($k = 0, $n = $this->count(); $k < $n; $k++) {
            $rest = $k;
            $words = $patch = [];
            foreach (array_reverse($this->axes) as $axis) {
                $value = $axis->values[$rest % count($axis->values)];
                $rest = intdiv($rest, count($axis->values));
                array_unshift($words, $axis->label().' '.$axis->words($value));
                $patch = [...self::steps($axis->what, $value, $document, $size), ...$patch];
            }
            $out[] = ['words' => ucfirst(implode(', ', $words)), 'patch' => $patch];
        }

        return $out;
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  \Closure(string): array{float, float, float}  $size
     * @return list<array{op: 'add'|'replace', path: string, value: mixed}>
     */
    private static function steps(ShotValue $what, int|float|string $value, array $document, \Closure $size): array
    {
        if ($what->kind === ShotValue::PATTERN) {
            if ($value === $what->now) {
                return [];
            }
            $options = BreakCatalogue::PATTERNS[$value]::options();
            $prop = dirname($what->path);
            $values = Option::suiting($options, $size($prop)) + array_column($options, 'default', 'name');
            $whole = ['pattern' => $value, 'values' => (object) array_filter($values, static fn (mixed $v): bool => $v !== null)];

            return [['op' => 'add', 'path' => $what->path, 'value' => $whole], ['op' => 'add', 'path' => $prop.'/rework', 'value' => []]];
        }

        return $what->set($value, $document);
    }
}
