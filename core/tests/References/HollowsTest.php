<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\References;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Tests\Solids;

/** Hollow things that are held or driven let through what has room, and carry what is in them: what must happen follows from the form alone. */
final class HollowsTest extends TestCase
{
    /**
     * A key that stands on end over its hole, with 2 mm beside its bit and 5 mm round its shaft, falls through it as if there
     * were none; with the bit turned aside it lies on the plate.
     */
    public function test_a_key_drops_through_its_keyhole(): void
    {
        foreach ([0.0, M_PI / 2.0] as $turn) {
            $w = self::world();
            $w->ground = null;
            $flat = Quaternion::aboutAxis(new Vec3(1, 0, 0), -M_PI / 2.0);
            $this->hold($w, self::plate(), Vec3::zero(), $flat);
            $key = $this->free($w, self::key(), new Vec3(0, 0.2, 0), Quaternion::aboutAxis(new Vec3(0, 1, 0), $turn)->after($flat));
            $fallen = $this->after($w, $key, 14);
            if ($turn === 0.0) {
                self::assertEqualsWithDelta(0.2 - 0.5 * 9.80665 * (14 / 24) ** 2, $fallen, 0.02, 'through it, hardly slowed');
            } else {
                $this->after($w, $key, 34);
                self::assertGreaterThan(0.04, $w->py[$key], 'on the plate');
            }
        }
    }

    /** Balls in a bowl that is lifted, taken along and tilted stay in it; turned over it lets go of all of them. */
    public function test_a_scoop_carries_and_pours(): void
    {
        $w = self::world();
        $scoop = $this->hold($w, Solids::bowl(48), new Vec3(0, 0.5, 0));
        $balls = [];
        for ($k = 0; $k < 12; $k++) {
            $balls[] = $this->free($w, ShapeCatalogue::mesh('ball', ['radius' => 0.04, 'detail' => 4])->movedBy(new Vec3(0, -0.04, 0)), new Vec3(0.1 * cos(2.1 * $k), 0.4 + 0.09 * intdiv($k, 3), 0.1 * sin(2.1 * $k)));
        }
        $at = static function (float $t): array {
            $eased = static fn (float $from): float => 0.5 - 0.5 * cos(M_PI * min(1.0, max(0.0, $t - $from)));

            return [new Vec3(0.8 * $eased(2.0), 0.5 + 0.6 * $eased(1.0), 0.0), Quaternion::aboutAxis(new Vec3(0, 0, 1), 0.25 * $eased(2.5) + (M_PI - 0.25) * $eased(4.0))];
        };
        for ($f = 0; $f < 96; $f++) {
            $this->drive($w, $scoop, $at($f / 24), $at(($f + 1) / 24));
        }
        foreach ($balls as $ball) {
            $far = (new Vec3($w->px[$ball] - 0.8, $w->py[$ball] - 1.1, $w->pz[$ball]))->length();
            self::assertLessThan(0.3 - 0.04 + 0.003, $far, 'within the bowl and not in its wall');
        }
        for ($f = 96; $f < 144; $f++) {
            $this->drive($w, $scoop, $at($f / 24), $at(($f + 1) / 24));
        }
        foreach ($balls as $ball) {
            self::assertLessThan(0.5, $w->py[$ball], 'poured out');
        }
    }

    /** Cubes in a drum that turns stay in it, and are taken up on the side that rises. */
    public function test_a_turning_drum_takes_its_load_along(): void
    {
        $w = self::world();
        $w->ground = null;
        $upright = Quaternion::aboutAxis(new Vec3(0, 0, 1), M_PI / 2.0);
        $drum = $this->hold($w, self::drum(), new Vec3(0, 1, 0), $upright);
        $cubes = [];
        for ($k = 0; $k < 20; $k++) {
            $cubes[] = $this->free($w, ShapeCatalogue::mesh('box', ['width' => 0.05, 'height' => 0.05, 'depth' => 0.05]), new Vec3(0.06 * ($k % 5 - 2), 0.8 + 0.06 * intdiv($k, 10), 0.06 * (intdiv($k, 5) % 2)));
        }
        $at = static fn (float $t): array => [new Vec3(0, 1, 0), Quaternion::aboutAxis(new Vec3(1, 0, 0), 1.5 * $t)->after($upright)];
        $taken = [];
        for ($f = 0; $f < 120; $f++) {
            $this->drive($w, $drum, $at($f / 24), $at(($f + 1) / 24));
            foreach ($cubes as $cube) {
                self::assertLessThan(0.3, hypot($w->py[$cube] - 1.0, $w->pz[$cube]), 'within its shell');
                self::assertLessThan(0.2, abs($w->px[$cube]), 'between its ends');
                if ($f >= 48) {
                    $taken[] = $w->pz[$cube];
                }
            }
        }
        // Turning from y to z, its lowest side moves towards −z.
        self::assertLessThan(-0.04, array_sum($taken) / count($taken));
    }

