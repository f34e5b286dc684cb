<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/**
 * Many at once look at a bake that is running: each asks how far it is and scrubs through what is there. Beside it the
 * same bake with nobody looking.
 */
final class ViewersBench implements Benchmark
{
    private const PORT = 8196;

    /** Seconds between two questions of a viewer: how far it is, and for frames. */
    private const EVERY = ['state' => 0.2, 'frames' => 0.25];

    private const BLOCK = 24;

    private string $folder = '';

    public function rows(array $settings): array
    {
        $viewers = (int) ($settings['viewers'] ?? 50);
        $this->folder = sys_get_temp_dir().'/yard-viewers-'.bin2hex(random_bytes(4));
        mkdir($this->folder);
        $processes = [];
        try {
            $processes = $this->start();
            // Each a shot of its own: one that is baked would not be baked again.
            $bake = fn (): string => $this->bake($this->shot((int) ($settings['pieces'] ?? 246), (int) ($settings['frames'] ?? 301)));
            $alone = $this->watch($bake(), 0);
            $watched = $this->watch($bake(), $viewers);
        } finally {
            foreach ($processes as $process) {
                $pid = proc_get_status($process)['pid'];
                exec('pkill -TERM -P '.$pid);
                proc_terminate($process);
                proc_close($process);
            }
            exec('rm -rf '.escapeshellarg($this->folder));
        }
        sort($watched['waits']);
        $n = count($watched['waits']);

        return [[
            'viewers' => $viewers, 'requests' => $n, 'a_second' => round($n / $watched['seconds']), 'median_ms' => round(1000 * $watched['waits'][intdiv($n, 2)], 1), 'p95_ms' => round(1000 * $watched['waits'][(int) (0.95 * $n)], 1),
            // Those who look are on machines of their own; here their share of the cores is told and taken off.
            'clients_cpu_s' => round($watched['own'], 1), 'speed_kept_without_clients' => round(min(1.0, $alone['seconds'] / ($watched['seconds'] - $watched['own'] / self::cores())), 2),
            'slowest_ms' => round(1000 * $watched['waits'][$n - 1], 1), 'errors' => $watched['errors'], 'bake_s' => round($watched['seconds'], 1), 'bake_alone_s' => round($alone['seconds'], 1), 'speed_kept' => round($alone['seconds'] / $watched['seconds'], 2),
        ]];
    }

