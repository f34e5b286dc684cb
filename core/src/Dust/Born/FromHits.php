<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;

/** What is hit gives off dust, as much as the hit is hard. */
final readonly class FromHits implements Source
{
    private function __construct(private float $dense)
    {
    }

    public static function label(): string
    {
        return 'From hits';
    }

    public static function meaning(): string
    {
        return 'Where others hit it, or it the ground';
    }

    public static function options(): array
    {
        return [new Option('dense', 'Grains', 'For each N·s of a hit.', Number::class, 300.0, 0.0, 1e7, '1/N·s')];
    }

    public static function of(array $values): self
    {
        return new self($values['dense']);
    }

    public function hearsHits(): bool
    {
        return true;
    }

    public function countsCuts(): bool
    {
        return false;
    }

    public function bear(Birthplace $at): void
    {
        foreach ($at->hits() as $hit) {
            for ($n = $at->whole($this->dense * $hit->impulse); $n > 0; $n--) {
                $at->addIn($hit->piece, $hit->at, new Vec3(0.0, 1.0, 0.0));
            }
        }
    }
}
