<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Fitness;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\TouchingEdges;

final class TouchingEdgesTest extends TestCase
{
    /** Two boxes that share the upright edge at the origin, and no more. */
    private const BOXES = [[0, 0, 0, 1, 1, 1], [-1, 0, -1, 0, 1, 0]];

    public function test_boxes_that_meet_in_an_edge_become_two_solids_without_a_change_of_form(): void
    {
        [$faces, $x, $y, $z] = self::welded(self::BOXES);
        self::assertCount(14, $x, 'sixteen corners, two of them shared');
        $volume = MassProperties::ofFaces($x, $y, $z, $faces)->volume;
        [$parted, $px, $py, $pz] = self::parted($faces, $x, $y, $z);
        self::assertCount(16, $px);
        self::assertCount(count($faces), $parted);
        $fitness = Fitness::of(new Mesh($px, $py, $pz, $parted));
        self::assertTrue($fitness->canBreak());
        self::assertSame(2, $fitness->parts);
        self::assertEqualsWithDelta($volume, $fitness->volume, 1e-12);
        foreach ($parted as $k => $p) {
            self::assertSame([$x[$faces[$k]], $y[$faces[$k]], $z[$faces[$k]]], [$px[$p], $py[$p], $pz[$p]], 'every corner stays in its place');
        }
    }

    public function test_boxes_that_meet_in_a_point_become_two_solids(): void
    {
        [$faces, $x, $y, $z] = self::welded([[0, 0, 0, 1, 1, 1], [-1, -1, -1, 0, 0, 0]]);
        self::assertCount(15, $x);
        [$parted, $px] = self::parted($faces, $x, $y, $z);
        self::assertCount(16, $px);
        self::assertSame(24, count($parted) / 3);
    }

    /** Round an edge four solids and four gaps may follow each other; each solid gets the two faces that bound it. */
    public function test_the_solid_between_two_faces_decides_which_belong_together(): void
    {
        [$faces, $x, $y, $z] = self::welded(self::BOXES);
        [$parted, $px, , $pz] = self::parted($faces, $x, $y, $z);
        $parts = [];
        foreach (array_chunk($parted, 3) as [$a, $b, $c]) {
            $side = $px[$a] + $px[$b] + $px[$c] + $pz[$a] + $pz[$b] + $pz[$c] > 0 ? 'right' : 'left';
            foreach ([$a, $b, $c] as $p) {
                $parts[$p][$side] = true;
            }
        }
        foreach ($parts as $sides) {
            self::assertCount(1, $sides);
        }
    }

    public function test_what_touches_nowhere_stays_as_it_is(): void
    {
        [$faces, $x, $y, $z] = self::welded([[0, 0, 0, 1, 1, 1]]);
        self::assertSame([$faces, $x, $y, $z], self::parted($faces, $x, $y, $z));
    }

    public function test_an_open_edge_is_refused(): void
    {
        [$faces, $x, $y, $z] = self::welded([[0, 0, 0, 1, 1, 1]]);
        $this->expectException(\UnexpectedValueException::class);
        self::parted(array_slice($faces, 3), $x, $y, $z);
    }

