<?php

declare(strict_types=1);

namespace YardBreak\Core;

/** One setting of a pattern or shape: the single source of the bench, the command line and the checks. */
final readonly class Option
{
    /** A default length is kept where it is within so many times what suits, either way. */
    private const SUITED = 6.0;

    /** One that fills a body, and so counts by its cube, where it is no smaller than what suits by so many times. */
    private const FILLING = 2.0;

    /**
     * @param  class-string<Kind>  $kind  what its values are
     * @param  int|float|string|array<mixed>|null  $default
     * @param  list<string>  $choices  of a map, what none of them is called
     * @param  bool  $ofPieces  of no use where there is one piece only
     * @param  float  $share  of the longest side of what it is for, about, that a default length is meant to be; 0 where its size does not matter
     * @param  float  $bulk  likewise, of the side of a cube as bulky, for what fills it
     * @param  array<string, string>  $notes  by choice: what is to be known of it
     * @param  string  $pictures  set of pictures that has one of each choice; empty for none
     * @param  string  $part  what it belongs to with others, as a heading
     * @param  string  $with  of no use unless this other option is set, is what stands after `=`, or more than what stands after `>`; or one of several, parted by `|`
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $meaning,
        public string $kind,
        public int|float|string|array|null $default,
        public float $least = 0.0,
        public float $most = 0.0,
        public string $unit = '',
        public array $choices = [],
        public string $with = '',
        public bool $ofPieces = false,
        public float $share = 0.0,
        public float $bulk = 0.0,
        public string $part = '',
        public array $notes = [],
        public string $pictures = '',
    ) {
    }

    /**
     * What the default is for a thing of this size: itself where it is a fitting part of it, or else its like in a fitting
     * scale. A brick has its true size in a wall of bricks, but not in a tower a hundred metres tall.
     *
     * @param  array{float, float, float}  $size  its extents, metres
     */
    public function suited(array $size): mixed
    {
        $length = is_array($this->default) ? $this->default[0] ?? 0.0 : $this->default;
        $longest = max($size);
        // A thin wall is filled as a thicker one would be.
        $thin = 0.02 * $longest;
        $wanted = $this->share * $longest + $this->bulk * (max($size[0], $thin) * max($size[1], $thin) * max($size[2], $thin)) ** (1 / 3);
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
     * @param  array{float, float, float}  $size  extents, metres
     * @return array<string, mixed>
     */
    public static function suiting(array $options, array $size): array
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
            throw Problem::inValue(
                $name,
                'There is no setting called "'.$name.'" here.',
                'Known settings: '.implode(', ', array_map(static fn (self $o): string => $o->name, $options)).'.',
            );
        }

        return $out;
    }

    /** @throws Problem */
    private function checked(mixed $value): mixed
    {
        return $value === null && $this->default === null ? null : $this->kind::checked($this, $value);
    }

    /** Whether it can be another at every frame. */
    public function isKeyable(): bool
    {
        return is_subclass_of($this->kind, Keyable::class);
    }

    /** Whether its values are shares that are written in per cent. */
    public function isShare(): bool
    {
        return $this->unit === '%' || $this->unit === '' && $this->least === 0.0 && $this->most <= 1.0 && $this->kind::name() === 'number';
    }

    /**
     * Whether it is of any use with the other values as they are.
     *
     * @param  list<self>  $options
     * @param  array<string, mixed>  $values
     */
    public function applies(array $options, array $values): bool
    {
        foreach ($this->with === '' ? [] : explode('|', $this->with) as $need) {
            [$name, $wanted] = [...(preg_split('/[=>]/', $need) ?: []), null];
            $other = array_column($options, null, 'name')[$name] ?? null;
            $value = $values[$name] ?? $other->default ?? null;
            $met = match (true) {
                $wanted === null => ! in_array($value, [null, 0, 0.0, ''], true),
                str_contains($need, '>') => is_numeric($value) && $value > (float) $wanted,
                default => $value === $wanted,
            };
            if ($met && ($other === null || $other->applies($options, $values))) {
                return true;
            }
        }

        return $this->with === '';
    }

    /** The range in words. */
    public function range(): string
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
        return [
            'type' => $this->kind::name(),
            'keyable' => $this->isKeyable(),
        ] + array_diff_key(get_object_vars($this), ['kind' => true]);
    }
}
