<?php

declare(strict_types=1);

namespace Tests\Feature;

/** Workers as bin/start runs them, in processes of their own. */
trait RealWorkers
{
    /** @var list<resource> */
    private array $workers = [];

    /** @return resource */
    private function worker(string $memory = '1024M')
    {
        $root = dirname(__DIR__, 2);
        $log = ['file', $this->folder.'/log', 'a'];
        $worker = proc_open(['php', '-d', 'memory_limit='.$memory, $root.'/artisan', 'queue:work', 'workers', '--quiet', '--sleep=0.1'], [['file', '/dev/null', 'r'], $log, $log], $pipes, $root,
            ['DB_DATABASE' => config('database.connections.sqlite.database'), 'YARD_FILES' => config('filesystems.disks.local.root'), 'YARD_CACHE' => $this->folder.'/cache', 'QUEUE_CONNECTION' => 'database', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH')]);
        assert($worker !== false);

        return $this->workers[] = $worker;
    }

    /** @param  resource  $worker */
    private function kill($worker): void
    {
        if (is_resource($worker)) {
            proc_terminate($worker, SIGKILL);
            proc_close($worker);
        }
    }

    private function killAll(): void
    {
        array_map($this->kill(...), $this->workers);
    }

    /** @param  \Closure(): bool  $done */
    private function until(\Closure $done, float $seconds): void
    {
        for ($end = microtime(true) + $seconds; ! $done(); usleep(50_000)) {
            if (microtime(true) > $end) {
                self::fail('Waited '.$seconds.' s in vain. The workers said: '.mb_substr((string) @file_get_contents($this->folder.'/log'), -2000));
            }
        }
    }
}
