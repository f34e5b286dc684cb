<?php

declare(strict_types=1);

namespace YardBreak\Core\Trial;

use YardBreak\Core\Problem;
use YardBreak\Core\Shot\ShotValue;

/** One value of a shot, and what it is tried as. */
final readonly class Axis
{
    /** Values of one at most: more can be neither looked at nor told apart. */
    public const MOST = 1000;

    /** @param  list<int|float|string>  $values  as they stand in the document */
    private function __construct(public ShotValue $what, public array $values)
    {
    }

    /**
     * Reads a list or a range: `200, 1,000, 10,000`, `1–12`, `0.1–0.6 by 0.1`, `0–90 in 4`, `cells, strike`. A comma between digits that three
     * digits follow without a blank parts thousands.
     *
     * @throws Problem where it is none, or something of it is out of range
     */
    public static function of(ShotValue $what, string $written): self
    {
        $values = [];
        foreach (preg_split('/;|\n|,(?!\d{3}(?!\d))\s*|,\s+/u', trim($written)) ?: [] as $part) {
            $part = trim($part);
            if ($part !== '') {
                $values = [...$values, ...($what->choices === [] ? self::numbers($what, $part) : [self::choice($what, $part)])];
            }
            if (count($values) > self::MOST) {
                throw self::wrong($what, 'has more than '.number_format(self::MOST).' values.', 'Try fewer of them.');
            }
        }
        $values = array_values(array_unique($values, SORT_REGULAR));
        if ($values === []) {
            throw self::wrong($what, 'has no values to try.', $what->choices === [] ? 'Write some, as 1, 2, 5, or a range, as 1–12.' : 'Choose some.');
        }

        return new self($what, $values);
    }

    /** A value of it in words. */
    public function words(int|float|string $value): string
    {
        if (is_string($value)) {
            return $this->what->choices[$value] ?? $value;
        }
        $shown = round($value / $this->what->times, 9);
        $figure = abs($shown) >= 1000.0 && floor($shown) === $shown ? number_format($shown) : sprintf('%.9g', $shown);

        return $figure.($this->what->unit === '' ? '' : ' '.$this->what->unit);
    }

    /** What it is called, with what it is of. */
    public function label(): string
    {
        return lcfirst($this->what->label).($this->what->of === '' ? '' : ' of '.$this->what->of);
    }

    private static function choice(ShotValue $what, string $part): string
    {
        foreach ($what->choices as $value => $called) {
            if (in_array(mb_strtolower($part), [mb_strtolower((string) $value), mb_strtolower($called)], true)) {
                return (string) $value;
            }
        }
        throw self::wrong($what, 'cannot be "'.mb_substr($part, 0, 40).'".', 'Choose from: '.implode(', ', $what->choices).'.');
    }

    /** @return list<int|float> */
    private static function numbers(ShotValue $what, string $part): array
    {
        $unit = $what->unit === '' ? '' : '(?:\s*'.preg_quote($what->unit, '/').')?';
        $number = '([−-]?(?:\d{1,3}(?:,\d{3})+|\d+)?(?:\.\d+)?(?:e-?\d+)?)'.$unit;
        if (preg_match("/^$number$/iu", $part, $found) === 1 && self::figure($found[1]) !== null) {
            return [self::fitting($what, self::figure($found[1]))];
        }
        if (preg_match("/^$number\s*(?:–|-|\.\.|to)\s*$number(?:\s+(by|in)\s+$number)?$/iu", $part, $found) !== 1) {
            throw self::wrong($what, 'cannot be "'.mb_substr($part, 0, 40).'".', 'Write numbers, as 1, 2, 5, or a range, as 1–12, 0.1–0.6 by 0.1, or 0–90 in 4.');
        }
        [$from, $to, $how] = [self::figure($found[1]), self::figure($found[2]), mb_strtolower($found[3] ?? '')];
        $step = self::figure($found[4] ?? '');
        if ($from === null || $to === null || $how !== '' && ($step === null || $step <= 0.0)) {
            throw self::wrong($what, 'cannot be "'.mb_substr($part, 0, 40).'".', 'Write a range as 1–12, 0.1–0.6 by 0.1, or 0–90 in 4.');
        }
        $count = match ($how) {
            'in' => (int) $step,
            default => (int) floor(abs($to - $from) / ($how === 'by' ? (float) $step : 1.0) + 1e-9) + 1,
        };
        if ($count > self::MOST) {
            throw self::wrong($what, 'would have '.number_format($count).' values; there are '.number_format(self::MOST).' at most.', 'Take a longer step.');
        }
        if ($how === '' && floor($from) !== $from) {
            throw self::wrong($what, 'needs to know how far apart values are.', 'Write '.$part.' by 0.1, or '.$part.' in 5.');
        }
        $by = $how === 'in' ? ($to - $from) / max(1, $count - 1) : ($to < $from ? -1.0 : 1.0) * ($how === 'by' ? (float) $step : 1.0);
        $out = [];
        for ($k = 0; $k < $count; $k++) {
            $out[] = self::fitting($what, $from + $k * $by);
        }

        return $out;
    }

    private static function figure(string $written): ?float
    {
        $plain = str_replace([',', '−'], ['', '-'], $written);

        return is_numeric($plain) ? (float) $plain : null;
    }

    private static function fitting(ShotValue $what, float $written): int|float
    {
        $value = round($written * $what->times, 12);
        if ($value < $what->least || $value > $what->most) {
            throw self::wrong($what, sprintf('cannot be %.9g: it must be between %.9g and %.9g%s.', $written, $what->least / $what->times, $what->most / $what->times, $what->unit === '' ? '' : ' '.$what->unit));
        }
        if ($what->kind === ShotValue::WHOLE && floor($value) !== $value) {
            throw self::wrong($what, sprintf('cannot be %.9g: it must be a whole number.', $written));
        }

        return floor($value) === $value && abs($value) < 1e15 ? (int) $value : $value;
    }

    private static function wrong(ShotValue $what, string $message, string $remedy = ''): Problem
    {
        return Problem::inValue($what->path, $what->label.($what->of === '' ? '' : ' of '.$what->of).' '.$message, $remedy);
    }
}
