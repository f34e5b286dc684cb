<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Quantity;

/** From a distance to a weight: full within one distance, none beyond another, and a way from one to the other. */
final readonly class Reach
{
    private function __construct(private float $full, private float $none, private bool $smooth)
    {
    }

    /** @return list<Option> */
    public static function options(float $full, float $none, float $least = 0.0): array
    {
        return [
            new Option('full', 'Full within', 'The weight is 1 as far as this.', Number::class, $full, $least, 1000, 'm'),
            new Option('none', 'None beyond', 'The weight is 0 from here on.', Number::class, $none, $least, 1000, 'm'),
            new Option('falloff', 'Falloff', 'Evenly from one to the other, or easing out of both.', Choice::class, 'smooth', choices: ['linear', 'smooth']),
        ];
    }

    /**
     * @param  array<string, mixed>  $values
     *
     * @throws Problem where the two distances are the wrong way round
     */
    public static function of(array $values): self
    {
        if ($values['none'] < $values['full']) {
            throw Problem::inValue('none', sprintf('The weight is to be none beyond %s, but full within %s: the two are the wrong way round.', Quantity::show((float) $values['none'], 'm'), Quantity::show((float) $values['full'], 'm')), 'Make "none beyond" the longer of the two, or invert the weight.');
        }

        return new self($values['full'], $values['none'], $values['falloff'] === 'smooth');
    }

    public function at(float $distance): float
    {
        if ($distance <= $this->full) {
            return 1.0;
        }
        if ($distance >= $this->none) {
            return 0.0;
        }
        $t = ($this->none - $distance) / ($this->none - $this->full);

        return $this->smooth ? $t * $t * (3.0 - 2.0 * $t) : $t;
    }
}
