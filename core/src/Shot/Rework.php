<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\JoinedShards;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Plan\Score;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/**
 * What is done to pieces after the first break, in order: broken again by a pattern, joined, or taken out. Pieces are
 * meant by name; those not named keep name and form, whatever changes beside them.
 */
final class Rework
{
    public const JOIN = 'join';

    public const REMOVE = 'remove';

    public const MOST_PIECES = 60000;

    /**
     * @param  list<array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}>  $steps
     *
     * @throws Problem with the path of the first value that is wrong
     */
    public static function check(array $steps): void
    {
        foreach ($steps as $i => $step) {
            try {
                if (! in_array($step['pattern'], [self::JOIN, self::REMOVE], true)) {
                    BreakCatalogue::make($step['pattern'], $step['values']);
                }
            } catch (Problem $e) {
                throw $e->at('rework['.$i.']'.($e->path === 'pattern' ? '' : '.values'));
            }
        }
    }

    /**
     * @param  list<Shard>  $shards
     * @param  list<array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}>  $steps
     * @return list<Shard>
     *
     * @throws Problem where a step cannot be done
     */
    public static function apply(array $shards, array $steps, Progress $progress): array
    {
        foreach ($steps as $i => $step) {
            $names = $step['pieces'] === null ? null : array_fill_keys($step['pieces'], true);
            $meant = static fn (Shard $s): bool => $names === null || isset($names[$s->name]);
            try {
                $shards = match ($step['pattern']) {
                    self::JOIN => self::joined($shards, $meant),
                    self::REMOVE => array_values(array_filter($shards, static fn (Shard $s): bool => ! $meant($s))),
                    default => self::broken($shards, $meant, $step, $progress),
                };
            } catch (Problem $e) {
                throw $e->kind === 'cancelled' ? $e : $e->at('rework['.$i.'].values');
            }
            if ($shards === []) {
                throw Problem::inValue('rework['.$i.']', 'This would leave no piece.', 'Keep at least one.');
            }
        }

        return $shards;
    }

    /**
     * @param  list<Shard>  $shards
     * @param  callable(Shard): bool  $meant
     * @return list<Shard>
     */
    private static function joined(array $shards, callable $meant): array
    {
        $out = $together = [];
        $place = null;
        foreach ($shards as $shard) {
            if ($meant($shard)) {
                $place ??= count($out);
                $together[] = $shard;
                if (count($together) > 1) {
                    continue;
                }
            }
            $out[] = $shard;
        }
        if ($place !== null && count($together) > 1) {
            $out[$place] = JoinedShards::of($together);
        }

        return $out;
    }

    /**
     * @param  list<Shard>  $shards
     * @param  callable(Shard): bool  $meant
     * @param  array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}  $step
     * @return list<Shard>
     */
    private static function broken(array $shards, callable $meant, array $step, Progress $progress): array
    {
        $out = [];
        $missed = null;
        $met = false;
        foreach ($shards as $shard) {
            if (! $meant($shard)) {
                $out[] = $shard;

                continue;
            }
            try {
                $pieces = self::patternFor($shard->name, $step)->break($shard->mesh, $progress);
                $met = true;
            } catch (Problem $e) {
                if ($e->kind !== Problem::OFF) {
                    throw $e;
                }
                // A cut that goes through some of the pieces leaves the others as they are.
                $missed = $e;
                $out[] = $shard;

                continue;
            }
            foreach ($pieces as $piece) {
                $out[] = new Shard($shard->name.'.'.preg_replace('/^(shard|flake|part)-0*/', '', $piece->name), $piece->mesh, $piece->mass);
            }
            if (count($out) > self::MOST_PIECES) {
                throw Problem::outOfRange('count', 'The number of pieces', count($out), 'at most '.self::MOST_PIECES);
            }
        }
        if ($missed !== null && ! $met) {
            throw $missed;
        }

        return $out;
    }

    /**
     * Every piece breaks its own way: the seed goes with its name.
     *
     * @param  array{pattern: string, values: array<string, mixed>, pieces: list<string>|null}  $step
     */
    private static function patternFor(string $name, array $step): Pattern
    {
        $values = $step['values'];
        foreach (BreakCatalogue::PATTERNS[$step['pattern']]::options() as $option) {
            if ($option->name === 'seed') {
                $values['seed'] = ((int) ($values['seed'] ?? $option->default) + crc32($name)) % 1000000;
            }
        }

        $pattern = BreakCatalogue::make($step['pattern'], $values);

        return $pattern instanceof Score ? $pattern->forPiece() : $pattern;
    }
}
