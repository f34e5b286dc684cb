<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use YardBreak\Core\SeededRandom;

/** Small shots of four props made at random, and random changes to them: keys with all eases and cues, maps, drift, releases and pushes. */
final class RandomShots
{
    private const EASES = ['hold', 'linear', 'smooth', 'hard-start', 'long-tail', 'overshoot', 'bounce', [0.2, -0.4, 0.9, 1.3]];

    private const IDS = ['ant', 'bee', 'cat', 'dog'];

    private const LAST = 10;

    private readonly SeededRandom $random;

    public function __construct(int $seed)
    {
        $this->random = new SeededRandom($seed);
    }

    /** @return array<string, mixed> */
    public function document(): array
    {
        $props = [];
        foreach (self::IDS as $k => $id) {
            $props[] = $this->prop($id, $k);
        }

        return Trials::document($props, [
            'frames' => ['first' => $this->oneOf([0, 0, 3]), 'last' => self::LAST + 3, 'rate' => [24, 1]],
            'world' => ['gravity' => [0, $this->value(-9.8, 3.0), 0], 'ground' => true, 'friction' => $this->value(0.5, 0.3), 'bounce' => 0.05] + $this->pace(),
            'cues' => $this->cues(),
            'forces' => $this->forces(),
        ]);
    }

    /** @return array<string, mixed> mostly time as on the clock */
    private function pace(): array
    {
        return $this->oneOf([[], [], [], ['pace' => 0.4], ['pace' => $this->value(1.0, 0.3), 'keysFollow' => true], ['pace' => ['keys' => [['frame' => 4, 'value' => 1.0], ['frame' => 7, 'value' => 0.0, 'ease' => 'hold'], ['frame' => 9, 'value' => 1.6]]]]]);
    }

    /**
     * @param  array<string, mixed>  $d
     * @return array<string, mixed>
     */
    public function changed(array $d): array
    {
        for ($n = 1 + $this->below(2); $n > 0; $n--) {
            $k = $this->below(4);
            $prop = &$d['props'][$k];
            $fresh = $this->prop($prop['id'], $k);
            switch ($this->below(12)) {
                case 0:
                    $prop['place'] = ['size' => $prop['place']['size']] + $fresh['place'];
                    break;
                case 1:
                    $prop['motion'] = $fresh['motion'];
                    break;
                case 2:
                    $prop['weights'] = $fresh['weights'];
                    break;
                case 3:
                    $prop['material']['friction'] = $this->value(0.5, 0.3);
                    break;
                case 4:
                    $d['cues'] = $this->cues();
                    break;
                case 5:
                    $d['world']['gravity'][1] = $this->value(-9.8, 3.0);
                    break;
                case 6:
                    $d['frames']['last'] += $this->oneOf([-2, 2]);
                    break;
                case 7:
                    $d['props'] = array_reverse($d['props']);
                    break;
                case 8:
                    $prop['place']['position'] = $this->later($prop['place']['position']);
                    break;
                case 10:
                    $d['forces'] = $this->forces();
                    break;
                case 11:
                    $prop['dust'] = $fresh['dust'];
                    break;
                case 9:
                    $prop['weights'][0]['sources'][0] = $this->source($prop['id']);
                    break;
                default:
                    $prop['motion'] = ($prop['motion']['kind'] === 'fixed' ? [] : ['velocity' => [$this->value(0.0, 1.0), 0, 0]]) + $prop['motion'];
            }
            unset($prop);
        }

        return $d;
    }

    /** @return list<array<string, mixed>> */
    private function forces(): array
    {
        return $this->below(3) === 0 ? [] : [
            [
                'id' => 'blow', 'name' => 'Blow', 'kind' => 'wind', 'values' => ['speed' => $this->value(20.0, 20.0), 'direction' => [$this->value(1.0, 1.0), 0.2, 0.5], 'gusts' => 0.4],
                'amount' => $this->value(0.5, 0.5), 'map' => $this->oneOf(['', 'map-ant', 'map-bee']),
            ],
            ['id' => 'draw', 'name' => 'Draw', 'kind' => $this->oneOf(['pull', 'swirl']), 'values' => ['at' => [0.2, $this->value(0.5, 0.5), 0.0]], 'on' => [$this->oneOf(self::IDS)]],
        ];
    }

