<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cells\Diagram;
use YardBreak\Core\Break\Cells\SeedPairs;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\InsideTest;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Ringed;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Geometry\NearestOnSurface;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\OutlineKind;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** A rough-edged hole, right through or only so deep, with rings of spalled or torn rim round it. */
final class Punch implements Pattern, Ringed
{
    /** Cutters that have a place and a size of their own, and those among them that go along a direction. */
    private const OWN = 'cutter=round|cutter=outline|cutter=ball';

    private const THROUGH = 'cutter=round|cutter=outline';

    private const PLUG = 0;

    private const REST = 1;

    private function __construct(
        private readonly ?Vec3 $point,
        private readonly ?Vec3 $axis,
        private readonly string $cutter,
        private readonly Outline $outline,
        private readonly Mesh|string|null $tool,
        private readonly float $radius,
        private readonly float $roughness,
        private readonly float $depth,
        private readonly int $bands,
        private readonly float $bandWidth,
        private readonly float $bandDepth,
        private readonly bool $marked,
        private readonly string $keep,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Punch';
    }

    public static function meaning(): string
    {
        return 'A rough hole, with its plug and rim';
    }

    public static function options(): array
    {
        return [
            new Option(
                'cutter',
                'Cutter',
                'A round punch, a ball, a drawn outline, or another prop.',
                Choice::class,
                'round',
                choices: ['round', 'ball', 'outline', 'prop'],
            ),
            new Option('point', 'Where', 'Middle of the hole; the middle of the prop without one.', Point::class, null, -1000, 1000, 'm', with: self::OWN),
            new Option('axis', 'Direction', 'The way it is punched; through the thinnest way without one.', Direction::class, null, -1, 1, with: self::THROUGH),
            new Option('tool', 'Cutting prop', 'The prop whose form is cut out, where it stands.', MeshKind::class, null, with: 'cutter=prop'),
            new Option('frame', 'As it stands at', 'The frame at which both props are looked at.', Whole::class, 0, 0, 100000, 'frame', with: 'cutter=prop'),
            new Option(
                'outline',
                'Outline',
                'Of the punch, where it is drawn; its longer side is twice the radius.',
                OutlineKind::class,
                [
                    'unit' => 'box',
                    'lines' => [['points' => [[-0.5, -0.4], [0.5, -0.5], [0.35, 0.1], [0.5, 0.5], [-0.1, 0.35], [-0.45, 0.5]], 'closed' => true]],
                ],
                0,
                1,
                with: 'cutter=outline',
            ),
            new Option('radius', 'Radius', 'Of the hole.', Number::class, 0.2, 0.0001, 1000, 'm', with: self::OWN, share: 0.2),
            new Option('roughness', 'Roughness', 'From drilled clean (0) to torn (1).', Number::class, 0.3, 0, 1),
            new Option(
                'depth',
                'Depth',
                'How deep it goes from the side it comes from; 0 is right through.',
                Number::class,
                0.0,
                0,
                1000,
                'm',
                with: self::THROUGH,
            ),
            new Option('bands', 'Rim bands', 'Rings of broken rim round the hole.', Whole::class, 0, 0, 8, with: self::THROUGH),
            new Option('band_width', 'Band width', 'About how wide each ring is.', Number::class, 0.03, 0.0001, 100, 'm', with: 'bands', share: 0.03),
            new Option(
                'rim',
                'Rim',
                'The bands break off as pieces, or stay and are marked: a surface of their own and a weight that falls from the hole outwards.',
                Choice::class,
                'pieces',
                choices: ['pieces', 'marked'],
                with: 'bands',
            ),
            new Option('band_depth', 'Band depth', 'How deep the rim is spalled; 0 is right through.', Number::class, 0.0, 0, 100, 'm', with: 'rim=pieces'),
            new Option('keep', 'Keep', 'The plug, what is left with its hole, or both.', Choice::class, 'both', choices: ['both', 'plug', 'hole']),
            new Option('seed', 'Seed', 'Another number gives another edge.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        $axis = Vec3::orNull($values['axis']);
        if ($axis !== null && $axis->length() < 1e-6) {
            throw Problem::inValue('axis', 'The direction of the punch has no length.', 'Give it a direction, such as 0,-1,0.');
        }
        $outline = Outline::of($values['outline'])->closed();
        if ($values['cutter'] === 'outline' && count($outline->lines) !== 1) {
            throw Problem::inValue(
                'outline',
                'The outline of a punch is one closed line; this drawing has '.count($outline->lines).'.',
                'Draw one closed line.',
            );
        }

        return new self(
            Vec3::orNull($values['point']), $axis, $values['cutter'], $outline, $values['tool'], $values['radius'], $values['roughness'], $values['depth'],
            $values['bands'], $values['band_width'], $values['band_depth'], $values['rim'] === 'marked', $values['keep'], $values['seed'],
        );
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $at = $this->point === null ? Vec3::zero() : $frame->inUnits($this->point);
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half)->times(-1.0));
        $place = $basis->of($at);
        foreach ($this->cutter === 'prop' ? [] : $basis->halves($frame->half) as $k => $half) {
            // Where along its way a punch starts does not matter; a ball must be there.
            if (($k < 2 || $this->cutter === 'ball') && abs($place[$k]) > $half + $this->radius / $frame->scale) {
                throw $this->misses();
            }
        }
        $shards = in_array($this->cutter, ['ball', 'prop'], true)
            ? $this->bySeeds($frame, $at, $progress)
            : PlanCut::shards($frame, $basis, fn (float $jitter): Plan => $this->plan($frame, $basis, $at, $jitter), $progress);
        $plug = $rest = 0;
        foreach ($shards as $shard) {
            str_starts_with($shard->name, 'shard-0001') ? $plug++ : (str_starts_with($shard->name, 'shard-0002') ? $rest++ : null);
        }
        if ($plug === 0) {
            throw $this->misses();
        }
        if ($rest === 0) {
            throw $this->swallows();
        }
        if ($this->keep !== 'both') {
            $shards = array_values(array_filter($shards, fn (Shard $s): bool => str_starts_with($s->name, 'shard-0001') === ($this->keep === 'plug')));
        }

        return $this->marksRim() ? $this->weighed($shards, $frame, $basis, $place) : $shards;
    }

