<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests;

use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;

/** Meshes and small scenes the tests share. */
final class Solids
{
    /** @param  array<string, mixed>  $values */
    public static function shape(string $name, array $values = []): Mesh
    {
        $mesh = ShapeCatalogue::mesh($name, $values);

        return $mesh->withNormals(FaceNormals::smooth($mesh));
    }

    /** A thin-walled vase. */
    public static function vase(int $segments = 48): Mesh
    {
        return self::shape('lathe', ['segments' => $segments, 'profile' => [
            [0, 0], [0.12, 0], [0.18, 0.12], [0.15, 0.3], [0.08, 0.4], [0.1, 0.42], [0.09, 0.42], [0.07, 0.4], [0.14, 0.29], [0.165, 0.12],
            [0.11, 0.015], [0, 0.015],
        ]]);
    }

    /** A half round of inner radius 0.3 about the origin, 2 cm thick. */
    public static function bowl(int $segments): Mesh
    {
        $profile = [];
        for ($k = 0; $k <= 40; $k++) {
            $profile[] = [0.32 * sin(M_PI / 80.0 * $k), -0.32 * cos(M_PI / 80.0 * $k)];
        }
        for ($k = 40; $k >= 0; $k--) {
            $profile[] = [0.3 * sin(M_PI / 80.0 * $k), -0.3 * cos(M_PI / 80.0 * $k)];
        }
        $profile[0][0] = $profile[81][0] = 0.0;

        return self::shape('lathe', ['profile' => $profile, 'segments' => $segments]);
    }

    /** @return array<string, array{Mesh}> */
    public static function closed(): array
    {
        return [
            'box' => [self::shape('box')],
            'ball' => [self::shape('ball', ['detail' => 8])],
            'ring' => [self::shape('ring', ['segments' => 60, 'rows' => 20])],
            'cone' => [self::shape('cone')],
            'thin vase' => [self::vase()],
            'pane' => [self::shape('sheet', ['segments' => 6])],
            'ball in a ball' => [self::hollowBall()],
        ];
    }

    /** A ball with a smaller, inside-out ball within: a solid with a cavity. */
    public static function hollowBall(): Mesh
    {
        $outer = self::shape('ball', ['radius' => 0.5, 'detail' => 6]);
        $inner = self::shape('ball', ['radius' => 0.3, 'detail' => 5])->movedBy(new Vec3(0.0, 0.2, 0.0));
        $flipped = [];
        for ($i = 0, $n = count($inner->faces); $i < $n; $i += 3) {
            array_push($flipped, $inner->faces[$i], $inner->faces[$i + 2], $inner->faces[$i + 1]);
        }
        $both = Mesh::merged($outer, new Mesh($inner->x, $inner->y, $inner->z, $flipped));

        return $both->withNormals(FaceNormals::smooth($both));
    }

    /**
     * Puts a box into a world.
     *
     * @param  array{float, float, float}  $size
     */
    public static function addBox(
        World $w,
        array $size,
        Vec3 $at,
        int $state = World::MOVING,
        ?Vec3 $velocity = null,
        float $friction = 0.5,
        float $bounce = 0.0,
        ?Vec3 $spin = null,
        ?Quaternion $turn = null,
    ): int {
        [$a, $b, $c] = $size;
        [$x, $y, $z] = self::corners($a, $b, $c);
        $m = 1000.0 * $a * $b * $c;
        $id = $w->addBody(
            $state,
            $at,
            $turn ?? Quaternion::identity(),
            $m,
            [$m / 12 * ($b * $b + $c * $c), $m / 12 * ($c * $c + $a * $a), $m / 12 * ($a * $a + $b * $b), 0.0, 0.0, 0.0],
        );
        $w->addCollider($id, Hull::around($x, $y, $z), Vec3::zero(), $friction, $bounce, $id);
        if ($state === World::MOVING) {
            $w->release($id, $velocity ?? Vec3::zero(), $spin ?? Vec3::zero());
        }

        return $id;
    }

    /** @return array{list<float>, list<float>, list<float>} of a box about the origin */
    public static function corners(float $a, float $b, float $c): array
    {
        $x = $y = $z = [];
        foreach ([-0.5, 0.5] as $i) {
            foreach ([-0.5, 0.5] as $j) {
                foreach ([-0.5, 0.5] as $k) {
                    $x[] = $i * $a;
                    $y[] = $j * $b;
                    $z[] = $k * $c;
                }
            }
        }

        return [$x, $y, $z];
    }
}
