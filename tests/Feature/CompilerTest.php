<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Cli\Bench\CompilerBench;

/** What PHP's compiler makes of the main computations, under the settings they run with, is what they come to without it. */
final class CompilerTest extends TestCase
{
    /** @return array<string, array{string}> */
    public static function works(): array
    {
        return array_combine(CompilerBench::works(), array_map(static fn (string $w): array => [$w], CompilerBench::works()));
    }

    #[DataProvider('works')]
    public function test_it_comes_to_the_same_bytes(string $work): void
    {
        $plain = self::digest($work, null, 'off');
        self::assertMatchesRegularExpression('/^[0-9a-f]{64}$/', $plain);
        $root = dirname(__DIR__, 2);
        self::assertSame($plain, self::digest($work, ":$root/php"));
    }

    /** @param  string|null  $folders of settings; null leaves those PHP came with */
    private static function digest(string $work, ?string $folders, ?string $jit = null): string
    {
        $command = sprintf('env %s %s %s %s bench compiler --json --set case=%s', $folders === null ? '-u PHP_INI_SCAN_DIR' : 'PHP_INI_SCAN_DIR='.escapeshellarg($folders), escapeshellarg(PHP_BINARY), $jit === null ? '' : '-d memory_limit=1024M -d opcache.jit='.$jit, escapeshellarg(dirname(__DIR__, 2).'/cli/yard.php'), escapeshellarg($work.':small'));

        return json_decode((string) shell_exec($command), true)['compiler'][0]['digest'] ?? 'it failed';
    }
}
