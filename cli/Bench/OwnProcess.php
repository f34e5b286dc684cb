<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** Runs one case of a benchmark in a fresh process. */
final class OwnProcess
{
    /** @return array<string, int|float|string|bool> */
    public static function row(string $bench, string $case, string $jit): array
    {
        $command = sprintf('%s -d opcache.jit=%s %s bench %s --json --set case=%s', escapeshellarg(PHP_BINARY), $jit, escapeshellarg(dirname(__DIR__).'/yard.php'), $bench, escapeshellarg($case));
        $out = json_decode((string) shell_exec($command), true);

        return $out[$bench][0] ?? throw new Problem('bench', 'The case '.$case.' failed.');
    }
}
