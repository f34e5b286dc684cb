<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust;

use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Geometry\MeshKind;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Colour;
use YardBreak\Core\Kinds\Course;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** What grains or chips of one source are, and how they leave. */
final readonly class Grain
{
    public const BOUNCES = 'bounces';

    public const STICKS = 'sticks';

    private const LIFE = 'Over its life';

    /**
     * @param  string  $shape  one of `ChipShapes::names`
     * @param  string  $prop  id of the prop it is shaped like, where it is
     * @param  float  $size  m across
     * @param  float  $varies  share by which sizes and lives differ
     * @param  float  $density  kg/m³
     * @param  float  $life  s
     * @param  float  $keeps  share it keeps of the speed of what it comes from
     * @param  float  $speed  m/s it leaves with
     * @param  float  $spread  radians it leaves off the surface's normal at most
     * @param  float  $spin  rad/s at most
     * @param  string  $meets  what it falls on: nothing, the ground, or everything
     * @param  string  $lands  what it does there
     * @param  float  $bounce  share of its speed it keeps on the way back
     */
    private function __construct(
        public string $shape,
        public string $prop,
        public float $size,
        public float $varies,
        public float $density,
        public float $life,
        public float $keeps,
        public float $speed,
        public float $spread,
        public float $spin,
        public string $meets,
        public string $lands,
        public float $bounce,
        public int $seed,
    ) {
    }

    /** @return list<Option> */
    public static function options(): array
    {
        return [
            new Option('shape', 'As', 'Dust is of round grains; chips have a shape, tumble and come to lie on a face.', Choice::class, ChipShapes::GRAIN, choices: ChipShapes::names()),
            new Option('prop', 'Like', 'The prop whose hull they have.', MeshKind::class, '', with: 'shape='.ChipShapes::PROP),
            new Option('size', 'Grain', 'Across.', Number::class, 1.5, 0.005, 1000.0, 'mm'),
            new Option('varies', 'Varies by', 'Share by which sizes and lives differ.', Number::class, 0.5, 0.0, 1.0),
            new Option('density', 'Density', 'Of a grain: fluff 5, ash 300, wood 600, brick 1,800.', Number::class, 800.0, 0.01, 30000.0, 'kg/m³'),
            new Option('life', 'Lasts', 'Until it is gone.', Number::class, 6.0, 0.01, 100000.0, 's'),
            new Option('keeps', 'Keeps', 'Share of the speed of what it comes from.', Number::class, 0.8, 0.0, 2.0),
            new Option('speed', 'Leaves with', 'Off the surface.', NumberInTime::class, 0.3, 0.0, 1000.0, 'm/s'),
            new Option('spread', 'Spreads by', 'Off straight away from the surface.', Number::class, 60.0, 0.0, 180.0, '°'),
            new Option('spin', 'Spins', 'At most, about any axis.', Number::class, 720.0, 0.0, 100000.0, '°/s', with: ChipShapes::withShape()),
            new Option('meets', 'Falls on', 'What it does not pass through.', Choice::class, 'ground', choices: ['nothing', 'ground', 'everything']),
            new Option('lands', 'There it', 'Bounces and slides on, or sticks.', Choice::class, self::BOUNCES, choices: [self::BOUNCES, self::STICKS], with: 'meets=ground|meets=everything'),
            new Option('bounce', 'Bounce', 'Share of its speed it keeps on the way back.', Number::class, 0.2, 0.0, 1.0, with: 'lands='.self::BOUNCES),
            new Option('seed', 'Seed', 'Another number gives other grains.', Whole::class, 1, 0, 999999),
            new Option('sizes', 'Size', 'Share of its size, from birth to end.', Course::class, [[0.0, 1.0], [1.0, 0.4]], 0.0, 10.0, part: self::LIFE),
            new Option('shows', 'Shows', 'How much it covers, from birth to end.', Course::class, [[0.0, 1.0], [0.9, 1.0], [1.0, 0.0]], 0.0, 1.0, part: self::LIFE),
            new Option('turns', 'Turns to', 'A colour it goes over to; none keeps that of what it came from.', Colour::class, '', part: self::LIFE),
            new Option('turning', 'Of that colour', 'How much, from birth to end.', Course::class, [[0.0, 0.0], [1.0, 1.0]], 0.0, 1.0, with: 'turns', part: self::LIFE),
            new Option('light', 'In the picture', 'Covers what is behind it, or adds its light to it as sparks do.', Choice::class, 'covers', choices: ['covers', 'adds-up'], part: self::LIFE),
        ];
    }

    /** @param  array<string, mixed>  $v */
    public static function of(array $v): self
    {
        return new self(
            $v['shape'], $v['prop'], 1e-3 * $v['size'], $v['varies'], $v['density'], $v['life'], $v['keeps'], $v['speed'], deg2rad($v['spread']), deg2rad($v['spin']), $v['meets'], $v['lands'],
            $v['bounce'], $v['seed'],
        );
    }

    public function isChip(): bool
    {
        return $this->shape !== ChipShapes::GRAIN;
    }
}
