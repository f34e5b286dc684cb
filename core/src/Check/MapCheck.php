<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Problem;
use YardBreak\Core\Quantity;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Weight\Brush;
use YardBreak\Core\Weight\Coverage;
use YardBreak\Core\Weight\Measured;
use YardBreak\Core\Weight\Points;

/** What is doubtful about a weight map, with the frame and the place where it shows. */
final class MapCheck
{
    /** A band narrower than so many edges of the mesh shows their corners. */
    private const EDGES = 2.0;

    /** Frames looked at for whether a source reaches the prop. */
    private const LOOKS = 40;

    /**
     * @param  list<Coverage|null>  $coverage  frame by frame
     * @return list<array{message: string, remedy: string, path: string, frame: int|null, at: array{float, float, float}|null, mend: array{path: string, value: mixed}|null}> `path` and `mend` within the map; `at` in the prop's own coordinates; `mend` is what one press does about it
     *
     * @throws Problem
     */
    public static function of(MapRun $run, string $map, array $coverage): array
    {
        $out = [];
        $first = $run->shot->first;
        $last = $run->shot->last;
        $spec = $run->map($map);
        if ($spec->layers === []) {
            return [self::finding('The map has no source yet, so it is 0 everywhere.', 'Add a source.')];
        }
        $begins = $coverage[0] ?? null;
        $ends = $coverage[count($coverage) - 1] ?? null;
        if ($begins === null || $ends === null) {
            return $out;
        }
        $most = max(array_map(static fn (?Coverage $c): float => $c->most ?? 0.0, $coverage));
        if ($most <= 1e-3) {
            $out[] = self::finding('The map does nothing: it is 0 everywhere, at every frame.', 'Let its sources reach the prop, or invert one.');
        } elseif (self::changes($coverage)) {
            if ($begins->none < 1.0) {
                $out[] = self::finding(
                    sprintf('Frame %d is not clear: %s of the prop is touched already.', $first, self::share(1.0 - $begins->none)),
                    'Start farther off, or later.',
                    '',
                    $first,
                    self::place($run, $map, $first, true),
                );
            }
            if ($ends->full < 1.0 && $ends->none < 1.0) {
                $out[] = self::finding(
                    sprintf('At frame %d, %s is left: it never becomes full.', $last, self::share(1.0 - $ends->full)),
                    'Go on longer or farther, or latch it.',
                    '',
                    $last,
                    self::place($run, $map, $last, false),
                );
            }
            if ($ends->none > 0.0 && $ends->full > 0.0 && 1.0 - $ends->none - $ends->full > 1e-3) {
                $out[] = self::finding(
                    sprintf('The border still lies on the prop at frame %d: %s is in between.', $last, self::share(1.0 - $ends->none - $ends->full)),
                    'Let it pass the whole prop before the end.',
                    '',
                    $last,
                );
            }
        }

        return [...$out, ...self::sources($run, $map)];
    }

    /**
     * @param  array{float, float, float}|null  $at
     * @param  array{path: string, value: mixed}|null  $mend
     * @return array{message: string, remedy: string, path: string, frame: int|null, at: array{float, float, float}|null, mend: array{path: string, value: mixed}|null}
     */
    private static function finding(string $message, string $remedy, string $path = '', ?int $frame = null, ?array $at = null, ?array $mend = null): array
    {
        return ['message' => $message, 'remedy' => $remedy, 'path' => $path, 'frame' => $frame, 'at' => $at, 'mend' => $mend];
    }

    /** @param  list<Coverage|null>  $coverage */
    private static function changes(array $coverage): bool
    {
        foreach ($coverage as $one) {
            if ($one != $coverage[0]) {
                return true;
            }
        }

        return false;
    }

