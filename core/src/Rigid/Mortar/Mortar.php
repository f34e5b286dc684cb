<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\NumberInTime;
use YardBreak\Core\Timing\Track;
use YardBreak\Core\Timing\Values;
use YardBreak\Core\Weight\MapKind;

/** What holds the pieces of a prop together until it breaks. */
final readonly class Mortar
{
    /** Pressure lets a bond bear so much more shear, as a share of it (EN 1996-1-1, 3.6.2). */
    private const FRICTION = 0.4;

    private const PART = 'Mortar';

    /** N/m² in one N/mm². */
    private const MEGA = 1e6;

    /**
     * @param  float  $tension  N/m² it bears
     * @param  float  $shear  N/m²
     * @param  float  $modulus  N/m², of elasticity
     * @param  float  $contact  s that a hit lasts
     * @param  float  $uneven  share by which bonds differ, at random
     * @param  string  $map  id of the map that says how much of it there is where; empty for all of it
     * @param  Track  $amount  share of its strength it has, over frames
     */
    private function __construct(
        public float $tension,
        public float $shear,
        public float $modulus,
        public float $contact,
        private float $uneven,
        private int $seed,
        public string $map,
        private Track $amount,
    ) {
    }

    /** @return list<Option> those that belong to it */
    public static function options(): array
    {
        $any = 'mortar='.implode('|mortar=', Mortars::holding());
        $own = 'mortar='.Mortars::OWN;

        return [
            new Option(
                'mortar', 'Mortar', 'What holds its pieces together when they are let go, until loads break it.', Choice::class, Mortars::NONE,
                choices: Mortars::names(), ofPieces: true, part: self::PART,
            ),
            new Option('tension', 'Bears drawn apart', 'Tension at which a bond breaks.', Number::class, 0.3, 0.0, 10000.0, 'N/mm²', with: $own, ofPieces: true, part: self::PART),
            new Option('shear', 'Bears sideways', 'Shear at which a bond breaks; pressure adds four tenths of itself.', Number::class, 0.3, 0.0, 10000.0, 'N/mm²', with: $own, ofPieces: true, part: self::PART),
            new Option('modulus', 'Stiffness', 'Modulus of elasticity; what is stiffer carries a hit farther.', Number::class, 5.0, 0.001, 1000.0, 'kN/mm²', with: $own, ofPieces: true, part: self::PART),
            new Option('amount', 'Of its strength', 'How much of its strength there is: key it down, and it crumbles.', NumberInTime::class, 1.0, 0.0, 100.0, with: $any, ofPieces: true, part: self::PART),
            new Option('mortarMap', 'Strong where', 'Where this map is 0 nothing holds, where it is 1 all of it.', MapKind::class, '', with: $any, ofPieces: true, part: self::PART),
            new Option('uneven', 'Differs by', 'Share by which one bond is stronger or weaker than another, at random.', Number::class, 0.2, 0.0, 1.0, with: $any, ofPieces: true, part: self::PART),
            new Option('contact', 'A hit lasts', 'The shorter, the harder it is on the bonds near it: steel on stone 0.5, stone on stone 2, a sandbag 10.', Number::class, 2.0, 0.01, 1000.0, 'ms', with: $any, ofPieces: true, part: self::PART),
        ];
    }

    /** What of settings says; null where nothing holds pieces together. */
    public static function of(Values $values): ?self
    {
        $v = $values->still();
        if ($v['mortar'] === Mortars::NONE) {
            return null;
        }
        [$tension, $shear, $modulus] = Mortars::strength($v['mortar']) ?? [$v['tension'], $v['shear'], $v['modulus']];

        return new self(
            self::MEGA * $tension, self::MEGA * $shear, 1e3 * self::MEGA * $modulus, 1e-3 * $v['contact'], $v['uneven'], $v['seed'], $v['mortarMap'], $values->number('amount'),
        );
    }

    public function amount(float $frame): float
    {
        return $this->amount->at($frame);
    }

    /** @return list<float> what each of so many bonds has of the strength of all */
    public function differences(int $bonds): array
    {
        return SeededRandom::aboutOne($this->seed, $this->uneven, $bonds);
    }

    /**
     * @param  array{float, float, float}  $stress  tension, shear and pressure, as of `Bonds::stress`
     * @param  float  $share  of the strength that a bond has
     * @return float how much of what it bears it has to bear: from 1 on it breaks
     */
    public function strain(array $stress, float $share): float
    {
        [$tension, $shear, $pressure] = $stress;

        return max(self::ratio($tension, $share * $this->tension), self::ratio($shear, $share * $this->shear + self::FRICTION * $pressure));
    }

    private static function ratio(float $load, float $strength): float
    {
        return $strength > 0.0 ? $load / $strength : ($load > 0.0 ? INF : 0.0);
    }

    public function acts(Acts $acts): void
    {
        $acts->always('mortar', [$this->tension, $this->shear, $this->modulus, $this->contact, $this->uneven, $this->seed, $this->map]);
        $acts->values('strength of mortar', $this->amount);
        if ($this->map !== '') {
            $acts->map($this->map, true);
        }
    }
}
