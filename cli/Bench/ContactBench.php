<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Force\Effect;
use YardBreak\Core\Force\Instant;
use YardBreak\Core\Force\Turbulence;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Rigid\Blown;
use YardBreak\Core\Rigid\Sail;
use YardBreak\Core\Rigid\World;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\SilentProgress;
use YardBreak\Core\Timing\Values;

/**
 * What contact with true shapes costs beside what is simpler, in seconds of the processor: 1,000 shards dropped on a bumpy
 * terrain of 50,000 triangles beside the plane, and 48 letters as convex parts beside one hull each; and what forces on these
 * shards cost beside the frames of their fall.
 */
final class ContactBench implements Benchmark
{
    private const FRAMES = 72;

    private const DENSITY = 2000.0;

    /** Letters swing from run to run. */
    private const RUNS = ['terrain' => 2, 'letters' => 10];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            return [$this->measured($settings['case'])];
        }

        return array_map(static fn (string $case): array => OwnProcess::row('contact', $case), ['terrain', 'letters', 'forces']);
    }

    /** @return array<string, int|float|string|bool> */
    private function measured(string $case): array
    {
        if ($case === 'forces') {
            return self::forces();
        }
        $ours = $simple = INF;
        $rest = 0;
        $pieces = 1;
        [$true, $plain] = $case === 'terrain' ? [self::terrain(self::heap(), true), self::terrain(self::heap(), false)] : [self::letters(Solid::PARTS), self::letters(Solid::HULL)];
        for ($run = 0; $run < self::RUNS[$case]; $run++) {
            $world = $true();
            $ours = min($ours, self::seconds($world));
            $pieces = count(array_filter($world->state, static fn (int $s): bool => $s === World::MOVING || $s === World::RESTING));
            $rest = count(array_keys($world->state, World::RESTING, true));
            $simple = min($simple, self::seconds($plain()));
        }

        return ['case' => $case, 'pieces' => $pieces, 's_a_frame' => round($ours / self::FRAMES, 4), 'simpler_s_a_frame' => round($simple / self::FRAMES, 4), 'ratio' => round($ours / $simple, 2), 'at_rest' => round($rest / $pieces, 3)];
    }

    /** @return array<string, int|float|string|bool> */
    private static function forces(): array
    {
        $heap = self::heap();
        $sails = array_map(static fn (Solid $s): Sail => Sail::of(array_map(static fn (Hull $h): array => [$h, Vec3::zero()], $s->hulls)), $heap);
        $forces = [Wind::of(Values::of(Wind::options(), ['gusts' => 0.5])->at(0.0)), Turbulence::of(Values::of(Turbulence::options(), [])->at(0.0))];
        $world = self::terrain($heap, false)();
        $blown = new Blown;
        $bodies = array_keys($world->state);
        $n = count($bodies);
        $spent = $all = 0.0;
        for ($f = 0; $f < self::FRAMES; $f++) {
            $start = OwnProcess::spent();
            // As often as contacts are looked for.
            for ($k = 0, $searches = $world->effort(1 / 24, 2, 6)[0]; $k < $searches; $k++) {
                $effect = new Effect($world->px, $world->py, $world->pz);
                foreach ($forces as $force) {
                    $force->on($effect, new Instant($f + $k / $searches, 0, 1 / 24), array_fill(0, $n, 0.2));
                }
                $blown->by($world, $effect, $bodies, $sails, array_fill(0, $n, 1.0), 1.0, array_fill(0, $n, 0.5), array_fill(0, $n, self::DENSITY), 1 / 24 / $searches);
            }
            $spent += OwnProcess::spent() - $start;
            $start = OwnProcess::spent();
            $world->step(1 / 24, 2, 6);
            $all += OwnProcess::spent() - $start;
        }

        return ['case' => 'forces', 'pieces' => $n, 's_a_frame' => round($spent / self::FRAMES, 4), 'rigid_s_a_frame' => round($all / self::FRAMES, 4), 'ratio' => round($spent / $all, 3)];
    }

    private static function seconds(World $world): float
    {
        $start = OwnProcess::spent();
        for ($f = 0; $f < self::FRAMES; $f++) {
            $world->step(1 / 24, 2, 6);
        }

        return OwnProcess::spent() - $start;
    }

    /** @return list<Solid> */
    private static function heap(): array
    {
        $box = ShapeCatalogue::mesh('box', ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0]);

        return Solid::free((new Cells(1000, 7))->break($box->withNormals(FaceNormals::flat($box)), new SilentProgress), Solid::HULL);
    }

    /**
     * @param  list<Solid>  $heap
     * @return \Closure(): World
     */
    private static function terrain(array $heap, bool $bumpy): \Closure
    {
        $surface = $bumpy ? new ContactSurface(self::bumps()) : null;

        return static function () use ($heap, $surface): World {
            $world = new World;
            if ($surface !== null) {
                $world->ground = null;
                $world->addSurface($world->addBody(World::STILL, Vec3::zero(), Quaternion::identity(), 0.0, [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]), $surface, 0.5, 0.1, 0);
            }
            foreach ($heap as $solid) {
                self::drop($world, $solid, new Vec3(0.0, 0.4, 0.0), 1);
            }
            $world->measure(array_merge(...array_map(static fn (Solid $s): array => $s->hulls, $heap)));
            $world->forgiveOverlaps();

            return $world;
        };
    }

    /** A sheet of 8 m, in about 50,000 triangles, with bumps of a few centimetres. */
    private static function bumps(): Mesh
    {
        $n = 158;
        $x = $y = $z = $faces = [];
        for ($i = 0; $i <= $n; $i++) {
            for ($k = 0; $k <= $n; $k++) {
                $x[] = $u = 8.0 * $i / $n - 4.0;
                $z[] = $v = 8.0 * $k / $n - 4.0;
                $y[] = 0.04 * sin(3.1 * $u + 0.4) * cos(2.7 * $v) + 0.015 * sin(9.0 * $u) * sin(8.0 * $v);
                if ($i < $n && $k < $n) {
                    $a = $i * ($n + 1) + $k;
                    array_push($faces, $a, $a + 1, $a + $n + 1, $a + 1, $a + $n + 2, $a + $n + 1);
                }
            }
        }

        return new Mesh($x, $y, $z, $faces);
    }

    /** @return \Closure(): World */
    private static function letters(string $shape): \Closure
    {
        $letters = [];
        foreach (mb_str_split('YARDBRELOSNH') as $letter) {
            $letters[] = Solid::free([PropMaker::asOne(ShapeCatalogue::mesh('text', ['text' => $letter, 'height' => 0.3]))], $shape)[0];
        }

        return static function () use ($letters): World {
            $world = new World;
            $hulls = [];
            for ($k = 0; $k < 48; $k++) {
                $solid = $letters[$k % count($letters)];
                self::drop($world, $solid, (new Vec3(0.35 * ($k % 4), 0.3 + 0.4 * intdiv($k, 8), 0.3 * (intdiv($k, 4) % 2)))->minus($solid->centre), $k + 1);
                array_push($hulls, ...$solid->hulls);
            }
            $world->measure($hulls);

            return $world;
        };
    }

    private static function drop(World $world, Solid $solid, Vec3 $by, int $group): void
    {
        $body = $world->addBody(World::STILL, $solid->centre->plus($by), Quaternion::identity(), $solid->mass->volume * self::DENSITY, array_map(static fn (float $v): float => $v * self::DENSITY, $solid->mass->inertia), $group);
        foreach ($solid->hulls as $hull) {
            $world->addCollider($body, $hull, Vec3::zero(), 0.5, 0.1, $group);
        }
        $world->release($body, Vec3::zero(), Vec3::zero());
    }
}