    /** The plug, band by band, and last what is left. */
    public function rings(Mesh $solid, array $shards): array
    {
        $rings = array_map(fn (Shard $s): int => match ($group = (int) substr($s->name, 6, 4) - 1) {
            self::PLUG => 0,
            self::REST => $this->bands + 1,
            default => $group - self::REST,
        }, $shards);

        return ['axis' => ($this->axis ?? Basis::thinnest((new UnitFrame($solid))->half)->times(-1.0))->unit(), 'rings' => $rings];
    }

    private function marksRim(): bool
    {
        return $this->marked && $this->bands > 0 && ! in_array($this->cutter, ['ball', 'prop'], true);
    }

    /**
     * What is left, with the weight of its rim; round a hole that is not through only on the side it comes from.
     *
     * @param  list<Shard>  $shards
     * @param  array{float, float, float}  $place  of the punch
     * @return list<Shard>
     */
    private function weighed(array $shards, UnitFrame $frame, Basis $basis, array $place): array
    {
        [$u, $v] = $place;
        $rim = new RimBands($this->edge()->lines(new Noise(new SeededRandom($this->seed)), $this->bands, $frame->scale, $u, $v));
        $deepest = $this->depth > 0.0
            ? self::firstMet(
                $basis->turned($frame->unit->x, $frame->unit->y, $frame->unit->z),
                $frame->unit->faces,
                $u,
                $v,
            ) + 1.0001 * $this->depth / $frame->scale
            : INF;
        $out = [];
        foreach ($shards as $shard) {
            if (str_starts_with($shard->name, 'shard-0001')) {
                $out[] = $shard;

                continue;
            }
            $at = [];
            foreach ($shard->mesh->x as $p => $x) {
                [$pu, $pv, $pw] = $basis->of($frame->inUnits(new Vec3($x, $shard->mesh->y[$p], $shard->mesh->z[$p])));
                $at[] = $pw <= $deepest ? $rim->at($pu, $pv) : 0.0;
            }
            $out[] = new Shard($shard->name, $shard->mesh->withRim(array_map(static fn (int $p): float => $at[$p], $shard->mesh->faces)), $shard->mass);
        }

        return $out;
    }

