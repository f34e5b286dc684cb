<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** Runs one case of a benchmark in a fresh process. */
final class OwnProcess
{
    /** Compiled as workers and long commands are, or as requests and short commands are. */
    public const LONG = 'long';

    public const SHORT = 'short';

    /**
     * @param  string  $compiled  LONG, SHORT, or a setting of PHP's compiler
     * @return array<string, int|float|string|bool>
     */
    public static function row(string $bench, string $case, string $compiled): array
    {
        $folder = dirname(__DIR__, 2).'/php';
        $command = sprintf('PHP_INI_SCAN_DIR=%s %s %s %s bench %s --json --set case=%s', escapeshellarg(":$folder".($compiled === self::SHORT ? ":$folder/short" : '')), escapeshellarg(PHP_BINARY), in_array($compiled, [self::LONG, self::SHORT], true) ? '' : '-d opcache.jit='.$compiled, escapeshellarg(dirname(__DIR__).'/yard.php'), $bench, escapeshellarg($case));
        $out = json_decode((string) shell_exec($command), true);

        return $out[$bench][0] ?? throw new Problem('bench', 'The case '.$case.' failed.');
    }

    /** Seconds of computing this process has taken. */
    public static function spent(): float
    {
        $used = getrusage() ?: [];

        return ($used['ru_utime.tv_sec'] ?? 0) + ($used['ru_stime.tv_sec'] ?? 0) + (($used['ru_utime.tv_usec'] ?? 0) + ($used['ru_stime.tv_usec'] ?? 0)) / 1e6;
    }
}