    /** @return list<resource> server and workers, as bin/start has them */
    private function start(): array
    {
        $root = dirname(__DIR__, 2);
        touch($this->folder.'/yard.sqlite');
        $env = ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH')];
        $run = fn (array $command, array $more = [], string $in = '') => proc_open($command, [['file', '/dev/null', 'r'], ['file', $this->folder.'/log', 'a'], ['file', $this->folder.'/log', 'a']], $pipes, $in ?: $root, $more + $env) ?: throw new Problem('bench', 'Could not start '.$command[0].'.');
        proc_close($run(['php', $root.'/artisan', 'migrate', '--force', '--quiet']));
        proc_close($run(['php', $root.'/artisan', 'yard:door']));
        $processes = [$run(['php', '-S', '127.0.0.1:'.self::PORT, 'index.php'], ['PHP_CLI_SERVER_WORKERS' => '6', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php:'.$root.'/php/short'], $root.'/public')];
        for ($i = 0; $i < 2; $i++) {
            $processes[] = $run(['php', $root.'/artisan', 'queue:work', 'workers', '--quiet', '--sleep=0.1', '--memory=700']);
        }
        for ($i = 0; $i < 100 && @fsockopen('127.0.0.1', self::PORT) === false; $i++) {
            usleep(100_000);
        }

        return $processes;
    }

    private function shot(int $pieces, int $frames): string
    {
        $shot = $this->ask('POST', 'shots', [])['id'];
        $this->ask('POST', "shots/$shot/edits", ['revision' => 0, 'label' => 'x', 'patch' => [
            ['op' => 'replace', 'path' => '/frames/last', 'value' => $frames - 1],
            ['op' => 'add', 'path' => '/props/-', 'value' => [
                'id' => 'block', 'name' => 'Block', 'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1, 'height' => 1, 'depth' => 1]],
                'place' => ['position' => [0, 1, 0], 'turn' => [0, 0, 0], 'size' => 1],
                'material' => ['name' => 'stone', 'colour' => '#9a988f', 'inner' => '#b3b0a6', 'density' => 2600, 'friction' => 0.6, 'bounce' => 0.1],
                'break' => ['pattern' => 'cells', 'values' => ['count' => $pieces, 'seed' => 3]], 'motion' => ['kind' => 'free', 'values' => ['held' => 'whole'], 'release' => ['on' => 'touch', 'reach' => null]],
            ]],
        ]]);

        return $shot;
    }

    private function bake(string $shot): string
    {
        return $this->ask('POST', "shots/$shot/bakes", [])['bake']['id'];
    }

    /**
     * @param  array<mixed>  $body
     * @return array<string, mixed>
     */
    private function ask(string $method, string $path, array $body): array
    {
        $context = stream_context_create(['http' => ['method' => $method, 'header' => "X-Yard: 1\r\nContent-Type: application/json\r\nAccept: application/json", 'content' => $body === [] ? '{}' : (string) json_encode($body)]]);

        return json_decode((string) file_get_contents('http://127.0.0.1:'.self::PORT.'/api/'.$path, false, $context), true);
    }

    /**
     * Follows a bake to its end with so many looking.
     *
     * @return array{seconds: float, waits: list<float>, errors: int, own: float} of it seconds of computing that looking itself took
     */
    private function watch(string $bake, int $viewers): array
    {
        mt_srand(7);
        $spent = OwnProcess::spent();
        $begun = microtime(true);
        $first = null;
        $waits = [];
        $errors = $done = 0;
        $state = '';
        $multi = curl_multi_init();
        $open = $due = [];
        for ($v = 0; $v < max(1, $viewers); $v++) {
            $due[$v] = ['state' => $begun + mt_rand(0, 200) / 1000, 'frames' => $begun + mt_rand(0, 250) / 1000];
        }
        while ($state !== 'done') {
            $now = microtime(true);
            if ($now - $begun > 600 || $state === 'failed') {
                throw new Problem('bench', 'The bake did not come to its end.');
            }
            foreach ($due as $v => $times) {
                foreach ($times as $what => $at) {
                    if ($at > $now || isset($open["$v $what"]) || ($what === 'frames' && ($viewers === 0 || $done === 0))) {
                        continue;
                    }
                    $from = self::BLOCK * mt_rand(0, intdiv(max(0, $done - 1), self::BLOCK));
                    $curl = curl_init('http://127.0.0.1:'.self::PORT."/api/bakes/$bake/".($what === 'state' ? 'state' : "frames?from=$from&count=".min(self::BLOCK, $done - $from))) ?: throw new Problem('bench', 'No request could be made.');
                    curl_setopt_array($curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_PRIVATE => "$v $what"]);
                    curl_multi_add_handle($multi, $curl);
                    $open["$v $what"] = $now;
                    $due[$v][$what] = $now + self::EVERY[$what];
                }
            }
            curl_multi_exec($multi, $running);
            curl_multi_select($multi, 0.01);
            while (($end = curl_multi_info_read($multi)) !== false) {
                $curl = $end['handle'];
                $key = (string) curl_getinfo($curl, CURLINFO_PRIVATE);
                $waits[] = (float) curl_getinfo($curl, CURLINFO_TOTAL_TIME);
                $errors += curl_getinfo($curl, CURLINFO_HTTP_CODE) === 200 ? 0 : 1;
                if (str_ends_with($key, 'state') && is_array($said = json_decode((string) curl_multi_getcontent($curl), true))) {
                    $state = $said['state'];
                    $done = max($done, $said['framesDone']);
                    $first ??= $done > 0 ? microtime(true) : null;
                }
                curl_multi_remove_handle($multi, $curl);
                unset($open[$key]);
            }
        }

        return ['seconds' => microtime(true) - ($first ?? $begun), 'waits' => $waits, 'errors' => $errors, 'own' => OwnProcess::spent() - $spent];
    }

    private static function cores(): int
    {
        return max(1, (int) shell_exec('nproc'));
    }
}
