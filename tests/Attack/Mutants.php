<?php

declare(strict_types=1);

namespace Tests\Attack;

use YardBreak\Core\SeededRandom;

/** Damages good files and good values at random, the same way for the same seed. */
final class Mutants
{
    private const NUMBERS = ['0', '-1', '1', '2', '4294967295', '-2147483648', '9223372036854775807', '-9223372036854775808', '1e308', '-1e308', '1e999', 'nan', 'inf', '0.0', '1e-320', '99999999999999999999', '0x10', '1,5'];

    private readonly SeededRandom $random;

    public function __construct(int $seed)
    {
        $this->random = new SeededRandom($seed);
    }

    public function below(int $n): int
    {
        return min($n - 1, (int) ($this->random->between(0.0, 1.0) * $n));
    }

    /**
     * @template T
     *
     * @param  list<T>  $of
     * @return T
     */
    public function one(array $of): mixed
    {
        return $of[$this->below(count($of))];
    }

    /** The bytes with a few of them, or of their numbers or parts, changed. */
    public function of(string $bytes): string
    {
        for ($n = 1 + min($this->below(8), $this->below(8), $this->below(8)); $n > 0 && $bytes !== ''; $n--) {
            $at = $this->below(strlen($bytes));
            $span = 1 + $this->below(min(64, strlen($bytes) - $at));
            switch ($this->below(8)) {
                case 0:
                    $bytes[$at] = chr(ord($bytes[$at]) ^ 1 << $this->below(8));
                    break;
                case 1:
                    $bytes[$at] = chr($this->below(256));
                    break;
                case 2:
                    $bytes = substr_replace($bytes, '', $at, $span);
                    break;
                case 3:
                    $bytes = substr_replace($bytes, str_repeat(substr($bytes, $at, $span), 1 + $this->below(4)), $at, 0);
                    break;
                case 4:
                    $bytes = substr_replace($bytes, $this->one([pack('V', 0xFFFFFFFF), pack('V', 0), pack('g', NAN), pack('g', INF), pack('g', 3e38), pack('V', 1 << 30), pack('v', 0xFFFF), pack('e', -1e308)]), $at, 4);
                    break;
                case 5:
                    $bytes = $this->below(4) === 0 ? substr($bytes, 0, $at) : $bytes;
                    break;
                case 6:
                    // A number written in letters becomes another.
                    if (preg_match('/-?\d+(\.\d+)?/', $bytes, $found, PREG_OFFSET_CAPTURE, $at) === 1) {
                        $bytes = substr_replace($bytes, $this->one(self::NUMBERS), $found[0][1], strlen($found[0][0]));
                    }
                    break;
                default:
                    $from = $this->below(strlen($bytes));
                    $bytes = substr_replace($bytes, substr($bytes, $from, $span), $at, $span);
            }
        }

        return $bytes;
    }

    /** A GLB whose description is still JSON, with values of it changed. */
    public function ofGlb(string $bytes): string
    {
        ['a' => $size] = unpack('Va', $bytes, 12) ?: ['a' => 0];
        $json = json_decode(substr($bytes, 20, $size));
        for ($n = 1 + $this->below(3); $n > 0; $n--) {
            $json = $this->inside($json);
        }
        $text = (string) json_encode($json);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        $rest = substr($bytes, 20 + $size);

        return 'glTF'.pack('VV', 2, 20 + strlen($text) + strlen($rest)).pack('VV', strlen($text), 0x4E4F534A).$text.$rest;
    }

    /** The value with something in it replaced, taken out or put in. */
    public function inside(mixed $value): mixed
    {
        $keys = array_keys((array) $value);
        if ($keys === [] || ! is_array($value) && ! $value instanceof \stdClass || $this->below(12) === 0) {
            return $this->hostile();
        }
        $key = $this->one($keys);
        $list = is_array($value);
        $parts = (array) $value;
        switch ($this->below(8)) {
            case 0:
                unset($parts[$key]);
                break;
            case 1:
                $parts[$this->one(['x', 'wind', '', '0', 'values', '__proto__'])] = $this->hostile();
                break;
            default:
                $parts[$key] = $this->inside($parts[$key]);
        }

        return $list && array_is_list($parts) ? $parts : (object) $parts;
    }

    public function hostile(): mixed
    {
        return $this->one([
            null, true, false, 0, -1, 1, 0.5, 1e308, -1e308, PHP_INT_MAX, PHP_INT_MIN, '', 'x', "a\u{0}b", '-1', '1e999', str_repeat('x', 5000), [], [[]], [0], [1, 2, 3], ['x', 'y'], [null], new \stdClass,
            (object) ['x' => 1], (object) ['values' => new \stdClass], (object) ['keys' => []], $this->deep(40), $this->deep(70), range(0, 2000), 1e-320, '花瓶', '../../etc/passwd', 'box', 'cells', [[0, 0], [1, 1]], [['a', 'b']],
        ]);
    }

    private function deep(int $levels): mixed
    {
        $value = 1;
        for ($i = 0; $i < $levels; $i++) {
            $value = $i % 2 === 0 ? [$value] : (object) ['x' => $value];
        }

        return $value;
    }
}