    /** @return list<array<string, mixed>> */
    private function cues(): array
    {
        return [
            ['id' => 'one', 'name' => 'One', 'at' => ['on' => 'frame', 'frame' => 4 + $this->below(8)]],
            ['id' => 'two', 'name' => 'Two', 'at' => $this->oneOf([
                ['on' => 'touch', 'one' => $this->oneOf(self::IDS), 'other' => 'ground', 'speed' => $this->oneOf([0, 1])],
                ['on' => 'touch', 'one' => 'ant', 'other' => $this->oneOf(['bee', 'cat', 'dog'])],
                ['on' => 'touch', 'one' => 'dog', 'other' => $this->oneOf(['ground', 'cat'])],
                ['on' => 'reaching', 'map' => 'map-'.$this->oneOf(self::IDS), 'share' => $this->random->between(0.2, 0.9)],
            ])],
        ];
    }

    /** @return array<string, mixed> */
    private function prop(string $id, int $k): array
    {
        $kind = $this->oneOf(['fixed', 'keyed', 'keyed', 'free', 'free', 'drift', 'cloth']);
        $x = 0.34 * $k - 0.5;

        return Trials::box($id, [], [
            'place' => [
                'position' => [$this->value($x, 0.4), $this->value(0.35 * $this->below(3), 0.2), $this->random->between(-0.1, 0.1)],
                'turn' => [0, $this->value(0.0, 90.0), $this->value(0.0, 40.0)],
                'size' => $this->oneOf([1, 1, 1, $this->value(0.8, 0.3)]),
                'between' => $this->oneOf(['axes', 'shortest']),
            ],
            'break' => $this->oneOf([null, ['pattern' => 'tiles', 'values' => ['grid' => [2, 2, 1]]]]),
            'weights' => [[
                'id' => 'map-'.$id,
                'name' => 'Map '.$id,
                'sources' => array_map(fn (): array => $this->source($id), range(0, $this->below(2))),
                'inTime' => $this->oneOf([[], [], [['step' => 'lag', 'values' => ['half' => 0.1]]], [['step' => 'latch', 'values' => new \stdClass]]]),
            ]],
            'motion' => $this->motion($id, $kind),
            'dust' => $this->dust($id),
        ]);
    }

    /** @return list<array<string, mixed>> */
    private function dust(string $id): array
    {
        $of = static fn (string $from, array $values): array => [['id' => $from, 'name' => ucfirst($from), 'from' => $from, 'values' => $values + ['life' => 0.3]]];

        return $this->oneOf([
            [],
            [],
            $of('map', ['map' => 'map-'.$id, 'grains' => 60, 'level' => 0.4]),
            $of('trail', ['dense' => $this->value(40.0, 30.0), 'speed' => $this->value(0.5, 0.4)]),
            $of('hits', ['dense' => 2, 'meets' => 'everything']),
            $of('point', ['rate' => $this->value(100.0, 90.0), 'lands' => 'sticks']),
            $of('cracks', ['dense' => 200]),
            $of('burst', ['frame' => 5, 'count' => 30, 'shape' => 'cube', 'size' => 20, 'meets' => 'everything']),
            $of('burst', ['goes' => 'at-each-hit', 'from' => 0.5, 'count' => 8, 'form' => 'ring', 'shape' => 'flake', 'size' => 15]),
            $of('grid', ['columns' => 6, 'rows' => 5, 'frame' => 4, 'wave' => 0.8, 'shape' => 'splinter', 'size' => 12]),
            $of('skin', ['rate' => $this->value(60.0, 50.0), 'lands' => 'sticks']),
        ]);
    }

    /** @return array<string, mixed> */
    private function motion(string $id, string $kind): array
    {
        $release = $this->release($id);
        $pushes = $this->oneOf([
            [],
            [['push' => 'away', 'values' => ['from' => 'touch', 'speed' => 1.5, 'reach' => 0]]],
            [['push' => 'striker', 'values' => ['share' => 0.6, 'reach' => 0], 'map' => 'map-'.$id]],
            [['push' => 'random', 'values' => ['speed' => 0.8, 'spin' => 90, 'seed' => 2]]],
        ]);

        return match ($kind) {
            'free' => [
                'kind' => 'free',
                'held' => $this->oneOf(['still', 'still', 'whole']),
                'release' => $release,
                'pushes' => $pushes,
                'velocity' => [$this->value(0.0, 1.0), 0, 0],
                'values' => $this->oneOf([[], [], ['clump' => 3, 'firm' => 0.5, 'seed' => 2], ['mortar' => 'own', 'tension' => 0.02, 'shear' => 0.02], ['afterWay' => 0.05, 'afterTime' => 0.2, 'goneAfter' => 0.3, 'goneIn' => 0.2], ['meets' => 'others', 'limit' => 1.5, 'rolling' => 0.1, 'lightest' => 0.3, 'smoothest' => 0.5, 'box' => [1.5, 0, 1.5]], ['clump' => 2, 'afterWay' => 0.1, 'goneAfter' => 0.2, 'restAfter' => 0.1], ['mortar' => 'plaster', 'amount' => Trials::keys([3 => 0.2, 9 => 0.0])]]) ?: new \stdClass,
            ] + $this->oneOf([[], ['follow' => ['after' => 0.1, 'unsupported' => true, 'wait' => 0.05, 'seed' => 3]]]),
            'drift' => ['kind' => 'drift', 'release' => $release, 'drift' => ['map' => 'map-'.$id, 'ease' => 'smooth', 'handOver' => $this->below(2) === 0, 'moves' => $this->oneOf([
                [['move' => 'offset', 'values' => ['by' => [0.3, 0.4, 0], 'random' => 0.3, 'strewn' => 0.05, 'seed' => 1]]],
                [
                    ['move' => 'turn', 'values' => ['axis' => [0, 1, 0], 'angle' => 120, 'random' => 0.2, 'tumble' => 0, 'seed' => 1]],
                    ['move' => 'size', 'values' => ['to' => 1.3, 'random' => 0, 'seed' => 1]],
                ],
            ])]],
            'cloth' => ['kind' => 'cloth', 'release' => $release, 'pushes' => $pushes, 'values' => $this->oneOf([
                ['fabric' => 'silk', 'hold' => 'map-'.$id],
                ['fabric' => 'canvas', 'growth' => $this->value(1.1, 0.2), 'growthMap' => 'map-'.$id],
                ['fabric' => 'own', 'pressure' => $this->value(5.0, 5.0), 'itself' => 'no'],
            ])],
            default => ['kind' => $kind],
        };
    }

