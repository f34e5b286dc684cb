<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Problem;
use YardBreak\Core\Timing\Ease;

/** How a prop goes over into others of the same mesh, point by point, as a weight map rises: through all of them, one after the other. */
final readonly class Blend
{
    /**
     * @param  string  $map  id
     * @param  non-empty-list<string>  $to  ids of the props it goes over into
     */
    private function __construct(public string $map, public array $to, private Ease $ease, private mixed $easeSaid)
    {
    }

    /**
     * @param  array<string, mixed>|null  $d  already of the schema's form
     *
     * @throws Problem
     */
    public static function of(?array $d): ?self
    {
        return $d === null ? null : new self($d['map'], $d['to'], Ease::of($d['ease'] ?? 'linear'), $d['ease'] ?? 'linear');
    }

    /**
     * Between which two of its states a point is, 0 for the prop itself, and how much of the way it has gone.
     *
     * @return array{int, float}
     */
    public function between(float $weight): array
    {
        // Exactly none and exactly all, whatever the curve.
        $all = count($this->to) * ($weight <= 0.0 ? 0.0 : ($weight >= 1.0 ? 1.0 : max(0.0, min(1.0, $this->ease->at($weight)))));
        $from = min(count($this->to) - 1, (int) $all);

        return [$from, $all - $from];
    }

    /** @return list<mixed> all it depends on but the weights and the props */
    public function key(): array
    {
        return [$this->map, $this->to, $this->easeSaid];
    }
}
