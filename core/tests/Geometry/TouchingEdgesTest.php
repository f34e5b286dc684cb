<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Fitness;
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
        [$parted, $px, $py, $pz] = TouchingEdges::parted($faces, $x, $y, $z);
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
        [$parted, $px] = TouchingEdges::parted($faces, $x, $y, $z);
        self::assertCount(16, $px);
        self::assertSame(24, count($parted) / 3);
    }

    /** Round an edge four solids and four gaps may follow each other; each solid gets the two faces that bound it. */
    public function test_the_solid_between_two_faces_decides_which_belong_together(): void
    {
        [$faces, $x, $y, $z] = self::welded(self::BOXES);
        [$parted, $px, , $pz] = TouchingEdges::parted($faces, $x, $y, $z);
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
        self::assertSame([$faces, $x, $y, $z], TouchingEdges::parted($faces, $x, $y, $z));
    }

    public function test_an_open_edge_is_refused(): void
    {
        [$faces, $x, $y, $z] = self::welded([[0, 0, 0, 1, 1, 1]]);
        $this->expectException(\UnexpectedValueException::class);
        TouchingEdges::parted(array_slice($faces, 3), $x, $y, $z);
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
            foreach ([[$x0, $y0, $z0], [$x1, $y0, $z0], [$x1, $y1, $z0], [$x0, $y1, $z0], [$x0, $y0, $z1], [$x1, $y0, $z1], [$x1, $y1, $z1], [$x0, $y1, $z1]] as $p) {
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
