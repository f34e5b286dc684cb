<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** Libraries nobody here wrote, as bin/test installs them, run by Node.js on a file of input. */
final class OutsideLibrary
{
    /**
     * @param  string  $script  in tests/outside
     * @param  array<string, mixed>  $input
     * @return array<string, mixed> what it prints
     */
    public static function run(string $script, array $input): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'bench');
        file_put_contents($file, json_encode($input));
        $out = json_decode((string) shell_exec('node '.escapeshellarg(dirname(__DIR__, 2).'/tests/outside/'.$script).' '.escapeshellarg($file)), true);
        unlink($file);

        return is_array($out) ? $out : throw new Problem('bench', 'The reference library did not run.', '', 'Run bin/test once; it installs it.');
    }
}
