<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Quantity;

/** Prefixes after the International System of Units (BIPM 2019). */
final class QuantityTest extends TestCase
{
    #[TestWith([1500.0, 'm', '1.5 km'])]
    #[TestWith([0.0032, 'm', '3.2 mm'])]
    #[TestWith([-0.5, 'm', '-50 cm'])]
    #[TestWith([0.99996, 'm', '1 m'])]
    #[TestWith([2e-9, 'm', '0.002 µm'])]
    #[TestWith([0.0, 'm', '0 m'])]
    #[TestWith([0.041, 'kg', '41 g'])]
    #[TestWith([12.34, '°', '12.3 °'])]
    #[TestWith([1234.0, 'N/m', '1230 N/m'])]
    #[TestWith([1e6, 'Pa', '1000000 Pa'])]
    public function test_a_quantity_is_said_with_the_multiple_that_fits(float $value, string $unit, string $words): void
    {
        self::assertSame($words, Quantity::show($value, $unit));
    }
}
