<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Push;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** Along with what touched it. */
final readonly class WithStriker implements Push
{
    private function __construct(private float $share, private float $reach)
    {
    }

    public static function label(): string
    {
        return 'With the striker';
    }

    public static function meaning(): string
    {
        return 'Along with what touched it';
    }

    public static function options(): array
    {
        return [
            new Option('share', 'Share', 'How much of its speed pieces get.', NumberInTime::class, 0.5, 0, 10),
            new Option(
                'reach',
                'None beyond',
                'It falls off evenly to nothing this far from the touch; 0 for the same everywhere.',
                NumberInTime::class,
                0.0,
                0,
                1000,
                'm',
            ),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['share'], $values['reach']);
    }

    public function on(Leaving $piece): Sent
    {
        if ($piece->striker === null || $piece->struck === null) {
            return Sent::nothing();
        }
        $share = $this->reach > 0.0 ? max(0.0, 1.0 - $piece->middle->minus($piece->struck)->length() / $this->reach) : 1.0;

        return new Sent($piece->striker->times($share * $this->share), Vec3::zero());
    }
}
