<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

/** Measures one promise. */
interface Benchmark
{
    /**
     * @param  array<string, string>  $settings
     * @return list<array<string, int|float|string|bool>> one row a case
     */
    public function rows(array $settings): array;
}
