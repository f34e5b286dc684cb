<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Problem;

/**
 * How a value goes from one key to the next. A curve from (0, 0) to (1, 1) with two handles goes after `cubic-bezier` of
 * W3C css-easing-1; `bounce` is the fall of a ball that keeps half its speed at every bounce.
 */
final readonly class Ease
{
    public const HOLD = 0;

    public const LINEAR = 1;

    public const CURVE = 2;

    public const BOUNCE = 3;

    /** @var array<string, array{float, float, float, float}> x and y of the first handle, then of the second */
    public const CURVES = [
        'smooth' => [1 / 3, 0.0, 2 / 3, 1.0],
        'hard-start' => [0.0, 0.5, 0.55, 1.0],
        'long-tail' => [0.05, 0.85, 0.1, 1.0],
        'overshoot' => [0.3, 0.2, 0.35, 1.55],
    ];

    /** @var array<string, string> in words, in the order they are offered */
    public const NAMES = [
        'hold' => 'Hold',
        'linear' => 'Linear',
        'smooth' => 'Smooth',
        'hard-start' => 'Hard start',
        'long-tail' => 'Long tail',
        'overshoot' => 'Overshoot',
        'bounce' => 'Bounce',
    ];

    /** Bounces before it lies still. */
    private const BOUNCES = 3;

    /** Share of its speed a bounce keeps. */
    private const KEPT = 0.5;

    /** @param  array{float, float, float, float}  $handles  of a curve */
    private function __construct(public int $kind, public array $handles = [0.0, 0.0, 1.0, 1.0])
    {
    }

    public static function linear(): self
    {
        return new self(self::LINEAR);
    }

    /**
     * @param  mixed  $value  a name, or the four handle coordinates
     *
     * @throws Problem where there is no such ease, or a handle lies outside the time between the keys
     */
    public static function of(mixed $value): self
    {
        if (is_array($value) && count($value) === 4 && array_is_list($value)) {
            foreach ($value as $v) {
                if (! is_int($v) && ! is_float($v)) {
                    throw Problem::inValue('', 'The handles of an ease are four numbers.', 'Give x and y of both handles.');
                }
            }
            [$x1, $y1, $x2, $y2] = array_map(floatval(...), $value);
            if ($x1 < 0.0 || $x1 > 1.0 || $x2 < 0.0 || $x2 > 1.0) {
                throw Problem::inValue(
                    '',
                    'A handle of an ease lies before its key or after the next, so the curve would go back in time.',
                    'Keep the first and third number between 0 and 1.',
                );
            }
            if (abs($y1) > 100.0 || abs($y2) > 100.0) {
                throw Problem::inValue('', 'A handle of an ease goes further than 100 times the change between its keys.', 'Draw it in.');
            }

            return new self(self::CURVE, [$x1, $y1, $x2, $y2]);
        }

        return match (true) {
            $value === 'hold' => new self(self::HOLD),
            $value === 'linear' => new self(self::LINEAR),
            $value === 'bounce' => new self(self::BOUNCE),
            is_string($value) && isset(self::CURVES[$value]) => new self(self::CURVE, self::CURVES[$value]),
            default => throw Problem::inValue(
                '',
                'There is no such ease.',
                'Choose one of: '.implode(', ', array_keys(self::NAMES)).'; or give four numbers, x and y of both handles.',
            ),
        };
    }

    /**
     * @return list<array{name: string, label: string, curve: list<float>|null, shape: list<float>}> handles where it is a curve, and its shape as shares
     * done after k 24ths of the time
     */
    public static function describe(): array
    {
        $out = [];
        foreach (self::NAMES as $name => $label) {
            $ease = self::of($name);
            $out[] = [
                'name' => $name,
                'label' => $label,
                'curve' => self::CURVES[$name] ?? null,
                'shape' => array_map(static fn (int $k): float => round($ease->at($k / 24), 4), range(0, 24)),
            ];
        }

        return $out;
    }

    /** The share of the change that is done after a share of the time, 0…1. */
    public function at(float $share): float
    {
        return match ($this->kind) {
            self::HOLD => $share < 1.0 ? 0.0 : 1.0,
            self::LINEAR => $share,
            self::CURVE => self::curve($share, ...$this->handles),
            default => self::bounce($share)[0],
        };
    }

    /** How fast the share done grows with the share of time. */
    public function slope(float $share): float
    {
        if ($this->kind === self::CURVE) {
            [$x1, $y1, $x2, $y2] = $this->handles;
            $s = self::parameter($share, $x1, $x2);
            $r = 1.0 - $s;
            $dx = 3.0 * ($r * $r * $x1 + 2.0 * $r * $s * ($x2 - $x1) + $s * $s * (1.0 - $x2));
            $dy = 3.0 * ($r * $r * $y1 + 2.0 * $r * $s * ($y2 - $y1) + $s * $s * (1.0 - $y2));

            return $dy / max($dx, 1e-9);
        }

        return match ($this->kind) {
            self::HOLD => 0.0,
            self::LINEAR => 1.0,
            default => self::bounce($share)[1],
        };
    }

    public static function curve(float $share, float $x1, float $y1, float $x2, float $y2): float
    {
        if ($share <= 0.0) {
            return 0.0;
        }
        if ($share >= 1.0) {
            return 1.0;
        }
        $s = self::parameter($share, $x1, $x2);
        $r = 1.0 - $s;

        return 3.0 * $r * $s * ($r * $y1 + $s * $y2) + $s * $s * $s;
    }

    /** Where on the curve this share of time is. */
    private static function parameter(float $share, float $x1, float $x2): float
    {
        // x(s) = a·s³ + b·s² + c·s never falls, so Newton kept within a shrinking bracket always comes home.
        $c = 3.0 * $x1;
        $b = 3.0 * ($x2 - $x1) - $c;
        $a = 1.0 - $c - $b;
        $low = 0.0;
        $high = 1.0;
        $s = $share;
        for ($round = 0; $round < 64; $round++) {
            $x = (($a * $s + $b) * $s + $c) * $s - $share;
            if ($x < 1e-14 && $x > -1e-14) {
                break;
            }
            if ($x > 0.0) {
                $high = $s;
            } else {
                $low = $s;
            }
            $slope = (3.0 * $a * $s + 2.0 * $b) * $s + $c;
            $next = $slope > 1e-9 ? $s - $x / $slope : -1.0;
            $s = $next > $low && $next < $high ? $next : 0.5 * ($low + $high);
        }

        return $s;
    }

    /** @return array{float, float} share done, and how fast it grows */
    private static function bounce(float $share): array
    {
        // The first fall lasts 1; bounce k lasts 2·KEPT^k.
        $all = 1.0;
        for ($k = 1, $e = self::KEPT; $k <= self::BOUNCES; $k++, $e *= self::KEPT) {
            $all += 2.0 * $e;
        }
        $t = $share * $all;
        if ($t <= 1.0) {
            return [$t * $t, 2.0 * $t * $all];
        }
        $t -= 1.0;
        for ($k = 1, $e = self::KEPT; $k <= self::BOUNCES; $k++, $e *= self::KEPT) {
            if ($t <= 2.0 * $e) {
                return [1.0 - $e * $e + ($t - $e) ** 2, 2.0 * ($t - $e) * $all];
            }
            $t -= 2.0 * $e;
        }

        return [1.0, 0.0];
    }
}
