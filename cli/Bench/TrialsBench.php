<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Problem;

/** Twelve seeds of the jar as a trial, on one worker and on two, against the same twelve baked one after the other as shots of their own. */
final class TrialsBench implements Benchmark
{
    private const SEEDS = 12;

    /** Seconds after which it is given up. */
    private const LONGEST = 900.0;

    /** Seconds between questions: for one bake, and for a trial, which is asked for as the page does. */
    private const ASKS = 0.1;

    private const PAGE_ASKS = 0.7;

    public function rows(array $settings): array
    {
        $pieces = (int) ($settings['pieces'] ?? 400);
        $single = $this->within(1, fn (OwnYard $yard): float => array_sum(array_map(fn (int $seed): float => $this->one($yard, $pieces, $seed), range(1, self::SEEDS))) / self::SEEDS);
        $rows = [];
        foreach ([1, 2] as $workers) {
            $all = $this->within($workers, fn (OwnYard $yard): float => $this->trial($yard, $pieces));
            $rows[] = ['workers' => $workers, 'seeds' => self::SEEDS, 'pieces' => $pieces, 'one_bake_s' => round($single, 2), 'trial_s' => round($all, 1), 'times_one_bake' => round($all / $single, 2)];
        }

        return $rows;
    }

    /** @param  \Closure(OwnYard): float  $measure */
    private function within(int $workers, \Closure $measure): float
    {
        $yard = OwnYard::start($workers);
        try {
            return $measure($yard);
        } finally {
            $yard->stop();
        }
    }

    /** Seconds that one takes, broken and baked, from the question on. */
    private function one(OwnYard $yard, int $pieces, int $seed): float
    {
        $shot = $this->jar($yard, $pieces, $seed);
        $begun = microtime(true);
        $bake = $yard->ask('POST', "shots/$shot/bakes")['bake']['id'];
        $this->until($begun, static fn (): bool => in_array($yard->ask('GET', "bakes/$bake/state")['state'], ['done', 'failed'], true));

        return microtime(true) - $begun;
    }

    private function trial(OwnYard $yard, int $pieces): float
    {
        $shot = $this->jar($yard, $pieces, 999);
        $begun = microtime(true);
        $trial = $yard->ask('POST', "shots/$shot/trials", ['axes' => [['path' => '/props/0/break/values/seed', 'values' => '1-'.self::SEEDS]]])['id'];
        $this->until($begun, static fn (): bool => ($yard->ask('GET', "shots/$shot/trials")[0]['done'] ?? 0) === self::SEEDS, self::PAGE_ASKS);
        assert(is_string($trial));

        return microtime(true) - $begun;
    }

    private function jar(OwnYard $yard, int $pieces, int $seed): string
    {
        $shot = $yard->ask('POST', 'shots', ['demo' => 'terracotta-jar']);
        $yard->ask('POST', "shots/{$shot['id']}/edits", ['revision' => $shot['revision'], 'label' => 'x', 'patch' => [
            ['op' => 'replace', 'path' => '/props/0/break/values/count', 'value' => $pieces], ['op' => 'replace', 'path' => '/props/0/break/values/seed', 'value' => $seed],
        ]]);

        return $shot['id'];
    }

    /** @param  \Closure(): bool  $done */
    private function until(float $begun, \Closure $done, float $every = self::ASKS): void
    {
        while (! $done()) {
            if (microtime(true) - $begun > self::LONGEST) {
                throw new Problem('bench', 'The bakes did not come to their end.');
            }
            usleep((int) (1e6 * $every));
        }
    }
}
