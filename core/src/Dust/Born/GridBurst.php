<?php

declare(strict_types=1);

namespace YardBreak\Core\Dust\Born;

use YardBreak\Core\Dust\Birthplace;
use YardBreak\Core\Dust\Source;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Point;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Timing\MomentKind;

/** Rows and columns of a sheet are flung off it as a ring passes that runs out from a point. */
final readonly class GridBurst implements Source
{
    /**
     * @param  list<float>  $at
     * @param  list<float>|null  $axis
     */
    private function __construct(private int $columns, private int $rows, private array $at, private ?array $axis, private float $frame, private float $wave, private float $lift)
    {
    }

    public static function label(): string
    {
        return 'Grid burst';
    }

    public static function meaning(): string
    {
        return 'Rows and columns flung as a ring passes';
    }

    public static function options(): array
    {
        return [
            new Option('columns', 'Columns', 'Across the sheet.', Whole::class, 40, 1, 700),
            new Option('rows', 'Rows', 'Likewise.', Whole::class, 40, 1, 700),
            new Option('at', 'From', 'Where the ring begins, in the prop’s own coordinates.', Point::class, [0.0, 0.0, 0.0], -100000, 100000, 'm'),
            new Option('frame', 'Begins', 'At a frame, or at a cue.', MomentKind::class, 0.0, -100000.0, 200000.0),
            new Option('wave', 'Ring', 'How fast it grows.', Number::class, 2.0, 0.001, 100000.0, 'm/s'),
            new Option('lift', 'Off the sheet', '1 straight off it, 0 along it and outwards.', Number::class, 0.7, 0.0, 1.0),
            new Option('axis', 'Seen along', 'The side of the sheet; where it is thinnest without one.', Direction::class, null, -1, 1),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['columns'], $values['rows'], $values['at'], $values['axis'], (float) $values['frame'], $values['wave'], $values['lift']);
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
        $reach = $this->wave * $at->since($this->frame);
        if ($reach < 0.0) {
            return;
        }
        $from = Vec3::of(array_map(floatval(...), $this->at));
        $axis = $this->axis === null ? null : Vec3::of(array_map(floatval(...), $this->axis))->unit();
        $at->once(
            function () use ($at, $from, $axis): iterable {
                $axis ??= $at->thinnest();
                foreach ($at->gridded($axis, $this->columns, $this->rows) as [$piece, $place, $normal]) {
                    $out = $place->minus($from);
                    $along = $out->minus($axis->times($out->dot($axis)));
                    $length = $along->length();
                    $way = $normal->times($this->lift)->plus($length > 1e-9 ? $along->times((1.0 - $this->lift) / $length) : Vec3::zero());

                    yield [$piece, $place, $way->length() > 1e-9 ? $way->unit() : $normal];
                }
            },
            static fn (int $piece, Vec3 $place): bool => $place->minus($from)->length() <= $reach,
        );
    }
}