    private function swallows(): Problem
    {
        return $this->cutter === 'prop'
            ? Problem::inValue('tool', 'The cutting prop swallows the whole prop.', 'Make it smaller, or move it.')
            : Problem::inValue('radius', 'The punch takes the whole prop with it.', 'Make the radius smaller.', $this->point?->toArray());
    }

    private function misses(): Problem
    {
        return $this->cutter === 'prop'
            ? Problem::offTheProp(
                'tool',
                'The cutting prop misses this one.',
                'Move it so that its surface goes through, or choose the frame at which it does.',
            )
            : Problem::offTheProp('point', 'The punch misses the prop.', 'Move the hole onto the prop.', $this->point?->toArray());
    }

    private function plan(UnitFrame $frame, Basis $basis, Vec3 $at, float $jitter): Plan
    {
        $random = new SeededRandom($this->seed);
        $noise = new Noise($random);
        $drawing = new Drawing($random, $jitter);
        [$u, $v] = $basis->of($at);
        $k = 1.0 / $frame->scale;
        foreach ($this->edge()->lines($noise, $this->bands, $frame->scale, $u, $v) as $line) {
            $drawing->line($line->points, true);
        }
        $rings = self::ringsOf($drawing, $u, $v);
        $met = self::firstMet($basis->turned($frame->unit->x, $frame->unit->y, $frame->unit->z), $frame->unit->faces, $u, $v);
        $levels = [];
        foreach (['plug' => $this->depth, 'band' => $this->bands > 0 && ! $this->marked ? $this->bandDepth : 0.0] as $name => $depth) {
            if ($depth > 0.0) {
                $levels[$name] = $met + $depth * $k + $jitter * $random->between(-1.0, 1.0);
            }
        }
        $sorted = array_values($levels);
        sort($sorted);
        $groups = $sides = [];
        for ($layer = 0; $layer <= count($sorted); $layer++) {
            $high = $sorted[$layer] ?? INF;
            foreach ($rings as $ring) {
                $deepest = $levels[$ring === 0 ? 'plug' : 'band'] ?? INF;
                $groups[] = $ring > $this->bands || $high > $deepest || ($this->marked && $ring > 0)
                    ? self::REST
                    : ($ring === 0 ? self::PLUG : self::REST + $ring);
                $sides[] = $ring > 0 && $ring <= $this->bands && $layer === 0 ? Mesh::RIM + $ring - 1 : 0;
            }
        }

        return new Plan(
            $drawing->map,
            $sorted,
            $groups,
            $this->roughness > 0.0 ? $this->bend($noise, $frame, $basis, $u, $v) : null,
            $this->marked ? $sides : null,
        );
    }

    /** The wall of the hole is torn from one side to the other as well as round its edge. */
    private function bend(Noise $noise, UnitFrame $frame, Basis $basis, float $u, float $v): \Closure
    {
        $k = 1.0 / $frame->scale;
        $most = 0.2 * $this->roughness * $this->radius * $k;
        if ($this->bands > 0) {
            $most = min($most, 0.15 * $this->bandWidth * $k);
        }
        $wave = 2.5 / ($this->radius * $k);

        $skin = new NearestOnSurface(new Mesh(...[...$basis->turned($frame->unit->x, $frame->unit->y, $frame->unit->z), $frame->unit->faces]), 4.0 * $most);

        return static function (float $x, float $y, float $w, float $room) use ($noise, $u, $v, $most, $wave, $skin): array {
            // Nothing within reach leaves the point where it is: there is room enough.
            [[$sx], [$sy], [$sw]] = $skin->drawn([$x], [$y], [$w]);
            if ($sx !== $x || $sy !== $y || $sw !== $w) {
                $room = min($room, sqrt(($sx - $x) ** 2 + ($sy - $y) ** 2 + ($sw - $w) ** 2));
            }
            $l = max(1e-12, hypot($x - $u, $y - $v));
            $by = $most * ($noise->at($x * $wave, $y * $wave, $w * $wave) + 0.5 * $noise->at(2.7 * $x * $wave, 2.7 * $y * $wave, 2.7 * $w * $wave));
            $by = max(-0.4 * $room, min(0.4 * $room, $by));

            return [$by * ($x - $u) / $l, $by * ($y - $v) / $l];
        };
    }

