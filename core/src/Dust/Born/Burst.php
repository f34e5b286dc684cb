<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\MomentKind;

/** Many at once from one place: all round, as a ring, a fan or a streak; at a moment, or at each hit. */
final readonly class Burst implements Source
{
    private const MOMENT = 'at-a-moment';

    private const HITS = 'at-each-hit';

    private const SPHERE = 'sphere';

    private const RING = 'ring';

    private const FAN = 'fan';

    private const STREAK = 'streak';

    /**
     * @param  list<float>  $at
     * @param  list<float>|null  $towards
     */
    private function __construct(private string $form, private string $goes, private float $frame, private float $from, private int $count, private array $at, private ?array $towards, private float $inner, private float $wide)
    {
    }

    public static function label(): string
    {
        return 'Burst';
    }

    public static function meaning(): string
    {
        return 'Many at once from one place';
    }

    public static function options(): array
    {
        return [
            new Option('form', 'Form', 'All round, a ring about a direction, a fan across it, or a streak along it.', Choice::class, self::SPHERE, choices: [self::SPHERE, self::RING, self::FAN, self::STREAK]),
            new Option('goes', 'Goes off', 'Once, or wherever something hits hard enough.', Choice::class, self::MOMENT, choices: [self::MOMENT, self::HITS]),
            new Option('frame', 'At', 'A frame, or a cue.', MomentKind::class, 0.0, -100000.0, 200000.0, with: 'goes='.self::MOMENT),
            new Option('from', 'From', 'The impulse from which a hit makes one.', Number::class, 0.05, 0.0, 1e6, 'N·s', with: 'goes='.self::HITS),
            new Option('at', 'Where', 'In the prop’s own coordinates.', Point::class, [0.0, 0.0, 0.0], -100000, 100000, 'm', with: 'goes='.self::MOMENT),
            new Option('towards', 'Towards', 'The axis of a ring, the middle of a fan, the way of a streak; upwards without one.', Direction::class, null, -1, 1),
            new Option('count', 'Grains', 'Of each burst.', Whole::class, 2000, 1, Birthplace::MOST),
            new Option('inner', 'Inner edge', 'How fast the slowest follow the outer edge, which goes by the speed they leave with: 1 for a thin ring or shell.', Number::class, 0.6, 0.0, 1.0),
            new Option('wide', 'Wide', 'Angle of the fan, or of the cone of a streak.', Number::class, 60.0, 0.0, 360.0, '°', with: 'form='.self::FAN.'|form='.self::STREAK),
        ];
    }

    public static function of(array $values): self
    {
        return new self(
            $values['form'], $values['goes'], (float) $values['frame'], $values['from'], $values['count'], $values['at'], $values['towards'], $values['inner'], deg2rad($values['wide']),
        );
    }

    public function hearsHits(): bool
    {
        return $this->goes === self::HITS;
    }

    public function countsCuts(): bool
    {
        return false;
    }

    public function bear(Birthplace $at): void
    {
        $axis = $this->towards === null ? new Vec3(0.0, 1.0, 0.0) : Vec3::of(array_map(floatval(...), $this->towards))->unit();
        if ($this->goes === self::HITS) {
            foreach ($at->hits() as $hit) {
                for ($n = $hit->impulse >= $this->from ? $this->count : 0; $n > 0; $n--) {
                    $at->addIn($hit->piece, $hit->at, $this->way($at, $axis), $this->share($at));
                }
            }
        } elseif ($at->passes($this->frame)) {
            $at->ahead = $at->since($this->frame);
            for ($n = $this->count; $n > 0; $n--) {
                $at->add(0, Vec3::of(array_map(floatval(...), $this->at)), $this->way($at, $axis), $this->share($at));
            }
        }
    }

    private function share(Birthplace $at): float
    {
        return $at->between($this->inner, 1.0);
    }

    private function way(Birthplace $at, Vec3 $axis): Vec3
    {
        $across = $axis->across();
        $other = $axis->cross($across);
        $round = static fn (float $angle): Vec3 => $across->times(cos($angle))->plus($other->times(sin($angle)));
        switch ($this->form) {
            case self::RING:
                return $round($at->between(0.0, 2.0 * M_PI));
            case self::FAN:
                $angle = $at->between(-0.5, 0.5) * $this->wide;

                return $axis->times(cos($angle))->plus($across->times(sin($angle)));
            default:
                // Evenly over a cap: its height goes evenly.
                $cos = $at->between($this->form === self::SPHERE ? -1.0 : cos(min(M_PI, 0.5 * $this->wide)), 1.0);

                return $axis->times($cos)->plus($round($at->between(0.0, 2.0 * M_PI))->times(sqrt(max(0.0, 1.0 - $cos * $cos))));
        }
    }
}
