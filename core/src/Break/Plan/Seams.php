<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Vec3;

/**
 * Which drawn line parts which pieces, and names that follow from it. Lines are taken one after the other: of the
 * parts a line makes of a piece the largest keeps its name, and the others are called after the line. So a new line
 * renames nothing but what it cuts off, and moving one renames nothing unless the other part becomes the larger.
 */
final class Seams
{
    /** Volumes closer than this, as a share, are equal. */
    private const EQUAL = 1e-6;

    /** @var array<int, list<array{int, int}>> by line: groups that meet across it within the solid */
    private array $across = [];

    /** @param  list<string>  $lines  their names, in the order they were drawn */
    public function __construct(private readonly array $lines)
    {
    }

    public function add(int $one, int $other, int $line): void
    {
        $this->across[$line][] = [$one, $other];
    }

    /**
     * @param  list<Shard>  $shards  named by the number of their group, from one
     * @return list<Shard> the same, called after the lines that made them
     */
    public function named(array $shards, Basis $basis): array
    {
        $volume = $moment = [];
        foreach ($shards as $shard) {
            $g = self::group($shard);
            $volume[$g] = ($volume[$g] ?? 0.0) + $shard->mass->volume;
            $moment[$g] = ($moment[$g] ?? Vec3::zero())->plus($shard->mass->centroid->times($shard->mass->volume));
        }
        [$children, $made] = $this->joined($volume, $moment);
        $place = static function (int $n) use ($volume, $moment, $basis): array {
            $at = $moment[$n]->times(1.0 / $volume[$n]);

            return [round($basis->u->dot($at), 6), round($basis->v->dot($at), 6)];
        };
        // From the whole to its parts: the lines in the order they were drawn.
        $name = [];
        $roots = array_values(array_diff(array_keys($volume), array_merge([], ...array_values($children))));
        usort($roots, static fn (int $a, int $b): int => $place($a) <=> $place($b));
        foreach ($roots as $k => $root) {
            $name[$root] = sprintf('shard-%04d', $k + 1);
        }
        ksort($made);
        foreach ($made as $line => $nodes) {
            $new = [];
            foreach ($nodes as $n) {
                $parts = $children[$n];
                usort(
                    $parts,
                    static fn (int $a, int $b): int => abs($volume[$a] - $volume[$b]) > self::EQUAL * $volume[$n] ? $volume[$b] <=> $volume[$a] : $place($a) <=> $place($b),
                );
                $name[$parts[0]] = $name[$n];
                array_push($new, ...array_slice($parts, 1));
            }
            usort($new, static fn (int $a, int $b): int => $place($a) <=> $place($b));
            foreach ($new as $k => $n) {
                $name[$n] = 'cut-'.$this->lines[$line].($k === 0 ? '' : '-'.($k + 1));
            }
        }

        return array_map(
            static fn (Shard $s): Shard => new Shard(
                $name[self::group($s)].(preg_match('/^shard-\d+(-\d+)$/', $s->name, $island) === 1 ? $island[1] : ''),
                $s->mesh,
                $s->mass,
            ),
            $shards,
        );
    }

    /**
     * Puts the groups back together, the last line first. Every joined piece is a node of its own.
     *
     * @param  array<int, float>  $volume  by group; those of the new nodes are added
     * @param  array<int, Vec3>  $moment
     * @return array{array<int, list<int>>, array<int, list<int>>} parts by node, and nodes by the line that parts them
     */
    private function joined(array &$volume, array &$moment): array
    {
        $children = $made = $above = [];
        $next = $volume === [] ? 0 : max(array_keys($volume)) + 1;
        krsort($this->across);
        foreach ($this->across as $line => $pairs) {
            // The nodes that meet across this line, in sets that hang together.
            $same = [];
            foreach ($pairs as [$one, $other]) {
                if (isset($volume[$one], $volume[$other])) {
                    $a = self::top($above, $one);
                    $b = self::top($above, $other);
                    $same += [$a => $a, $b => $b];
                    $same[self::root($same, $a)] = self::root($same, $b);
                }
            }
            $sets = [];
            foreach ($same as $n => $_) {
                $sets[self::root($same, $n)][] = $n;
            }
            foreach ($sets as $parts) {
                if (count($parts) < 2) {
                    continue;
                }
                $volume[$next] = (float) array_sum(array_map(static fn (int $n): float => $volume[$n], $parts));
                $moment[$next] = array_reduce($parts, static fn (Vec3 $sum, int $n): Vec3 => $sum->plus($moment[$n]), Vec3::zero());
                foreach ($parts as $n) {
                    $above[$n] = $next;
                }
                $children[$next] = $parts;
                $made[$line][] = $next++;
            }
        }

        return [$children, $made];
    }

    /** @param  array<int, int>  $above */
    private static function top(array $above, int $n): int
    {
        while (isset($above[$n])) {
            $n = $above[$n];
        }

        return $n;
    }

    /** @param  array<int, int>  $same */
    private static function root(array $same, int $n): int
    {
        while ($same[$n] !== $n) {
            $n = $same[$n];
        }

        return $n;
    }

    private static function group(Shard $shard): int
    {
        return (int) substr($shard->name, 6) - 1;
    }
}
