<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Motion\Settings;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;
use YardBreak\Core\Weight\MapKind;

/** What a prop is as cloth. */
final readonly class ClothSettings implements Settings
{
    private const HELD = 'What holds it';

    private const SHAPE = 'Growth and pressure';

    private const CONTACT = 'What it meets';

    /**
     * @param  float  $weight  kg/m²
     * @param  float  $stretch  N/m
     * @param  float  $bend  N·m, flexural rigidity
     * @param  float  $thickness  m
     * @param  float  $limit  share of its length by which it stretches as said; beyond it is many times as stiff
     * @param  Track  $damping  s, of its stiffness: how soon what vibrates in it dies away
     * @param  string  $hold  id of the map that says where it is held; empty for nowhere
     * @param  Track  $growth  times its rest length
     * @param  string  $growthMap  id of the map that says how much of that growth each place has; empty for all of it
     * @param  Track  $pressure  Pa, outwards
     * @param  string  $pressureMap  id of the map that says how much of that pressure each place has, where it is no more than that; empty for all of it
     * @param  string  $filled  one of `Filling::KINDS`
     * @param  Track  $volume  times its volume as made, where that is kept
     * @param  bool  $keeps  whether it keeps the shape it was made in, as far as bending goes
     * @param  bool  $meetsItself  whether it keeps off itself
     * @param  bool  $closely  whether it lies half as far off cloth
     * @param  bool  $pushes  whether what is free feels it
     * @param  int  $cells  of each of many pieces, to a side: how far it bends
     * @param  int  $steps  sub-steps of a frame
     * @param  Seam|null  $seam  what holds its pieces together; null where they are loose
     */
    private function __construct(
        public float $weight,
        public float $stretch,
        public float $bend,
        public float $thickness,
        public float $limit,
        public Track $damping,
        public string $hold,
        public Track $growth,
        public string $growthMap,
        public Track $pressure,
        public string $pressureMap,
        public string $filled,
        public Track $volume,
        public bool $keeps,
        public bool $meetsItself,
        public bool $closely,
        public bool $pushes,
        public int $cells,
        public int $steps,
        public ?Seam $seam,
        private Values $values,
    ) {
    }

    /** @return list<Option> */
    public static function options(): array
    {
        $own = 'fabric='.Fabrics::OWN;

        return [
            new Option('fabric', 'Fabric', 'What it is made of.', Choice::class, 'canvas', choices: Fabrics::names(), notes: Fabrics::notes(), pictures: 'fabrics'),
            new Option('weight', 'Weight', 'Of a square metre.', Number::class, 0.3, 0.001, 1000.0, 'kg/m²', with: $own),
            new Option('stretch', 'Stretch', 'Force on each metre of width that would draw it to twice its length.', Number::class, 2000.0, 1.0, 1e6, 'N/m', with: $own),
            new Option('bend', 'Bending', 'Flexural rigidity: silk 0.0000015, canvas 0.00008, leather 0.001.', Number::class, 5e-5, 0.0, 100.0, 'N·m', with: $own),
            new Option('thickness', 'Thickness', 'It stays so far off what it lies on.', Number::class, 1.0, 0.01, 1000.0, 'mm', with: $own),
            new Option('limit', 'Gives', 'It stretches by so much; beyond it is taut.', Number::class, 0.2, 0.001, 100.0, with: $own),
            new Option('damping', 'Damping', 'How soon what shivers in it dies away.', NumberInTime::class, 0.001, 0.0, 1.0, 's'),
            new Option('steps', 'Sub-steps', 'Of a frame: 5 to 10; more for what is stiff or fast.', Whole::class, 6, 1, 200),
            new Option('cells', 'Flakes bend', 'Of more than '.Swatch::MANY.' pieces each is a card of so many cells to a side: 1 is stiff, 3 supple, and takes four times as long. They do not meet each other.', Whole::class, 2, 1, 4, ofPieces: true),
            new Option('hold', 'Held where', 'Where this map is 1 it stays with its prop, where it is 0 it is free, and between partly.', MapKind::class, '', choices: ['nowhere'], part: self::HELD),
            new Option('growth', 'Growth', 'Of its rest length: 120 % folds, 150 % balloons.', NumberInTime::class, 1.0, 0.1, 10.0, part: self::SHAPE),
            new Option('growthMap', 'Grows where', 'How much of that growth each place has.', MapKind::class, '', part: self::SHAPE),
            new Option('pressure', 'Pressure', 'Outwards on each face; 2 to 20 Pa puff up light cloth.', NumberInTime::class, 0.0, -100000.0, 100000.0, 'Pa', part: self::SHAPE),
            new Option('filled', 'Filled with', 'That pressure whatever its size; air of a set amount, which has that pressure at its size as made; or what keeps its volume.', Choice::class, Filling::PRESSURE, choices: Filling::KINDS, part: self::SHAPE),
            new Option('pressureMap', 'Presses where', 'How much of that pressure each place has.', MapKind::class, '', with: 'filled='.Filling::PRESSURE, part: self::SHAPE),
            new Option('volume', 'Volume', 'That it keeps, times as made.', NumberInTime::class, 1.0, 0.01, 100.0, with: 'filled='.Filling::VOLUME, part: self::SHAPE),
            new Option('keeps', 'Bends back to', 'Flat, or the shape it was made in.', Choice::class, 'its-shape', choices: ['its-shape', 'flat'], part: self::SHAPE),
            ...Seam::options(),
            new Option('itself', 'Meets itself', 'Folds lie on each other: closely, half as far apart, for about a third more time.', Choice::class, 'yes', choices: ['yes', 'closely', 'no'], part: self::CONTACT),
            new Option('pushes', 'Pushes back', 'What is free is borne, held and dragged by it.', Choice::class, 'yes', choices: ['yes', 'no'], part: self::CONTACT),
        ];
    }

    public static function of(Values $values): self
    {
        $v = $values->still();
        [$weight, $stretch, $bend, $thickness, $limit] = Fabrics::of($v['fabric']) ?? [$v['weight'], $v['stretch'], $v['bend'], 1e-3 * $v['thickness'], $v['limit']];

        return new self(
            $weight, $stretch, $bend, $thickness, $limit, $values->number('damping'), $v['hold'], $values->number('growth'), $v['growthMap'], $values->number('pressure'), $v['pressureMap'],
            $v['filled'], $values->number('volume'), $v['keeps'] === 'its-shape', $v['itself'] !== 'no', $v['itself'] === 'closely', $v['pushes'] === 'yes', $v['cells'], $v['steps'], Seam::of($values), $values,
        );
    }

    public function acts(Acts $acts, array $moments, bool $atAnyTime): void
    {
        $this->values->acts($acts, 'cloth');
        foreach ($this->maps() as $map) {
            $acts->map($map, false);
        }
    }

    /**
     * Times its rest length by point at a frame; null where it is as made.
     *
     * @param  \Closure(string): list<float>  $weights  of a map, by point
     * @return list<float>|null
     */
    public function grown(float $frame, int $points, \Closure $weights): ?array
    {
        $growth = $this->growth->at($frame);
        if ($growth === 1.0) {
            return null;
        }

        return array_map(static fn (float $share): float => 1.0 + ($growth - 1.0) * $share, $this->growthMap === '' ? array_fill(0, $points, 1.0) : $weights($this->growthMap));
    }

    /** What it is filled with at a frame; null where that is no more than a pressure. */
    public function filling(float $frame): ?Filling
    {
        return $this->filled === Filling::PRESSURE ? null : new Filling($this->filled, $this->pressure->at($frame), $this->volume->at($frame));
    }

    /** Whether it is puffed up at any time. */
    public function puffs(): bool
    {
        return $this->filled !== Filling::PRESSURE || ! $this->pressure->isConstant() || $this->pressure->at(0.0) !== 0.0;
    }

    public function shape(): string
    {
        return Solid::NONE;
    }

    public function ball(): float
    {
        return 0.0;
    }

    public function maps(): array
    {
        return array_filter(['hold' => $this->hold, 'growthMap' => $this->growthMap, 'pressureMap' => $this->pressureMap, 'seamMap' => $this->seam->map ?? ''], static fn (string $map): bool => $map !== '');
    }

    public function movesHeld(): bool
    {
        return false;
    }
}
