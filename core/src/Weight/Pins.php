<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Geometry\Rims;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Points as Places;
use YardBreak\Core\Option;

/** Corners and edges that were picked. They are kept as places, so that they fall on whatever mesh the prop has now. */
final readonly class Pins implements Source
{
    use Still;

    /**
     * @param  list<array{float, float, float}>  $corners
     * @param  list<array{float, float, float}>  $edges
     * @param  float  $reach  m
     */
    private function __construct(private array $corners, private array $edges, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'Pins';
    }

    public static function meaning(): string
    {
        return 'Corners and edges that were picked';
    }

    public static function options(): array
    {
        return [
            new Option('corners', 'Corners', 'The point of the prop nearest to each place.', Places::class, null, -10000, 10000, 'm'),
            new Option('edges', 'Edges', 'The edge of the prop nearest to each place, from corner to corner.', Places::class, null, -10000, 10000, 'm'),
            new Option('reach', 'Reach', 'From there to where it weighs nothing; 0 for those points alone.', Number::class, 0.0, 0.0, 1000.0, 'm'),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['corners'] ?? [], $values['edges'] ?? [], $values['reach']);
    }

    public function over(Points $on, Scene $scene, Memory $memory): array
    {
        if ($on->mesh === null) {
            return Carried::over($this->over($scene->points($on->prop), $scene, new Memory), $on, $scene->surface($on->prop));
        }
        $out = array_fill(0, $on->count(), 0.0);
        if ($this->corners === [] && $this->edges === []) {
            return $out;
        }
        $rims = Rims::of($on->mesh);
        $lines = array_map(static fn (array $at): array => [$rims->point(Vec3::of($at))], $this->corners);
        foreach ($this->edges as $at) {
            $lines[] = $rims->line(Vec3::of($at));
        }
        $pinned = array_fill_keys(array_merge(...$lines), true);
        foreach ($out as $v => $_) {
            if (isset($pinned[$rims->pointOf[$v]])) {
                $out[$v] = 1.0;
            } elseif ($this->reach > 0.0) {
                $out[$v] = max(0.0, 1.0 - $this->off($on, $v, $lines) / $this->reach);
            }
        }

        return $out;
    }

    /**
     * @param  list<list<int>>  $lines  points in order
     * @return float metres from a point to the nearest of them
     */
    private function off(Points $on, int $v, array $lines): float
    {
        $at = static fn (int $p): Vec3 => new Vec3($on->x[$p], $on->y[$p], $on->z[$p]);
        $to = $at($v);
        $least = INF;
        foreach ($lines as $line) {
            foreach ($line as $k => $p) {
                $from = $at($p);
                $way = $at($line[$k + 1] ?? $p)->minus($from);
                $share = max(0.0, min(1.0, $to->minus($from)->dot($way) / max(1e-300, $way->dot($way))));
                $least = min($least, $to->minus($from->plus($way->times($share)))->length());
            }
        }

        return $least;
    }
}
