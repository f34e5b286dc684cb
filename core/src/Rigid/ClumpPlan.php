<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Break\Together;
use YardBreak\Core\SeededRandom;

/**
 * Which pieces of a prop hang together in clumps: each grows from a piece drawn by lot, over what lies face to face, by ways
 * that are stretched at random, so that clumps differ in size and form as what cracks does.
 */
final readonly class ClumpPlan
{
    /** Ways are stretched up to so many times. */
    private const STRETCH = 2.5;

    /**
     * @param  list<list<int>>|null  $beside  pieces face to face with each; null where that is not known
     * @param  list<int>  $clump  of each piece
     */
    private function __construct(private ?array $beside, private array $clump)
    {
    }

    /**
     * @param  int  $pieces  how many there are
     * @param  list<array{int, int, float}>|null  $ways  two that lie face to face, and metres from middle to middle; null where that is not known, so that all hang together
     * @param  int  $size  pieces of a clump, about
     */
    public static function of(int $pieces, ?array $ways, int $size, int $seed): self
    {
        if ($ways === null) {
            return new self(null, array_fill(0, $pieces, 0));
        }
        $random = new SeededRandom($seed);
        $next = array_fill(0, $pieces, []);
        foreach ($ways as [$a, $b, $length]) {
            $next[$a][$b] = $next[$b][$a] = $length * $random->between(1.0, self::STRETCH);
        }

        return new self(array_map(array_keys(...), $next), $size > 1 ? self::grown($next, self::drawn($pieces, $size, $random)) : array_keys($next));
    }

    /** @return list<int> pieces face to face with one */
    public function beside(int $piece): array
    {
        return $this->beside[$piece] ?? [];
    }

    /**
     * Those of some pieces that hang together, in the order of their first.
     *
     * @param  list<int>  $pieces
     * @param  bool  $inClumps  whether only within their clump
     * @return list<non-empty-list<int>> each in order
     */
    public function parts(array $pieces, bool $inClumps): array
    {
        if ($this->beside === null) {
            sort($pieces);

            return $pieces === [] ? [] : [$pieces];
        }

        return Together::parts($pieces, fn (int $piece): array => $inClumps
            ? array_values(array_filter($this->beside[$piece] ?? [], fn (int $other): bool => $this->clump[$other] === $this->clump[$piece]))
            : $this->beside[$piece] ?? []);
    }

    /** @return list<int> pieces that clumps grow from */
    private static function drawn(int $pieces, int $size, SeededRandom $random): array
    {
        $lots = [];
        for ($k = 0; $k < $pieces; $k++) {
            $lots[] = $random->share();
        }
        asort($lots);

        return array_slice(array_keys($lots), 0, max(1, (int) round($pieces / $size)));
    }

    /**
     * Every piece goes to the root it has the shortest way to (Dijkstra 1959, from several roots at once).
     *
     * @param  list<array<int, float>>  $next  lengths of ways, by piece and piece
     * @param  list<int>  $roots
     * @return list<int>
     */
    private static function grown(array $next, array $roots): array
    {
        $far = $clump = [];
        // What no root reaches is a clump by itself.
        for ($roots = array_values($roots), $k = 0, $n = count($next); ;) {
            $queue = new \SplPriorityQueue;
            foreach ($roots as $root) {
                $far[$root] = 0.0;
                $clump[$root] = $root;
                $queue->insert($root, 0.0);
            }
            while (! $queue->isEmpty()) {
                $queue->setExtractFlags(\SplPriorityQueue::EXTR_BOTH);
                ['data' => $piece, 'priority' => $minus] = $queue->extract();
                if (-$minus > $far[$piece]) {
                    continue;
                }
                foreach ($next[$piece] as $other => $length) {
                    $there = $far[$piece] + $length;
                    if ($there < ($far[$other] ?? INF)) {
                        $far[$other] = $there;
                        $clump[$other] = $clump[$piece];
                        $queue->insert($other, -$there);
                    }
                }
            }
            while ($k < $n && isset($clump[$k])) {
                $k++;
            }
            if ($k === $n) {
                break;
            }
            $roots = [$k];
        }
        ksort($clump);

        return array_values($clump);
    }
}
