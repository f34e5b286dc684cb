<?php

declare(strict_types=1);

namespace YardBreak\Core;

use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Weight\Weight;

/** One setting of a pattern or shape: the single source of the bench, the command line and the checks. */
final readonly class Option
{
    /** A default length is kept where it is within so many times what suits, either way. */
    private const SUITED = 6.0;

    /** One that fills a body, and so counts by its cube, where it is no smaller than what suits by so many times. */
    private const FILLING = 2.0;

    /**
     * @param  'whole'|'number'|'point'|'points'|'direction'|'sizes'|'profile'|'path'|'outline'|'lines'|'text'|'choice'|'weight'|'prop'  $type  three numbers are a point, a direction or sizes, several of them points; a prop is named by its id, or is its mesh; points of a plane a profile, of space a path; lines of a plane an outline where closed
     * @param  int|float|string|array<mixed>|null  $default
     * @param  list<string>  $choices
     * @param  float  $share  of the longest side of what it is for, about, that a default length is meant to be; 0 where its size does not matter
     * @param  float  $bulk  likewise, of the side of a cube as bulky, for what fills it
     * @param  string  $with  of no use unless this other option is set, or is what stands after `=`; or one of several, parted by `|`
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $meaning,
        public string $type,
        public int|float|string|array|null $default,
        public float $least = 0.0,
        public float $most = 0.0,
        public string $unit = '',
        public array $choices = [],
        public string $with = '',
        public float $share = 0.0,
        public float $bulk = 0.0,
    ) {
    }

    /**
     * What the default is for a thing of this size: itself where it is a fitting part of it, or else its like in a fitting
     * scale. A brick has its true size in a wall of bricks, but not in a tower a hundred metres tall.
     *
     * @param  Vec3  $size  its extents, metres
     */
    public function suited(Vec3 $size): mixed
    {
        $length = is_array($this->default) ? $this->default[0] ?? 0.0 : $this->default;
        $longest = max($size->x, $size->y, $size->z);
        // A thin wall is filled as a thicker one would be.
        $thin = 0.02 * $longest;
        $wanted = $this->share * $longest + $this->bulk * (max($size->x, $thin) * max($size->y, $thin) * max($size->z, $thin)) ** (1 / 3);
        if ($wanted <= 0.0 || ! is_numeric($length) || (float) $length <= 0.0) {
            return $this->default;
        }
        $scale = $wanted / $length;
        if ($scale <= ($this->bulk > 0.0 ? self::FILLING : self::SUITED) && $scale >= 1.0 / self::SUITED) {
            return $this->default;
        }
        // To one digit.
        $decade = 10.0 ** floor(log10($scale) + 1e-9);
        $scale = $decade * round($scale / $decade);
        $scaled = fn (int|float $v): float => max($this->least, min($this->most, (float) sprintf('%.6g', $v * $scale)));

        return is_array($this->default) ? array_map($scaled, $this->default) : $scaled((float) $length);
    }

    /**
     * Defaults that a thing of this size asks to be others.
     *
     * @param  list<self>  $options
     * @return array<string, mixed>
     */
    public static function suiting(array $options, Vec3 $size): array
    {
        $out = [];
        foreach ($options as $option) {
            $value = $option->suited($size);
            if ($value !== $option->default) {
                $out[$option->name] = $value;
            }
        }

        return $out;
    }

    /**
     * The given values checked against the options, with defaults for what is missing.
     *
     * @param  list<self>  $options
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     *
     * @throws Problem naming the first value that is unknown, of the wrong kind or out of range
     */
    public static function resolve(array $options, array $values): array
    {
        $out = [];
        foreach ($options as $option) {
            $out[$option->name] = array_key_exists($option->name, $values) ? $option->checked($values[$option->name]) : $option->default;
            unset($values[$option->name]);
        }
        if ($values !== []) {
            $name = mb_substr((string) array_key_first($values), 0, 40);
            throw Problem::inValue($name, 'There is no setting called "'.$name.'" here.', 'Known settings: '.implode(', ', array_map(static fn (self $o): string => $o->name, $options)).'.');
        }

        return $out;
    }

    /** @throws Problem */
    private function checked(mixed $value): mixed
    {
        if ($value === null && $this->default === null) {
            return null;
        }
        switch ($this->type) {
            case 'whole':
            case 'number':
                if (is_string($value) && is_numeric($value)) {
                    $value += 0;
                }
                if (! is_int($value) && ! is_float($value) || ! is_finite((float) $value)) {
                    throw Problem::inValue($this->name, $this->label.' must be a number.');
                }
                if ($this->type === 'whole' && (float) (int) $value !== (float) $value) {
                    throw Problem::inValue($this->name, $this->label.' must be a whole number.');
                }
                if ($value < $this->least || $value > $this->most) {
                    throw Problem::outOfRange($this->name, $this->label, $value, $this->range());
                }

                return $this->type === 'whole' ? (int) $value : (float) $value;
            case 'point':
            case 'direction':
            case 'sizes':
                if (is_string($value)) {
                    $value = array_map(static fn (string $v): mixed => is_numeric($v) ? (float) $v : $v, explode(',', $value));
                }
                if (! is_array($value) || count($value) !== 3 || array_filter($value, static fn (mixed $v): bool => ! is_int($v) && ! is_float($v) || ! is_finite((float) $v)) !== []) {
                    throw Problem::inValue($this->name, $this->label.' must be three numbers: x, y and z.');
                }

                foreach ($value as $v) {
                    if ($v < $this->least || $v > $this->most) {
                        throw Problem::outOfRange($this->name, $this->label, $v, $this->range());
                    }
                }

                return array_map(static fn (int|float $v): float => (float) $v, array_values($value));
            case 'text':
                if (! is_string($value) || mb_strlen($value) < $this->least || mb_strlen($value) > $this->most) {
                    throw Problem::inValue($this->name, sprintf('%s must be a text of %d to %d letters.', $this->label, $this->least, $this->most));
                }

                return $value;
            case 'outline':
            case 'lines':
                if (! is_array($value)) {
                    throw Problem::inValue($this->name, $this->label.' must be a drawing.');
                }
                try {
                    Outline::of($value);
                } catch (Problem $e) {
                    throw $e->at($this->name);
                }

                return $value;
            case 'prop':
                if (! $value instanceof Mesh && (! is_string($value) || mb_strlen($value) > 200)) {
                    throw Problem::inValue($this->name, $this->label.' must be a prop.');
                }

                return $value;
            case 'weight':
                $value = is_string($value) ? Weight::inWords($value) : $value;
                if (! is_array($value)) {
                    throw Problem::inValue($this->name, $this->label.' must be a weight.');
                }
                try {
                    Weight::of($value);
                } catch (Problem $e) {
                    throw $e->at($this->name.($e->path === 'source' ? '' : '.values'));
                }

                return $value;
            case 'points':
            case 'path':
                if (is_string($value)) {
                    $value = explode(';', $value);
                }
                if (! is_array($value) || count($value) < ($this->type === 'path' ? 2 : 1) || count($value) > 1000) {
                    throw Problem::inValue($this->name, $this->label.' must be a list of '.($this->type === 'path' ? 'two' : 'one').' to 1000 points.');
                }

                return array_map(fn (mixed $p): mixed => (new self($this->name, $this->label, $this->meaning, 'point', null, $this->least, $this->most, $this->unit))->checked($p) ?? throw Problem::inValue($this->name, 'A point is missing.'), array_values($value));
            case 'profile':
                if (! is_array($value) || count($value) > 1000) {
                    throw Problem::inValue($this->name, $this->label.' must be a list of points.');
                }
                foreach (array_values($value) as $k => $p) {
                    if (! is_array($p) || count($p) !== 2 || ! self::isNumber($p[0] ?? null) || ! self::isNumber($p[1] ?? null) || $p[0] < 0 || $p[0] > $this->most || abs($p[1]) > $this->most) {
                        throw Problem::inValue($this->name.'['.$k.']', 'A profile point is a radius of 0 or more and a height.', 'Correct it, or take it out.');
                    }
                }

                return array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], array_values($value));
            default:
                if (! in_array($value, $this->choices, true)) {
                    throw Problem::inValue($this->name, $this->label.' must be one of: '.implode(', ', $this->choices).'.');
                }

                return $value;
        }
    }

    private static function isNumber(mixed $value): bool
    {
        return (is_int($value) || is_float($value)) && is_finite((float) $value);
    }

    private function range(): string
    {
        return sprintf('between %s and %s%s', self::plain($this->least), self::plain($this->most), $this->unit === '' ? '' : ' '.$this->unit);
    }

    private static function plain(float $value): string
    {
        return rtrim(rtrim(sprintf('%.6f', $value), '0'), '.');
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }
}
