<?php

declare(strict_types=1);

namespace YardBreak\Cli\Bench;

use YardBreak\Cli\LocalAssets;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Break\Cells\Cells;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Prepare\PrepareCatalogue;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\BreakCatalogue;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/**
 * The main computations under several settings of PHP's compiler: how long they take, and whether all come to the same
 * bytes as without it.
 */
final class CompilerBench implements Benchmark
{
    /** From the safest to the one that gambles most: off; then without, with local and with global allocation of registers, by function and by trace. */
    public const SETTINGS = ['off', '1035', '1135', '1235', '1055', '1155', '1255'];

    private const WORKS = ['cells', 'halving', 'flakes', 'strike', 'courses', 'punch', 'remesh', 'bake'];

    public function rows(array $settings): array
    {
        if (isset($settings['case'])) {
            [$work, $size] = explode(':', $settings['case']) + [1 => 'small'];
            $start = hrtime(true);
            $digest = self::digest($work, $size === 'large');

            return [['work' => $work, 'seconds' => (hrtime(true) - $start) / 1e9, 'digest' => $digest]];
        }
        $rows = [];
        foreach ([...self::WORKS, 'rigid'] as $work) {
            $row = [];
            $digests = [];
            foreach (self::SETTINGS as $jit) {
                $seconds = INF;
                for ($run = 0; $run < 2; $run++) {
                    $one = OwnProcess::row('compiler', $work.':large', $jit);
                    $seconds = min($seconds, (float) $one['seconds']);
                    $digests[(string) $one['digest']] = true;
                }
                $row['jit_'.$jit] = round($seconds, 2);
            }
            $rows[] = ['work' => $work, 'same_bytes' => count($digests) === 1] + $row;
        }

        return $rows;
    }

    /** @return list<string> works small enough for a check */
    public static function works(): array
    {
        return self::WORKS;
    }

    private static function digest(string $work, bool $large): string
    {
        return match ($work) {
            'bake' => self::bake($large ? 'glass-pane' : 'terracotta-jar', $large ? 40 : 16),
            'rigid' => self::rigid(2000, 30),
            'remesh' => self::ofMeshes([PrepareCatalogue::apply(self::ball($large ? 40 : 10), [['step' => 'remesh', 'values' => ['faces' => $large ? 20000 : 1500]]])]),
            'cells' => self::ofShards((new Cells($large ? 1000 : 60, 3))->break(FaceNormals::shaded(ShapeCatalogue::mesh('ring', ['segments' => $large ? 200 : 48, 'rows' => $large ? 50 : 16])), new SilentProgress)),
            'halving' => self::pattern('halving', ['passes' => $large ? 7 : 4, 'roughness' => 0.5], self::slab()),
            'flakes' => self::pattern('flakes', ['faces' => 12, 'thickness' => 0.002], self::ball($large ? 48 : 12)),
            'strike' => self::pattern('strike', ['rays' => 24, 'rings' => $large ? 14 : 6], self::slab()),
            'courses' => self::pattern('courses', [], self::slab()),
            'punch' => self::pattern('punch', ['radius' => 0.2, 'roughness' => 0.6], self::slab()),
            default => throw Problem::inValue('case', 'There is no work called "'.$work.'".', 'Choose one of: '.implode(', ', [...self::WORKS, 'rigid']).'.'),
        };
    }

    /** @param  array<string, mixed>  $values */
    private static function pattern(string $name, array $values, Mesh $mesh): string
    {
        return self::ofShards(BreakCatalogue::make($name, $values)->break(FaceNormals::shaded($mesh), new SilentProgress));
    }

    private static function slab(): Mesh
    {
        return ShapeCatalogue::mesh('sheet', ['width' => 1.4, 'height' => 0.9, 'thickness' => 0.1, 'segments' => 8]);
    }

    private static function ball(int $detail): Mesh
    {
        return ShapeCatalogue::mesh('ball', ['radius' => 0.4, 'detail' => $detail]);
    }

    private static function bake(string $demo, int $frames): string
    {
        $shot = ShotSpec::fromJson((string) file_get_contents(dirname(__DIR__, 2).'/resources/demo/'.$demo.'.json'));
        $maker = new PropMaker(new LocalAssets(sys_get_temp_dir()));
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }
        $baker = Baker::of($shot, $shards);
        $hash = hash_init('sha256');
        hash_update($hash, serialize($baker->firstFrame()->streams));
        for ($f = 1; $f < $frames; $f++) {
            hash_update($hash, serialize($baker->nextFrame()->streams));
        }

        return hash_final($hash);
    }

    private static function rigid(int $count, int $frames): string
    {
        [$world] = RigidBench::scene($count);
        for ($f = 0; $f < $frames; $f++) {
            $world->step(1 / 24, 2, 6);
        }

        return hash('sha256', pack('e*', ...$world->px, ...$world->py, ...$world->pz, ...$world->qw));
    }

    /** @param  list<Shard>  $shards */
    private static function ofShards(array $shards): string
    {
        return self::ofMeshes(array_map(static fn (Shard $s): Mesh => $s->mesh, $shards));
    }

    /** @param  list<Mesh>  $meshes */
    private static function ofMeshes(array $meshes): string
    {
        $hash = hash_init('sha256');
        foreach ($meshes as $m) {
            hash_update($hash, pack('e*', ...$m->x, ...$m->y, ...$m->z, ...$m->normals ?? []).pack('V*', ...$m->faces));
        }

        return hash_final($hash);
    }
}
