<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Geometry;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\SeededRandom;

/** Turns against rotation matrices: R = cos θ I + sin θ [u]× + (1 − cos θ) uuᵀ (Rodrigues 1840). */
final class QuaternionTest extends TestCase
{
    public function test_a_turn_about_an_axis_is_its_matrix(): void
    {
        foreach (self::turns() as [$axis, $angle, $point]) {
            self::assertSamePoint(self::by(self::matrix($axis, $angle), $point), Quaternion::aboutAxis($axis, $angle)->turn($point));
        }
    }

    public function test_one_turn_after_another_is_the_product_of_their_matrices(): void
    {
        $turns = self::turns();
        foreach ($turns as $k => [$axis, $angle, $point]) {
            [$other, $by] = $turns[($k + 1) % count($turns)];
            $both = Quaternion::aboutAxis($other, $by)->after(Quaternion::aboutAxis($axis, $angle));
            self::assertSamePoint(self::by(self::matrix($other, $by), self::by(self::matrix($axis, $angle), $point)), $both->turn($point));
            self::assertSamePoint($point, $both->after($both->inverse())->turn($point));
            self::assertSamePoint($both->turn($point), (new Quaternion(3 * $both->x, 3 * $both->y, 3 * $both->z, 3 * $both->w))->unit()->turn($point));
        }
    }

    public function test_turns_in_degrees_go_about_x_then_y_then_z_of_the_fixed_frame(): void
    {
        foreach (self::turns() as [$angles, , $point]) {
            $want = self::by(
                self::matrix(new Vec3(0, 0, 1), $angles->z),
                self::by(self::matrix(new Vec3(0, 1, 0), $angles->y), self::by(self::matrix(new Vec3(1, 0, 0), $angles->x), $point)),
            );
            self::assertSamePoint($want, Quaternion::fromEuler($angles)->turn($point));
        }
        // By hand: x up to z, then z over to −y … about x, and that to x about z.
        self::assertSamePoint(new Vec3(0, 0, 1), Quaternion::fromEuler(new Vec3(M_PI / 2, 0, 0))->turn(new Vec3(0, 1, 0)));
        self::assertSamePoint(new Vec3(-1, 0, 0), Quaternion::fromEuler(new Vec3(M_PI / 2, 0, M_PI / 2))->turn(new Vec3(0, 0, -1)));
    }

    public function test_on_the_way_to_another_turn_it_is_a_share_of_the_shorter_arc(): void
    {
        foreach (self::turns() as [$axis, $angle, $point]) {
            $from = Quaternion::aboutAxis(new Vec3(1, 2, 3), 0.7);
            $to = Quaternion::aboutAxis($axis, $angle)->after($from);
            $short = $angle > M_PI ? $angle - 2 * M_PI : $angle;
            foreach ([0.0, 0.25, 0.5, 1.0] as $share) {
                self::assertSamePoint(Quaternion::aboutAxis($axis, $share * $short)->after($from)->turn($point), $from->towards($to, $share)->turn($point));
            }
            $vector = $from->rotationTo($to);
            self::assertSamePoint($axis->unit()->times($short), $vector);
        }
        $still = Quaternion::aboutAxis(new Vec3(0, 1, 0), 1.0);
        self::assertSamePoint(Vec3::zero(), $still->rotationTo($still));
        self::assertSamePoint($still->turn(new Vec3(1, 0, 0)), $still->towards($still, 0.3)->turn(new Vec3(1, 0, 0)));
    }

    public function test_a_placement_sizes_then_turns_then_moves_and_a_mesh_goes_with_it(): void
    {
        $at = new Placement(new Vec3(10, 20, 30), Quaternion::fromEuler(new Vec3(0, M_PI / 2, M_PI / 2)), 2.0);
        // (1, 2, 3) doubled is (2, 4, 6); about y that is (6, 4, −2), about z then (−4, 6, −2).
        self::assertSamePoint(new Vec3(6, 26, 28), $at->point(new Vec3(1, 2, 3)));
        $mesh = (new Mesh([1.0, 0.0, 0.0], [2.0, 1.0, 0.0], [3.0, 0.0, 1.0], [0, 1, 2], [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0]))->placed($at);
        self::assertSamePoint(new Vec3(6, 26, 28), new Vec3($mesh->x[0], $mesh->y[0], $mesh->z[0]));
        $normals = array_chunk($mesh->normals ?? [], 3);
        self::assertSamePoint(new Vec3(0, 0, -1), new Vec3(...$normals[0]));
        self::assertSamePoint(new Vec3(-1, 0, 0), new Vec3(...$normals[1]));
        self::assertSamePoint(new Vec3(0, 1, 0), new Vec3(...$normals[2]));
    }

    /** @return list<array{Vec3, float, Vec3}> axis, angle from 0 to a full turn, point */
    private static function turns(): array
    {
        $random = new SeededRandom(11);
        $one = static fn (): float => $random->between(-1.0, 1.0);

        return array_map(static fn (int $k): array => [new Vec3($one(), $one(), $one()), 0.05 + 0.31 * $k, new Vec3($one(), $one(), $one())], range(0, 19));
    }

    /** @return list<list<float>> */
    private static function matrix(Vec3 $axis, float $angle): array
    {
        $u = $axis->unit()->toArray();
        $cross = [[0.0, -$u[2], $u[1]], [$u[2], 0.0, -$u[0]], [-$u[1], $u[0], 0.0]];
        $out = [];
        foreach ([0, 1, 2] as $i) {
            foreach ([0, 1, 2] as $j) {
                $out[$i][$j] = cos($angle) * ($i === $j ? 1.0 : 0.0) + sin($angle) * $cross[$i][$j] + (1.0 - cos($angle)) * $u[$i] * $u[$j];
            }
        }

        return $out;
    }

    /** @param  list<list<float>>  $m */
    private static function by(array $m, Vec3 $p): Vec3
    {
        return new Vec3(...array_map(static fn (array $row): float => $row[0] * $p->x + $row[1] * $p->y + $row[2] * $p->z, $m));
    }

    private static function assertSamePoint(Vec3 $want, Vec3 $got): void
    {
        self::assertEqualsWithDelta($want->toArray(), $got->toArray(), 1e-12);
    }
}