    /**
     * Two boxes across meet in an edge between two whole floors, so that both its ends hang together by these: the edge's
     * faces are halved, and shading, places and sides go along.
     */
    public function test_an_edge_both_of_whose_ends_are_touched_is_halved(): void
    {
        $filled = [];
        foreach ([0, 1] as $x) {
            foreach ([0, 1] as $z) {
                $filled["$x,0,$z"] = $filled["$x,2,$z"] = true;
            }
        }
        $filled['0,1,0'] = $filled['1,1,1'] = true;
        $px = $py = $pz = $faces = $known = $uvs = $sides = [];
        foreach (array_keys($filled) as $box) {
            [$x, $y, $z] = array_map(intval(...), explode(',', $box));
            foreach ([
                [[-1, 0, 0], [[0, 0, 0], [0, 0, 1], [0, 1, 1], [0, 1, 0]]],
                [[1, 0, 0], [[1, 0, 0], [1, 1, 0], [1, 1, 1], [1, 0, 1]]],
                [[0, -1, 0], [[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1]]],
                [[0, 1, 0], [[0, 1, 0], [0, 1, 1], [1, 1, 1], [1, 1, 0]]],
                [[0, 0, -1], [[0, 0, 0], [0, 1, 0], [1, 1, 0], [1, 0, 0]]],
                [[0, 0, 1], [[0, 0, 1], [1, 0, 1], [1, 1, 1], [0, 1, 1]]],
            ] as [$to, $quad]) {
                if (isset($filled[($x + $to[0]).','.($y + $to[1]).','.($z + $to[2])])) {
                    continue;
                }
                $corners = [];
                foreach ($quad as [$i, $j, $k]) {
                    $key = ($x + $i).','.($y + $j).','.($z + $k);
                    if (! isset($known[$key])) {
                        $known[$key] = count($px);
                        $px[] = (float) ($x + $i);
                        $py[] = (float) ($y + $j);
                        $pz[] = (float) ($z + $k);
                    }
                    $corners[] = $known[$key];
                }
                array_push($faces, $corners[0], $corners[1], $corners[2], $corners[0], $corners[2], $corners[3]);
                array_push($sides, abs($to[0]), abs($to[0]));
            }
        }
        foreach ($faces as $p) {
            array_push($uvs, $px[$p] + $pz[$p], $py[$p]);
        }
        $mesh = new Mesh($px, $py, $pz, $faces, sides: $sides, uvs: $uvs);
        self::assertSame(1, Fitness::of($mesh)->nonmanifoldEdges);
        $parted = TouchingEdges::parted($mesh);
        $fitness = Fitness::of($parted);
        self::assertTrue($fitness->canBreak());
        self::assertSame(1, $fitness->parts);
        self::assertEqualsWithDelta(10.0, $fitness->volume, 1e-12);
        self::assertSame($mesh->faceCount() + 2, $parted->faceCount());
        self::assertCount($parted->faceCount(), $parted->sides ?? []);
        foreach ($parted->faces as $c => $p) {
            self::assertEqualsWithDelta([$parted->x[$p] + $parted->z[$p], $parted->y[$p]], array_slice($parted->uvs ?? [], 2 * $c, 2), 1e-12);
        }
    }

    /**
     * @param  list<int>  $faces
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return array{list<int>, list<float>, list<float>, list<float>}
     */
    private static function parted(array $faces, array $x, array $y, array $z): array
    {
        $mesh = TouchingEdges::parted(new Mesh($x, $y, $z, $faces));

        return [$mesh->faces, $mesh->x, $mesh->y, $mesh->z];
    }

    /**
     * @param  list<array{int, int, int, int, int, int}>  $boxes
     * @return array{list<int>, list<float>, list<float>, list<float>}
     */
    private static function welded(array $boxes): array
    {
        $x = $y = $z = $faces = $known = [];
        foreach ($boxes as [$x0, $y0, $z0, $x1, $y1, $z1]) {
            $corner = [];
            foreach ([
                [$x0, $y0, $z0],
                [$x1, $y0, $z0],
                [$x1, $y1, $z0],
                [$x0, $y1, $z0],
                [$x0, $y0, $z1],
                [$x1, $y0, $z1],
                [$x1, $y1, $z1],
                [$x0, $y1, $z1],
            ] as $p) {
                $key = implode(',', $p);
                if (! isset($known[$key])) {
                    $known[$key] = count($x);
                    $x[] = (float) $p[0];
                    $y[] = (float) $p[1];
                    $z[] = (float) $p[2];
                }
                $corner[] = $known[$key];
            }
            foreach ([[0, 3, 2, 1], [4, 5, 6, 7], [0, 1, 5, 4], [2, 3, 7, 6], [1, 2, 6, 5], [0, 4, 7, 3]] as [$a, $b, $c, $d]) {
                array_push($faces, $corner[$a], $corner[$b], $corner[$c], $corner[$a], $corner[$c], $corner[$d]);
            }
        }

        return [$faces, $x, $y, $z];
    }
}
