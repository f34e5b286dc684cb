<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/**
 * Uneven ground: heights by chance at the corners of a square lattice, and between them a surface that is smooth to its second
 * derivative (value noise with the fade 6t⁵ − 15t⁴ + 10t³ of Perlin 2002, "Improving noise"). Along each axis it rises or falls
 * steadily from corner to corner, so that all its crests stand at corners.
 */
final readonly class RoughGround implements Ground
{
    /** The steepest that the fade is. */
    private const STEEPEST = 1.875;

    private function __construct(private float $height, private float $width, private int $seed)
    {
    }

    public static function label(): string
    {
        return 'Rough';
    }

    public static function meaning(): string
    {
        return 'Uneven by chance, at height 0 at most';
    }

    public static function options(): array
    {
        return [
            new Option('height', 'Height', 'From its lowest to its highest places.', Number::class, 0.05, 0.0, 10.0, 'm'),
            new Option('width', 'Width', 'From a rise to the dip beside it.', Number::class, 0.5, 0.01, 100.0, 'm'),
            new Option('seed', 'Seed', 'Another number, another ground.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $values = Option::resolve(self::options(), $values);
        if ($values['height'] > $values['width']) {
            throw Problem::inValue('height', 'The ground would be as steep as a wall: it is higher than its rises are wide.', 'Make it lower, or wider.');
        }

        return new self($values['height'], $values['width'], $values['seed']);
    }

    public function isFlat(): bool
    {
        return $this->height <= 0.0;
    }

    public function depth(): float
    {
        return $this->height;
    }

    public function height(float $x, float $z): float
    {
        $u = $x / $this->width;
        $v = $z / $this->width;
        $i = (int) floor($u);
        $k = (int) floor($v);
        $s = self::fade($u - $i);
        $t = self::fade($v - $k);
        $a = $this->corner($i, $k);
        $b = $this->corner($i + 1, $k);
        $c = $this->corner($i, $k + 1);
        $d = $this->corner($i + 1, $k + 1);

        return $a + $s * ($b - $a) + $t * ($c - $a) + $s * $t * ($a - $b - $c + $d);
    }

    public function slope(float $x, float $z): array
    {
        $u = $x / $this->width;
        $v = $z / $this->width;
        $i = (int) floor($u);
        $k = (int) floor($v);
        $u -= $i;
        $v -= $k;
        $s = self::fade($u);
        $t = self::fade($v);
        $a = $this->corner($i, $k);
        $b = $this->corner($i + 1, $k);
        $c = $this->corner($i, $k + 1);
        $d = $this->corner($i + 1, $k + 1);
        $bent = $a - $b - $c + $d;
        $du = 30.0 * $u * $u * (1.0 - $u) * (1.0 - $u);
        $dv = 30.0 * $v * $v * (1.0 - $v) * (1.0 - $v);

        return [$du * ($b - $a + $t * $bent) / $this->width, $dv * ($c - $a + $s * $bent) / $this->width];
    }

    public function crests(float $x0, float $z0, float $x1, float $z1): array
    {
        $out = [];
        for ($i = (int) ceil($x0 / $this->width), $end = (int) floor($x1 / $this->width); $i <= $end; $i++) {
            for ($k = (int) ceil($z0 / $this->width), $last = (int) floor($z1 / $this->width); $k <= $last; $k++) {
                $h = $this->corner($i, $k);
                // A crest or a pass: not lower than both neighbours along either axis.
                if ($h >= max($this->corner($i - 1, $k), $this->corner($i + 1, $k)) || $h >= max($this->corner($i, $k - 1), $this->corner($i, $k + 1))) {
                    $out[] = [$i * $this->width, $k * $this->width];
                }
            }
        }

        return $out;
    }

    public function width(): float
    {
        return $this->width;
    }

    /** The steepest it is anywhere, rise over run. */
    public function steepest(): float
    {
        return M_SQRT2 * self::STEEPEST * $this->height / $this->width;
    }

    private static function fade(float $t): float
    {
        return $t * $t * $t * ($t * ($t * 6.0 - 15.0) + 10.0);
    }

    /** Metres, at a corner of the lattice: by its place and the seed alone (finalizer of MurmurHash3, Appleby 2011, public domain). */
    private function corner(int $i, int $k): float
    {
        $h = ($i * 0x9E3779B1 ^ $k * 0x85EBCA77 ^ $this->seed * 0xC2B2AE3D) & 0xFFFFFFFF;
        $h ^= $h >> 16;
        // Times a number of 32 bits, by halves that stay whole.
        $h = ($h * 0xCA6B + (($h * 0x85EB & 0xFFFF) << 16)) & 0xFFFFFFFF;
        $h ^= $h >> 13;
        $h = ($h * 0xAE35 + (($h * 0xC2B2 & 0xFFFF) << 16)) & 0xFFFFFFFF;
        $h ^= $h >> 16;

        return -$this->height * $h / 4294967295.0;
    }
}
