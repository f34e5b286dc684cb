<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\LooseParts;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\WindingNumber;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\Repair;

/**
 * A new closed skin round whatever a surface encloses, for those no repair can close: skins that cross themselves, scans
 * with holes, sheets without thickness.
 */
final class Rebuild implements Step
{
    /** Cells a sheet is thick where nothing is said. */
    private const SHEET = 2.5;

    /** Faces of each part that are asked what they enclose. */
    private const ASKED = 64;

    /** A part whose faces lie, on the mean, less far within than this encloses nothing: half inside is 0.5, an open sheet 0. */
    private const ENCLOSING = 0.15;

    public static function label(): string
    {
        return 'Rebuild';
    }

    public static function meaning(): string
    {
        return 'A new closed skin round what is inside, where no repair helps';
    }

    public static function options(): array
    {
        return [
            new Option('detail', 'Detail', 'Cells along the longest side; what is thinner than a cell is lost.', Whole::class, 64, 8, 256),
            new Option(
                'thickness',
                'Thickness of sheets',
                'Given to open parts; 0 gives the thinnest this detail can show to those that enclose nothing.',
                Number::class,
                0.0,
                0,
                100,
                'm',
            ),
        ];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        $box = Aabb::around($mesh)->size();
        $longest = max($box->x, $box->y, $box->z);
        if ($mesh->isEmpty() || $longest <= 0.0) {
            throw Problem::inMesh('There is no surface to build a skin round.', 'Bring in a mesh with faces.');
        }
        $cell = $longest / (int) $values['detail'];
        $thickness = (float) $values['thickness'];
        if ($thickness > 0.0 && $thickness < self::SHEET * $cell) {
            throw Problem::outOfRange(
                'thickness',
                'The thickness',
                $thickness,
                sprintf('at least %.4g m at this detail; raise the detail for thinner', self::SHEET * $cell),
            );
        }
        $mesh = Repair::weld($mesh);
        // What agrees already stays as it is: a part turned inwards is a cavity.
        $mesh = Fitness::of($mesh)->oriented ? $mesh : Repair::orient($mesh);
        $thick = max($thickness, self::SHEET * $cell);
        $winding = new WindingNumber($mesh);
        // What is bent a little may enclose too little to show: then it is a sheet after all.
        $tried = null;
        foreach ($thickness > 0.0 ? [true] : [false, true] as $open) {
            $made = self::thickened($mesh, $winding, $open, $thick);
            if ($made === $tried) {
                break;
            }
            $skin = NewSkin::round($made, new InsideGrid($made, $made === $mesh ? $winding : new WindingNumber($made), $cell));
            if (! $skin->isEmpty()) {
                return $skin;
            }
            $tried = $made;
        }

        throw Problem::inMesh('Nothing as thick as a cell is enclosed here.', 'Raise the detail, or give sheets a thickness.');
    }

    /**
     * The mesh with those of its parts that enclose nothing made into plates, half the thickness to either side.
     *
     * @param  bool  $open  whether every open part counts as one of those
     */
    private static function thickened(Mesh $mesh, WindingNumber $winding, bool $open, float $thickness): Mesh
    {
        $sheets = $rest = [];
        foreach (LooseParts::of($mesh->faces) as $part) {
            $count = min(self::ASKED, count($part));
            $x = $y = $z = [];
            for ($k = 0; $k < $count; $k++) {
                [$a, $b, $c] = array_slice($mesh->faces, 3 * $part[intdiv($k * count($part), $count)], 3);
                $x[] = ($mesh->x[$a] + $mesh->x[$b] + $mesh->x[$c]) / 3.0;
                $y[] = ($mesh->y[$a] + $mesh->y[$b] + $mesh->y[$c]) / 3.0;
                $z[] = ($mesh->z[$a] + $mesh->z[$b] + $mesh->z[$c]) / 3.0;
            }
            if (abs(array_sum($winding->at($x, $y, $z))) < self::ENCLOSING * $count || ($open && Fitness::of($mesh->only($part))->boundaryEdges > 0)) {
                array_push($sheets, ...$part);
            } else {
                array_push($rest, ...$part);
            }
        }
        if ($sheets === []) {
            return $mesh;
        }
        $sheet = $mesh->only($sheets);
        $plate = Thicken::plate($sheet, Push::pushed($sheet, 0.5 * $thickness), Push::pushed($sheet, -0.5 * $thickness));
        if ($rest === []) {
            return $plate;
        }
        $both = Mesh::merged($mesh->only($rest), $plate);

        return new Mesh($both->x, $both->y, $both->z, $both->faces, uvs: $both->uvs);
    }
}
