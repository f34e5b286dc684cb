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
    /** Seconds between two questions of a viewer: how far it is, and for frames. */
    private const EVERY = ['state' => 0.2, 'frames' => 0.25];

    private const BLOCK = 24;

    public function rows(array $settings): array
    {
        $viewers = (int) ($settings['viewers'] ?? 50);
        $yard = OwnYard::start(2);
        try {
            // Each a shot of its own: one that is baked would not be baked again.
            $bake = fn (): string => $this->bake($yard, $this->shot($yard, (int) ($settings['pieces'] ?? 246), (int) ($settings['frames'] ?? 301)));
            $alone = $this->watch($bake(), 0);
            $watched = $this->watch($bake(), $viewers);
        } finally {
            $yard->stop();
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

    private function shot(OwnYard $yard, int $pieces, int $frames): string
    {
        $shot = $yard->ask('POST', 'shots')['id'];
        $yard->ask('POST', "shots/$shot/edits", ['revision' => 0, 'label' => 'x', 'patch' => [
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

    private function bake(OwnYard $yard, string $shot): string
    {
        return $yard->ask('POST', "shots/$shot/bakes")['bake']['id'];
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
                    $curl = curl_init(OwnYard::API."bakes/$bake/".($what === 'state' ? 'state' : "frames?from=$from&count=".min(self::BLOCK, $done - $from))) ?: throw new Problem('bench', 'No request could be made.');
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
