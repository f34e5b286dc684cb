<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;

/** Cracks give off dust as they open, as much as they are large. */
final readonly class FromCracks implements Source
{
    private function __construct(private float $dense)
    {
    }

    public static function label(): string
    {
        return 'From cracks';
    }

    public static function meaning(): string
    {
        return 'As mortar breaks, from where it did';
    }

    public static function options(): array
    {
        return [new Option('dense', 'Grains', 'From each square metre that cracks.', Number::class, 8000.0, 0.0, 1e8, '1/m²')];
    }

    public static function of(array $values): self
    {
        return new self($values['dense']);
    }

    public function hearsHits(): bool
    {
        return false;
    }

    public function countsCuts(): bool
    {
        return false;
    }

    public function bear(Birthplace $at): void
    {
        foreach ($at->openings() as $joint) {
            [$u, $v] = $joint->halves();
            for ($n = $at->whole($this->dense * $joint->area); $n > 0; $n--) {
                $place = $joint->middle->plus($u->times($at->between(-1.0, 1.0)))->plus($v->times($at->between(-1.0, 1.0)));
                // Half of it hangs on either side; it leaves along the crack.
                $side = $at->between(-1.0, 1.0) < 0.0;
                $turn = $at->between(0.0, 2.0 * M_PI);
                $out = $u->unit()->times(cos($turn))->plus($v->unit()->times(sin($turn)));
                $at->add($side ? $joint->one : $joint->other, $place, $out);
            }
        }
    }
}
