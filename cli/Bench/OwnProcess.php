<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** Runs one case of a benchmark in a fresh process. */
final class OwnProcess
{
    /**
     * @param  string|null  $compiled  a setting of PHP's compiler; null for that of everything here
     * @return array<string, int|float|string|bool>
     */
    public static function row(string $bench, string $case, ?string $compiled = null): array
    {
        $folder = dirname(__DIR__, 2).'/php';
        $command = sprintf('PHP_INI_SCAN_DIR=%s %s %s %s bench %s --json --set case=%s', escapeshellarg(":$folder"), escapeshellarg(PHP_BINARY), $compiled === null ? '' : '-d opcache.jit='.$compiled, escapeshellarg(dirname(__DIR__).'/yard.php'), $bench, escapeshellarg($case));
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
