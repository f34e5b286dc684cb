<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** A yard of its own with server and workers, as bin/start has them, for as long as something is measured. */
final class OwnYard
{
    private const PORT = 8196;

    public const API = 'http://127.0.0.1:'.self::PORT.'/api/';

    /** @param  list<resource>  $processes */
    private function __construct(private readonly string $folder, private array $processes)
    {
    }

    public static function start(int $workers): self
    {
        $folder = sys_get_temp_dir().'/yard-bench-'.bin2hex(random_bytes(4));
        mkdir($folder);
        $root = dirname(__DIR__, 2);
        touch($folder.'/yard.sqlite');
        $env = ['DB_DATABASE' => $folder.'/yard.sqlite', 'YARD_FILES' => $folder.'/files', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH')];
        $run = static fn (array $command, array $more = [], string $in = '') => proc_open($command, [['file', '/dev/null', 'r'], ['file', $folder.'/log', 'a'], ['file', $folder.'/log', 'a']], $pipes, $in ?: $root, $more + $env) ?: throw new Problem('bench', 'Could not start '.$command[0].'.');
        proc_close($run(['php', $root.'/artisan', 'migrate', '--force', '--quiet']));
        proc_close($run(['php', $root.'/artisan', 'yard:door']));
        $processes = [$run(['php', '-S', '127.0.0.1:'.self::PORT, 'index.php'], ['PHP_CLI_SERVER_WORKERS' => '6'], $root.'/public')];
        for ($i = 0; $i < $workers; $i++) {
            $processes[] = $run(['php', $root.'/artisan', 'queue:work', 'workers', '--quiet', '--sleep=0.1', '--memory=700']);
        }
        for ($i = 0; $i < 100 && @fsockopen('127.0.0.1', self::PORT) === false; $i++) {
            usleep(100_000);
        }

        return new self($folder, $processes);
    }

    public function stop(): void
    {
        foreach ($this->processes as $process) {
            $pid = proc_get_status($process)['pid'];
            exec('pkill -TERM -P '.$pid);
            proc_terminate($process);
            proc_close($process);
        }
        $this->processes = [];
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /**
     * @param  array<mixed>  $body
     * @return array<string, mixed>
     */
    public function ask(string $method, string $path, array $body = []): array
    {
        $context = stream_context_create(['http' => ['method' => $method, 'header' => "X-Yard: 1\r\nContent-Type: application/json\r\nAccept: application/json", 'content' => $method === 'GET' ? '' : ($body === [] ? '{}' : (string) json_encode($body))]]);

        return json_decode((string) file_get_contents(self::API.$path, false, $context), true);
    }
}
