<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Dust\Born\FromCracks;
use YardBreak\Core\Dust\Chip\Chips;
use YardBreak\Core\Dust\Chip\ChipShape;
use YardBreak\Core\Dust\Chip\ChipShapes;
use YardBreak\Core\Dust\Dust;
use YardBreak\Core\Dust\Grains;
use YardBreak\Core\Format\GlbScatter;
use YardBreak\Core\Format\PlyGrains;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** Dust and chips of a frame as they leave: as large and as coloured as they are at their age. */
final class LooseParts
{
    /** @var array<string, Mesh> shapes of chips, by prop and number of the dust */
    private array $shapes = [];

    /** @param  list<Piece>  $pieces  of all props */
    public function __construct(private readonly ShotSpec $shot, private readonly array $pieces)
    {
    }

    /** @param  array<int, array<int, string>>  $streams  of a frame, by prop and kind */
    public function ply(array $streams, string $path): void
    {
        $count = 0;
        foreach ($streams as $kinds) {
            $count += isset($kinds[StreamKind::Grains->value]) ? Grains::countIn($kinds[StreamKind::Grains->value]) : 0;
            $count += isset($kinds[StreamKind::Chips->value]) ? Chips::countIn($kinds[StreamKind::Chips->value]) : 0;
        }
        PlyGrains::write($path, $count, (function () use ($streams): iterable {
            foreach ($streams as $number => $kinds) {
                $prop = $this->shot->props[$number];
                foreach (isset($kinds[StreamKind::Grains->value]) ? Grains::read($kinds[StreamKind::Grains->value]) : [] as [$x, $y, $z, $size, $age, $of]) {
                    yield [$x, $y, $z, $size * $prop->dust[$of]->sizeAt($age), $age, ...self::colour($prop, $prop->dust[$of], $age)];
                }
                foreach (isset($kinds[StreamKind::Chips->value]) ? Chips::read($kinds[StreamKind::Chips->value]) : [] as [$x, $y, $z, $size, $age, $of]) {
                    yield [$x, $y, $z, $size * $prop->dust[$of]->sizeAt($age), $age, ...self::colour($prop, $prop->dust[$of], $age)];
                }
            }
        })());
    }

    /**
     * @param  array<int, array<int, string>>  $streams
     * @param  bool  $instanced  chips as instances; else as nodes
     */
    public function glb(array $streams, string $path, bool $instanced): void
    {
        $out = new GlbScatter($instanced);
        foreach ($streams as $number => $kinds) {
            $prop = $this->shot->props[$number];
            $grains = [];
            foreach (isset($kinds[StreamKind::Grains->value]) ? Grains::read($kinds[StreamKind::Grains->value]) : [] as [$x, $y, $z, $size, $age, $of]) {
                $grains[] = [$x, $y, $z, $size * $prop->dust[$of]->sizeAt($age), ...self::colour($prop, $prop->dust[$of], $age)];
            }
            $out->addGrains($prop->name.' dust', $grains);
            $chips = [];
            foreach (isset($kinds[StreamKind::Chips->value]) ? Chips::read($kinds[StreamKind::Chips->value]) : [] as [$x, $y, $z, $size, $age, $of, $turn]) {
                $chips[$of][] = [$x, $y, $z, $size * $prop->dust[$of]->sizeAt($age), $turn];
            }
            foreach ($chips as $of => $all) {
                $out->addChips($prop->name.' '.$prop->dust[$of]->name, $this->shape($number, $of), $all, self::colour($prop, $prop->dust[$of], 0.0));
            }
        }
        $out->write($path);
    }

    /** About its middle, its largest extent 1. */
    private function shape(int $number, int $of): Mesh
    {
        return $this->shapes[$number.' '.$of] ??= (function () use ($number, $of): Mesh {
            $grain = $this->shot->props[$number]->dust[$of]->grain(0.0);
            if ($grain->shape !== ChipShapes::PROP) {
                return ChipShape::scaled(ChipShapes::mesh($grain->shape));
            }
            $like = array_search($grain->prop, array_map(static fn (PropSpec $p): string => $p->id, $this->shot->props), true);
            $own = array_filter($this->pieces, static fn (Piece $p): bool => $p->prop === $like);

            return ChipShape::scaled(Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, array_values(array_map(static fn (Piece $p): Shard => $p->shard, $own)))));
        })();
    }

    /** @return array{int, int, int} 0…255 */
    private static function colour(PropSpec $prop, Dust $dust, float $age): array
    {
        $rgb = static fn (string $colour): array => array_map(hexdec(...), str_split(substr($colour, 1), 2));
        $born = $rgb($dust->source === FromCracks::class ? $prop->material->inner->colour : $prop->material->outer->colour);
        [$colour, $share] = $dust->turnedAt($age);
        if ($colour === '') {
            return [(int) $born[0], (int) $born[1], (int) $born[2]];
        }
        $to = $rgb($colour);
        $mix = static fn (int $k): int => (int) round($born[$k] + ($to[$k] - $born[$k]) * $share);

        return [$mix(0), $mix(1), $mix(2)];
    }
}