    private function edge(): TornEdge
    {
        return $this->cutter === 'round'
            ? TornEdge::round($this->radius, $this->roughness, $this->bandWidth)
            : TornEdge::drawn($this->outline->fitted()->lines[0]->placed(2.0 * $this->radius), $this->radius, $this->roughness, $this->bandWidth);
    }

    /** @return list<int> by triangle: 0 within the innermost line, then band by band, counted by the lines between it and the outside */
    private static function ringsOf(Drawing $drawing, float $u, float $v): array
    {
        $map = $drawing->map;
        $regions = $map->regions();
        $ring = array_fill(0, max($regions) + 1, PHP_INT_MAX);
        $queue = [$regions[$map->holding($u, $v)]];
        $ring[$queue[0]] = 0;
        $beside = [];
        foreach ($map->across as $slot => $o) {
            if ($o >= 0 && $regions[$o] !== $regions[intdiv($slot, 3)]) {
                $beside[$regions[intdiv($slot, 3)]][$regions[$o]] = true;
            }
        }
        for ($h = 0; $h < count($queue); $h++) {
            foreach ($beside[$queue[$h]] ?? [] as $next => $_) {
                if ($ring[$next] === PHP_INT_MAX) {
                    $ring[$next] = $ring[$queue[$h]] + 1;
                    $queue[] = $next;
                }
            }
        }

        return array_map(static fn (int $region): int => $ring[$region], $regions);
    }

    /**
     * Where a line along the axis first meets the surface; the lowest point of the solid where it misses.
     *
     * @param  array{list<float>, list<float>, list<float>}  $points
     * @param  list<int>  $faces
     */
    private static function firstMet(array $points, array $faces, float $u, float $v): float
    {
        [$x, $y, $z] = $points;
        $first = INF;
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            [$a, $b, $c] = [$faces[$i], $faces[$i + 1], $faces[$i + 2]];
            $area = ($x[$b] - $x[$a]) * ($y[$c] - $y[$a]) - ($y[$b] - $y[$a]) * ($x[$c] - $x[$a]);
            if ($area === 0.0) {
                continue;
            }
            $p = (($x[$b] - $u) * ($y[$c] - $v) - ($y[$b] - $v) * ($x[$c] - $u)) / $area;
            $q = (($x[$c] - $u) * ($y[$a] - $v) - ($y[$c] - $v) * ($x[$a] - $u)) / $area;
            if ($p >= 0.0 && $q >= 0.0 && $p + $q <= 1.0) {
                $first = min($first, $p * $z[$a] + $q * $z[$b] + (1.0 - $p - $q) * $z[$c]);
            }
        }

        return $first < INF ? $first : min($z);
    }

    /** @return list<Shard> */
    private function bySeeds(UnitFrame $frame, Vec3 $at, Progress $progress): array
    {
        $random = new SeededRandom($this->seed);
        if ($this->cutter === 'ball') {
            [$seeds, $within] = SeedPairs::ofBall($at, $this->radius / $frame->scale, $this->roughness, $random);
        } else {
            if (! $this->tool instanceof Mesh) {
                throw Problem::inValue(
                    'tool',
                    $this->tool === null ? 'No prop is chosen to cut with.' : 'The prop that cuts here is no longer there.',
                    'Choose one under "Cutting prop".',
                );
            }
            $tool = $this->tool->movedBy($frame->centre->times(-1.0))->scaledBy(1.0 / $frame->scale);
            [$seeds, $within] = SeedPairs::ofSurface($tool, new Aabb($frame->half->times(-1.0), $frame->half), $this->roughness, $random);
            if ($seeds === []) {
                throw InsideTest::holds($tool->faces, $tool->x, $tool->y, $tool->z, $frame->unit->x[0], $frame->unit->y[0], $frame->unit->z[0])
                    ? $this->swallows()
                    : $this->misses();
            }
        }

        return Diagram::shards($frame, $seeds, $random, $progress, 0.0, array_map(static fn (bool $in): int => $in ? self::PLUG : self::REST, $within));
    }
}
