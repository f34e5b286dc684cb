<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\InnerShading;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\PunchThrough;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Tests\Solids;

final class PunchThroughTest extends TestCase implements AssetSource
{
    public function path(string $asset): string
    {
        throw Problem::inFile('There is none.');
    }

    public function test_the_hole_lies_in_the_same_place_of_the_scene_whichever_way_a_layer_is_turned(): void
    {
        $document = $this->layers();
        $patch = (new PunchThrough(new PropMaker($this)))->patch($document, ['board', 'flat'], 'felt');
        self::assertSame(['/props/1/break', '/props/2/break'], array_column($patch, 'path'));
        foreach ($patch as $k => $step) {
            $document->props[$k + 1]->break = json_decode((string) json_encode($step['value']));
        }
        $spec = ShotSpec::fromObject($document);
        $holes = [];
        foreach ($spec->props as $prop) {
            $plug = array_values(array_filter(
                (new PropMaker($this))->shards($prop, new SilentProgress),
                static fn (Shard $s): bool => $s->name === 'shard-0001',
            ));
            self::assertCount(1, $plug, $prop->name);
            $holes[] = $prop->place->at(0)->point($plug[0]->mass->centroid);
        }
        // Felt and board stand behind each other; the flat one lies across the way of the punch and is hit on its side.
        self::assertEqualsWithDelta($holes[0]->x, $holes[1]->x, 0.02);
        self::assertEqualsWithDelta($holes[0]->y, $holes[1]->y, 0.02);
        self::assertEqualsWithDelta($holes[0]->x, $holes[2]->x, 0.03);
        // Every layer tears its own way, a little narrower than the one before.
        $radii = array_map(static fn (array $step): float => $step['value']['values']['radius'], $patch);
        self::assertLessThan(0.2, $radii[0]);
        self::assertLessThan($radii[0], $radii[1]);
        self::assertCount(2, array_unique(array_map(static fn (array $step): int => $step['value']['values']['seed'], $patch)));
    }

    public function test_what_is_not_punched_cannot_be_punched_through(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('not punched');
        (new PunchThrough(new PropMaker($this)))->patch($this->layers(), ['felt'], 'board');
    }

    public function test_a_layer_that_is_not_there_is_named(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('no prop "slates"');
        (new PunchThrough(new PropMaker($this)))->patch($this->layers(), ['slates'], 'felt');
    }

    public function test_smooth_inner_faces_agree_where_they_meet_and_the_outside_keeps_its_own(): void
    {
        $shard = BreakCatalogue::make('halving', ['passes' => 1, 'roughness' => 0.5])->break(Solids::shape('box'), new SilentProgress)[0];
        $smooth = InnerShading::smoothed($shard->mesh, M_PI);
        $spread = static function (array $normals) use ($shard): float {
            $at = [];
            $worst = 1.0;
            foreach ($shard->mesh->faces as $c => $p) {
                if (($shard->mesh->sides[intdiv($c, 3)] ?? 0) === 1) {
                    $n = new Vec3($normals[3 * $c], $normals[3 * $c + 1], $normals[3 * $c + 2]);
                    $worst = min($worst, isset($at[$p]) ? $at[$p]->dot($n) : 1.0);
                    $at[$p] ??= $n;
                }
            }

            return $worst;
        };
        self::assertLessThan(0.95, $spread($shard->mesh->normals ?? []));
        self::assertEqualsWithDelta(1.0, $spread($smooth->normals ?? []), 1e-9);
        foreach ($shard->mesh->sides ?? [] as $f => $inside) {
            if ($inside === 0) {
                self::assertSame(array_slice($shard->mesh->normals ?? [], 9 * $f, 9), array_slice($smooth->normals ?? [], 9 * $f, 9));
            }
        }
        self::assertSame(FaceNormals::perFace($shard->mesh), FaceNormals::perFace($smooth));
    }

    private function layers(): \stdClass
    {
        $document = json_decode(Documents::json());
        $sheet = static function (string $id, array $position, array $turn) use ($document): \stdClass {
            $prop = json_decode((string) json_encode($document->props[0]));
            $prop->id = $id;
            $prop->name = ucfirst($id);
            $prop->source->shape = 'sheet';
            $prop->source->values = (object) ['thickness' => 0.05];
            $prop->place = (object) ['position' => $position, 'turn' => $turn, 'size' => 1];

            return $prop;
        };
        $document->props = [
            $sheet('felt', [0, 0, 0.2], [0, 0, 0]),
            // Upside down and the other way round.
            $sheet('board', [0, 1, 0], [0, 180, 180]),
            $sheet('flat', [0, 0.6, -0.3], [-90, 0, 0]),
        ];
        $document->props[0]->break = (object) ['pattern' => 'punch', 'values' => (object) ['radius' => 0.2, 'point' => [0.1, 0.6, 0.0], 'seed' => 3]];

        return $document;
    }
}
