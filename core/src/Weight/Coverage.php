<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** How much of a prop a map has reached. */
final readonly class Coverage
{
    /** What is closer than this to 0 or 1 counts as there. */
    private const SLACK = 1e-3;

    /**
     * @param  float  $none  share of the points that are still at 0
     * @param  float  $full  share of those that are at 1
     */
    public function __construct(public float $none, public float $full, public float $least, public float $mean, public float $most)
    {
    }

    /** @param  list<float>  $weights */
    public static function of(array $weights): self
    {
        $n = count($weights);
        $none = $full = 0;
        foreach ($weights as $w) {
            if ($w <= self::SLACK) {
                $none++;
            } elseif ($w >= 1.0 - self::SLACK) {
                $full++;
            }
        }

        return $n === 0 ? new self(1.0, 0.0, 0.0, 0.0, 0.0) : new self($none / $n, $full / $n, min($weights), array_sum($weights) / $n, max($weights));
    }
}
