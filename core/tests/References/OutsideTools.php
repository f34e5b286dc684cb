<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\Assert;

/** Programs nobody here wrote, as bin/test installs them. */
final class OutsideTools
{
    /** Debian's Python, which sees Debian's SciPy. */
    private const PYTHON = '/usr/bin/python3';

    /** @return array<mixed> what the script prints, read as JSON */
    public static function python(string $script, mixed $input): array
    {
        [$code, $out, $err] = self::run([self::PYTHON, '-c', preg_replace('/^ {12}/m', '', $script)], (string) json_encode($input));
        Assert::assertSame(0, $code, $err);

        return (array) json_decode($out, true);
    }

    /**
     * @param  string  $script  an ES module in tests/outside
     * @return array<mixed> what it prints, read as JSON
     */
    public static function node(string $script, string ...$arguments): array
    {
        [$code, $out, $err] = self::run(['node', dirname(__DIR__, 3).'/tests/outside/'.$script, ...$arguments], '');
        Assert::assertSame(0, $code, $err);

        return (array) json_decode($out, true);
    }

    /**
     * @param  list<string|null>  $command
     * @return array{int, string, string} exit code, output, errors
     */
    public static function run(array $command, string $input = ''): array
    {
        $process = proc_open(
            array_map(strval(...), $command),
            [['pipe', 'r'], ['pipe', 'w'], ['file', $errors = (string) tempnam(sys_get_temp_dir(), 'err'), 'w']],
            $pipes,
        );
        Assert::assertIsResource($process);
        fwrite($pipes[0], $input);
        fclose($pipes[0]);
        $out = (string) stream_get_contents($pipes[1]);

        return [proc_close($process), $out, (string) file_get_contents($errors)];
    }

    public static function folder(): string
    {
        $path = sys_get_temp_dir().'/yard-'.bin2hex(random_bytes(6));
        mkdir($path);

        return $path;
    }
}
