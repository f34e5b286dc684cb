<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Problem;

/** Reads what PackWriter wrote. */
final class PackReader
{
    private int $at = 8;

    /** @throws Problem where it is another state, or of another version */
    public function __construct(private readonly string $bytes, string $name, int $version)
    {
        $head = strlen($bytes) < 8 ? false : unpack('a4name/Vversion', $bytes);
        if ($head === false || $head['name'] !== $name || $head['version'] !== $version) {
            throw self::unreadable();
        }
    }

    public function int(): int
    {
        return (int) $this->one('P', 8);
    }

    public function float(): float
    {
        return (float) $this->one('e', 8);
    }

    /** @return list<float> */
    public function floats(): array
    {
        /** @var list<float> */
        return $this->list('e', 8);
    }

    /** @return list<float> */
    public function singles(): array
    {
        /** @var list<float> */
        return $this->list('g', 4);
    }

    /** @return list<int> */
    public function ints(): array
    {
        /** @var list<int> */
        return $this->list('P', 8);
    }

    /** @return list<int> */
    public function small(): array
    {
        /** @var list<int> */
        $list = $this->list('V', 4);
        foreach ($list as $k => $v) {
            if ($v >= 0x80000000) {
                $list[$k] = $v - 0x100000000;
            }
        }

        return $list;
    }

    /** @return list<int> */
    public function flags(): array
    {
        /** @var list<int> */
        return $this->list('C', 1);
    }

    public function text(): string
    {
        $length = (int) $this->one('V', 4);

        return $this->take($length);
    }

    public function packed(): string
    {
        $text = @gzuncompress($this->text());

        return $text === false ? throw self::unreadable() : $text;
    }

    /** @throws Problem where something is left over */
    public function end(): void
    {
        if ($this->at !== strlen($this->bytes)) {
            throw self::unreadable();
        }
    }

    private function one(string $format, int $size): int|float
    {
        $value = unpack($format, $this->take($size));

        return $value === false ? throw self::unreadable() : $value[1];
    }

    /** @return list<int|float> */
    private function list(string $format, int $size): array
    {
        $n = (int) $this->one('V', 4);
        $values = unpack($format.'*', $this->take($n * $size));

        return $values === false ? throw self::unreadable() : array_values($values);
    }

    private function take(int $length): string
    {
        if ($this->at + $length > strlen($this->bytes)) {
            throw self::unreadable();
        }
        $part = substr($this->bytes, $this->at, $length);
        $this->at += $length;

        return $part;
    }

    private static function unreadable(): Problem
    {
        return new Problem('state', 'The state kept of this bake was written by another version of Yard Break, or is damaged.', '', 'Bake from the start.');
    }
}
