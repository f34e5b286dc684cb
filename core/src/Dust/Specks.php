<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/**
 * What grains and chips of a prop have in common: where each is, how fast, how large and how old, one packed array a quantity, and how that is kept.
 * Whoever uses it names all its arrays of real numbers in `REALS`, in the order they are kept in.
 */
trait Specks
{
    /** The largest number of a place in a stream. */
    private const FULL = 65535.0;

    /** @var list<float> m, in the scene */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];

    /** @var list<float> m/s */
    public array $vx = [];

    /** @var list<float> */
    public array $vy = [];

    /** @var list<float> */
    public array $vz = [];

    /** @var list<float> m across, as born */
    private array $size = [];

    /** @var list<float> s it has lived; below zero, what it lived before the moment reached and has not moved by yet */
    private array $age = [];

    /** @var list<float> s it lives */
    private array $life = [];

    /** @var list<int> number of the dust it is of */
    public array $of = [];

    /** @var list<int> 1 for what lies */
    private array $lies = [];

    public function count(): int
    {
        return count($this->x);
    }

    /** m across, as born. */
    public function sizeOf(int $i): float
    {
        return $this->size[$i];
    }

    public function isLying(int $i): bool
    {
        return $this->lies[$i] === 1;
    }

    /** Takes away what has lived long enough. */
    public function age(): void
    {
        // Mostly nothing has: half a million are gone through once, and nothing is made of them.
        if (! $this->hasGone()) {
            return;
        }
        $stays = [];
        foreach ($this->age as $i => $age) {
            if ($age < $this->life[$i]) {
                $stays[] = $i;
            }
        }
        foreach ([...self::REALS, 'of', 'lies'] as $list) {
            $all = $this->$list;
            $kept = [];
            foreach ($stays as $i) {
                $kept[] = $all[$i];
            }
            $this->$list = $kept;
        }
    }

    private function hasGone(): bool
    {
        foreach ($this->age as $i => $age) {
            if ($age >= $this->life[$i]) {
                return true;
            }
        }

        return false;
    }

    /**
     * Those that were there some seconds before the moment reached.
     *
     * @return iterable<int, array{float, float}> by number: s by which it is to be moved back, and s that it was born before that moment
     */
    private function thereBefore(float $back): iterable
    {
        foreach ($this->age as $i => $age) {
            if ($age < 0.0 ? -$age < $back : $age < $back) {
                continue;
            }
            // What was just born has not moved on yet.
            yield $i => [$age < 0.0 || $this->lies[$i] === 1 ? 0.0 : $back, $age < 0.0 ? 0.0 : $back - $age];
        }
    }

    /** @return array{array{float, float, float}, array{float, float, float}, float} low corner of the box round all of them, its sides, and the largest size, in m */
    private function box(): array
    {
        if ($this->x === []) {
            return [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.0];
        }
        $low = [min($this->x), min($this->y), min($this->z)];

        return [$low, [max($this->x) - $low[0], max($this->y) - $low[1], max($this->z) - $low[2]], max($this->size)];
    }

    /**
     * What a stream says of one.
     *
     * @param  list<float>  $box  low corner, sides and largest size, m
     * @param  array<int, int>  $n  from 1: x, y, z as shares of 65535 of the box; and age, dust and size in one
     * @return array{float, float, float, float, float, int} x, y, z and size in metres as born, age as a share of its life, and number of the dust
     */
    private static function told(array $box, array $n): array
    {
        [$x, $y, $z, $w, $h, $d, $largest] = $box;

        return [$x + $w * $n[1] / self::FULL, $y + $h * $n[2] / self::FULL, $z + $d * $n[3] / self::FULL, $largest * (($n[4] >> 10) / 63.0) ** 2, ($n[4] & 255) / 255.0, $n[4] >> 8 & 3];
    }

    public function pack(PackWriter $out): void
    {
        foreach (self::REALS as $list) {
            $out->floats($this->$list);
        }
        $out->flags($this->of);
        $out->flags($this->lies);
    }

    public function unpack(PackReader $in): void
    {
        foreach (self::REALS as $list) {
            $this->$list = $in->floats();
        }
        $this->of = $in->flags();
        $this->lies = $in->flags();
    }
}
