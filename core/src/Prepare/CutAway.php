<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Break\Cut\Shards;
use YardBreak\Core\Break\Cut\Sheet;
use YardBreak\Core\Break\Cut\SheetCutter;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\SilentProgress;

/** Cuts a solid in half by a plane and keeps one side. */
final class CutAway implements Step
{
    /** Shifts of the plane tried, in units, where it meets points of the mesh. */
    private const SHIFTS = [0.0, 1e-7, -1e-7, 3e-7, -3e-7, 1e-6];

    public static function label(): string
    {
        return 'Cut in half';
    }

    public static function meaning(): string
    {
        return 'Keeps what lies on one side of a plane';
    }

    public static function options(): array
    {
        return [
            new Option('axis', 'Keep towards', 'The plane is square to this; what lies that way is kept.', Direction::class, [1.0, 0.0, 0.0], -1, 1),
            new Option('at', 'Position', 'Of the plane, from one end (0) to the other (1).', Number::class, 0.5, 0, 1),
        ];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $n = Vec3::of($values['axis']);
        if ($n->length() < 1e-6) {
            throw Problem::inValue('axis', 'The direction has no length.', 'Give it a direction, such as 1,0,0.');
        }
        $n = $n->unit();
        $frame = new UnitFrame(FaceNormals::shaded($mesh));
        $reach = abs($n->x) * $frame->half->x + abs($n->y) * $frame->half->y + abs($n->z) * $frame->half->z;
        foreach (self::SHIFTS as $shift) {
            try {
                $cutter = new SheetCutter($frame->unit);
                [, $kept] = $cutter->split($cutter->whole(), new Sheet($n, $n->times($reach * (2.0 * $values['at'] - 1.0) + $shift)));
                if ($kept === null) {
                    throw Problem::inValue('at', 'Nothing of the prop lies on the side that is kept.', 'Move the plane.');
                }
                $parts = array_map(static fn ($s): Mesh => $s->mesh, Shards::of($cutter->cut([$kept]), $frame, new SilentProgress, 0.0));
                $out = Mesh::merged(...$parts);

                return new Mesh($out->x, $out->y, $out->z, $out->faces);
            } catch (\UnexpectedValueException) {
                continue;
            }
        }
        throw Problem::inMesh('This mesh could not be cut in half: it is not closed, or crosses itself.', 'Repair it first.');
    }
}