    /** @return list<array{message: string, remedy: string, path: string, frame: int|null, at: array{float, float, float}|null, mend: array{path: string, value: mixed}|null}> */
    private static function sources(MapRun $run, string $map): array
    {
        $out = [];
        $spec = $run->map($map);
        $on = $run->pointsOf($spec->prop, MapRun::SURFACE);
        $edge = self::medianEdge($on);
        foreach ($spec->layers as $k => $layer) {
            $path = 'sources['.$k.']';
            $middle = intdiv($run->shot->first + $run->shot->last, 2);
            $source = $layer->at($middle);
            if ($source instanceof Brush) {
                [$dabs, $missed] = $source->missed($on);
                if ($missed > 0) {
                    $out[] = self::finding(
                        sprintf('Brush: %d of %d dabs meet nothing of the prop as it is now.', $missed, $dabs),
                        'The prop was changed since it was painted; paint there again.',
                        $path,
                    );
                }
            }
            if (! $source instanceof Measured) {
                continue;
            }
            $name = $source::label();
            $reach = $source->reach();
            if ($reach->none < $reach->full) {
                $mend = array_diff_key(['full' => 0, 'none' => 0], $layer->values->still()) !== []
                    ? null
                    : ['path' => $path.'.values', 'value' => ['full' => $reach->none, 'none' => $reach->full]];
                $out[] = self::finding(
                    $name.': its two distances are swapped, so it is none within and full beyond.',
                    'Swap them, or leave it if that is meant.',
                    $path,
                    null,
                    null,
                    $mend,
                );
            }
            $band = abs($reach->none - $reach->full);
            if ($layer->source !== 'facing' && $band > 0.0 && $band < self::EDGES * $edge) {
                $out[] = self::finding(
                    sprintf(
                        '%s: its band is %s wide, and the edges of the mesh %s: its border will show their corners.',
                        $name,
                        Quantity::show($band, 'm'),
                        Quantity::show($edge, 'm'),
                    ),
                    'Widen the band, or subdivide the mesh on the Props stage.',
                    $path,
                );
            }
            if (self::isOutOfReach($run, $map, $k)) {
                $out[] = self::finding(
                    $name.' is out of reach: nothing of the prop comes within '.Quantity::show($reach->farthest(), 'm').' of it.',
                    'Widen its reach, or bring the two closer.',
                    $path,
                );
            }
        }

        return $out;
    }

    /** Looked at a number of frames spread over the shot, then at all between them: what passes fast is there for one or two. */
    private static function isOutOfReach(MapRun $run, string $map, int $layer): bool
    {
        $one = $run->map($map)->layers[$layer];
        $empty = $one->invert ? 1.0 : 0.0;
        foreach (array_unique([max(1, intdiv($run->shot->last - $run->shot->first, self::LOOKS)), 1]) as $step) {
            for ($frame = $run->shot->first; $frame <= $run->shot->last; $frame += $step) {
                foreach ($run->layerAt($map, $layer, MapRun::SURFACE, $frame) as $w) {
                    if ($w !== $empty) {
                        return false;
                    }
                }
            }
        }

        return true;
    }

    /**
     * The point where most is touched, or most is left.
     *
     * @return array{float, float, float}|null
     */
    private static function place(MapRun $run, string $map, int $frame, bool $touched): ?array
    {
        $weights = $run->weightsAt($map, MapRun::SURFACE, $frame);
        $on = $run->pointsOf($run->map($map)->prop, MapRun::SURFACE);
        $i = $weights === [] ? false : array_search($touched ? max($weights) : min($weights), $weights, true);

        return $i === false ? null : [$on->x[$i], $on->y[$i], $on->z[$i]];
    }

    private static function medianEdge(Points $on): float
    {
        $faces = $on->mesh === null ? [] : $on->mesh->faces;
        $lengths = [];
        for ($k = 0, $n = count($faces); $k + 1 < $n; $k += 3) {
            [$a, $b] = [$faces[$k], $faces[$k + 1]];
            $lengths[] = sqrt(($on->x[$a] - $on->x[$b]) ** 2 + ($on->y[$a] - $on->y[$b]) ** 2 + ($on->z[$a] - $on->z[$b]) ** 2);
        }
        sort($lengths);

        return $lengths[intdiv(count($lengths), 2)] ?? 0.0;
    }

    private static function share(float $share): string
    {
        return $share < 0.0005 ? 'under 0.1 %' : rtrim(rtrim(sprintf('%.1f', 100.0 * $share), '0'), '.').' %';
    }
}