    private static function world(): World
    {
        $w = new World;
        $w->groundBounce = 0.0;

        return $w;
    }

    private function hold(World $w, Mesh $mesh, Vec3 $at, ?Quaternion $turn = null): int
    {
        $body = $w->addBody(World::STILL, $at, $turn ?? Quaternion::identity(), 1.0, [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]);
        $w->addSurface($body, new ContactSurface($mesh), 0.5, 0.0, 100 + $body);

        return $body;
    }

    /** Something of density 1000, the origin of its mesh at a place. */
    private function free(World $w, Mesh $mesh, Vec3 $at, ?Quaternion $turn = null): int
    {
        $solid = Solid::free([new Shard('it', $mesh, MassProperties::of($mesh))])[0];
        $turn ??= Quaternion::identity();
        $body = $w->addBody(World::STILL, $at->plus($turn->turn($solid->centre)), $turn, 1000.0 * $solid->mass->volume, array_map(static fn (float $v): float => 1000.0 * $v, $solid->mass->inertia));
        foreach ($solid->hulls as $hull) {
            $w->addCollider($body, $hull, Vec3::zero(), 0.5, 0.0, $body);
        }
        $w->measure($solid->hulls);
        $w->release($body, Vec3::zero(), Vec3::zero());

        return $body;
    }

    /**
     * @param  array{Vec3, Quaternion}  $now
     * @param  array{Vec3, Quaternion}  $next  a frame later
     */
    private function drive(World $w, int $body, array $now, array $next): void
    {
        $w->state[$body] = World::KEYED;
        $w->place($body, ...$now);
        [$w->vx[$body], $w->vy[$body], $w->vz[$body]] = $next[0]->minus($now[0])->times(24.0)->toArray();
        [$w->wx[$body], $w->wy[$body], $w->wz[$body]] = $now[1]->rotationTo($next[1])->times(24.0)->toArray();
        $w->step(1 / 24, 3, 4);
    }

    /** @return float its height after so many frames */
    private function after(World $w, int $body, int $frames): float
    {
        for ($f = 0; $f < $frames; $f++) {
            $w->step(1 / 24, 2, 6);
        }

        return $w->py[$body];
    }

    /**
     * A round with a slot below it.
     *
     * @return list<array{float, float}> metres
     */
    private static function keyhole(float $radius, float $half, float $low): array
    {
        $from = asin($half / $radius);
        $out = [];
        for ($k = 0; $k <= 24; $k++) {
            $a = -M_PI / 2.0 + $from + (2.0 * M_PI - 2.0 * $from) * $k / 24;
            $out[] = [$radius * cos($a), $radius * sin($a)];
        }

        return [...$out, [-$half, -$low], [$half, -$low]];
    }

    /** Its middle, where the round of the hole is, at the origin. */
    private static function plate(): Mesh
    {
        return self::cut([
            ['points' => [[-0.2, -0.2], [0.2, -0.2], [0.2, 0.2], [-0.2, 0.2]], 'closed' => true],
            ['points' => array_reverse(self::keyhole(0.04, 0.012, 0.08)), 'closed' => true],
        ], 0.4, 0.02, 0.2);
    }

    private static function key(): Mesh
    {
        return self::cut([['points' => self::keyhole(0.035, 0.01, 0.07), 'closed' => true]], 0.105, 0.1, 0.07);
    }

    /** @param  list<array{points: list<array{float, float}>, closed: bool}>  $lines */
    private static function cut(array $lines, float $size, float $depth, float $low): Mesh
    {
        foreach ($lines as $k => ['points' => $points]) {
            $lines[$k]['points'] = array_map(static fn (array $p): array => [$p[0] / $size, $p[1] / $size], $points);
        }
        $mesh = ShapeCatalogue::mesh('outline', ['outline' => ['unit' => 'box', 'lines' => $lines], 'size' => $size, 'depth' => $depth]);
        $middle = 0.5 * (min($mesh->z) + max($mesh->z));

        return $mesh->movedBy(new Vec3(0, -$low, -$middle));
    }

    /** A tube about y, 0.3 m wide inside and 0.4 m long, with ends that leave a hole of 0.15. */
    private static function drum(): Mesh
    {
        $profile = [[0.15, -0.22], [0.33, -0.22], [0.33, 0.22], [0.15, 0.22], [0.15, 0.2], [0.3, 0.2], [0.3, -0.2], [0.15, -0.2], [0.15, -0.22]];

        return ShapeCatalogue::mesh('lathe', ['profile' => $profile, 'segments' => 48]);
    }
}