    /** @return array<string, mixed> */
    private function release(string $id): array
    {
        return $this->oneOf([
            ['on' => 'frame', 'frame' => $this->below(8)],
            ['on' => 'frame', 'frame' => 2, 'wait' => 0.2, 'seed' => 4],
            ['on' => 'cue', 'cue' => $this->oneOf(['one', 'two']), 'offset' => $this->below(2)],
            ['on' => 'touch', 'reach' => $this->oneOf([null, 0.2])],
            ['on' => 'weight', 'map' => 'map-'.$id, 'level' => 0.5],
            ['on' => 'shockwave', 'wave' => 1.2],
            ['on' => 'shockwave', 'wave' => 1.5, 'at' => [0, 0, 0], 'frame' => 3],
        ]);
    }

    /** @return array<string, mixed> */
    private function source(string $id): array
    {
        $others = array_values(array_diff(self::IDS, [$id]));
        // What is taken over from another prop is worked out on all points of that, which takes long: seldom.
        if ($this->random->share() < 0.08) {
            return Trials::source('map', ['map' => 'map-'.$this->oneOf($others)]);
        }

        return $this->oneOf([
            Trials::source(
                'front',
                ['point' => [$this->value(0.0, 0.4), 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.3, 'falloff' => 'linear'],
                ['on' => $this->oneOf(['own', 'world'])],
            ),
            Trials::source(
                'proximity',
                [
                    'to' => $this->oneOf($others),
                    'full' => 0.05,
                    'none' => $this->value(0.6, 0.3),
                    'falloff' => 'linear',
                    'measured' => $this->oneOf(['surface', 'pieces', 'origin']),
                ],
            ),
            Trials::source('grain', ['size' => 0.2, 'drift' => [0.4, 0, 0]]),
        ]);
    }

    /** A number near one, or keys of it. */
    private function value(float $about, float $by): mixed
    {
        if ($this->random->share() < 0.45) {
            return round($about, 4);
        }
        $keys = [];
        for ($n = 1 + $this->below(4); $n > 0; $n--) {
            $at = $this->random->share() < 0.2
                ? ['cue' => $this->oneOf(['one', 'one', 'one', 'two']), 'offset' => $this->below(5)]
                : ['frame' => $this->below(self::LAST + 6) - 2];
            $keys[] = $at + ['value' => round($about + $this->random->between(-$by, $by), 4), 'ease' => $this->oneOf(self::EASES)];
        }

        return ['keys' => $keys, 'before' => $this->oneOf(['hold', 'hold', 'swing']), 'after' => $this->oneOf(['hold', 'hold', 'repeat'])];
    }

    /**
     * The same with a key more, late in the shot.
     *
     * @param  list<mixed>  $values
     * @return list<mixed>
     */
    private function later(array $values): array
    {
        foreach ($values as $axis => $value) {
            if (is_array($value)) {
                $values[$axis]['keys'][] = ['frame' => self::LAST - $this->below(4), 'value' => round($this->random->between(-0.4, 0.6), 4)];
            }
        }

        return $values;
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $of
     * @return T
     */
    private function oneOf(array $of): mixed
    {
        return $of[$this->below(count($of))];
    }

    private function below(int $count): int
    {
        return min($count - 1, (int) ($this->random->share() * $count));
    }
}
