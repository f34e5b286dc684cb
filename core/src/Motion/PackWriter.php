<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** Writes a state as packed numbers, each list with its length. */
final class PackWriter
{
    /** Numbers given to pack() at once. */
    private const CHUNK = 4096;

    private string $bytes;

    public function __construct(string $name, int $version)
    {
        $this->bytes = pack('a4V', $name, $version);
    }

    public function int(int $value): void
    {
        $this->bytes .= pack('P', $value);
    }

    public function float(float $value): void
    {
        $this->bytes .= pack('e', $value);
    }

    /** @param  list<float>  $values */
    public function floats(array $values): void
    {
        $this->list('e*', $values);
    }

    /** @param  list<float>  $values  each of single precision */
    public function singles(array $values): void
    {
        $this->list('g*', $values);
    }

    /** @param  list<int>  $values */
    public function ints(array $values): void
    {
        $this->list('P*', $values);
    }

    /** @param  list<int>  $values  each from −2³¹ on below 2³¹ */
    public function small(array $values): void
    {
        $this->list('V*', $values);
    }

    /** @param  list<int>  $values  each 0…255 */
    public function flags(array $values): void
    {
        $this->list('C*', $values);
    }

    public function text(string $text): void
    {
        $this->bytes .= pack('V', strlen($text)).$text;
    }

    /** Text that is made smaller, with the least effort. */
    public function packed(string $text): void
    {
        $this->text((string) gzcompress($text, 1));
    }

    public function bytes(): string
    {
        return $this->bytes;
    }

    /** @param  list<int|float>  $values */
    private function list(string $format, array $values): void
    {
        $n = count($values);
        $this->bytes .= pack('V', $n);
        for ($k = 0; $k < $n; $k += self::CHUNK) {
            $this->bytes .= pack($format, ...($n <= self::CHUNK ? $values : array_slice($values, $k, self::CHUNK)));
        }
    }
}
