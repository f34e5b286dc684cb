<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** The plane at height 0. */
final readonly class FlatGround implements Ground
{
    public static function label(): string
    {
        return 'Flat';
    }

    public static function meaning(): string
    {
        return 'A plane at height 0';
    }

    public static function options(): array
    {
        return [];
    }

    public static function of(array $values): self
    {
        return new self;
    }

    public function isFlat(): bool
    {
        return true;
    }

    public function depth(): float
    {
        return 0.0;
    }

    public function height(float $x, float $z): float
    {
        return 0.0;
    }

    public function slope(float $x, float $z): array
    {
        return [0.0, 0.0];
    }

    public function crests(float $x0, float $z0, float $x1, float $z1): array
    {
        return [];
    }

    public function width(): float
    {
        return INF;
    }
}
