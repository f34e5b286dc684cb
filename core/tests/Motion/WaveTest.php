<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\ShotSpec;

/** A mover that stands in the tests alone: released, baked, taken up again, told apart by its settings, and handed off. */
final class WaveTest extends TestCase
{
    public function test_it_is_let_go_and_baked(): void
    {
        [$shot, $shards, $frames] = self::baked();
        foreach ($frames as $k => $frame) {
            self::assertSame($k >= Waves::RELEASED ? 3 : 0, $frame->figures['released']['block']);
            self::assertPoints(Waves::points($shards['block'], $k), $frame->stream(0, StreamKind::Points), "frame $k");
        }
        self::assertCount($shot->last + 1, $frames);
    }

    public function test_it_is_taken_up_again_from_any_state_as_if_never_left(): void
    {
        [$shot, $shards] = self::made();
        $ready = Waves::ready($shot, $shards);
        $bytes = static fn (iterable $frames): array => array_map(
            static fn (Frame $f): string => FrameRecord::encode($f->number, $f->streams),
            iterator_to_array($frames),
        );
        self::assertSame($bytes($ready->frames()), $bytes($ready->frames(static fn (): bool => true)));
    }

    public function test_a_key_of_its_settings_keeps_the_frames_before_it(): void
    {
        $keyed = static fn (float $last): ShotSpec => Waves::shot(['height' => ['keys' => [
            ['frame' => 0, 'value' => 0.2],
            ['frame' => 6, 'value' => 0.2],
            ['frame' => 9, 'value' => $last],
        ]]]);
        $one = History::of($keyed(0.5));
        self::assertSame(7, $one->shares(History::of($keyed(0.9)), 99));
        self::assertSame(0, $one->shares(History::of(Waves::shot(['height' => 0.2, 'length' => 0.9])), 99));
    }

    public function test_an_obj_of_each_frame_has_the_points_where_they_are(): void
    {
        [$shot, $shards, $frames] = self::baked();
        $out = self::handOff($shot, $shards, $frames);
        $path = (string) tempnam(sys_get_temp_dir(), 'wave');
        try {
            $out->write('obj', 9, $path);
            preg_match_all('/^v (\S+) (\S+) (\S+)/m', (string) file_get_contents($path), $found, PREG_SET_ORDER);
        } finally {
            unlink($path);
        }
        foreach (Waves::points($shards['block'], 9) as $i => $want) {
            self::assertEqualsWithDelta($want, array_map(floatval(...), array_slice($found[$i], 1)), 2e-6, "point $i");
        }
    }

    public function test_a_glb_has_a_morph_target_for_each_shape_and_plays_them(): void
    {
        [$shot, $shards, $frames] = self::baked();
        $path = (string) tempnam(sys_get_temp_dir(), 'wave');
        try {
            self::handOff($shot, $shards, $frames)->write('glb', 0, $path);
            $glb = (string) file_get_contents($path);
        } finally {
            unlink($path);
        }
        $length = (unpack('V', $glb, 12) ?: [1 => 0])[1];
        $json = json_decode(substr($glb, 20, $length), true);
        $floats = static function (int $accessor) use ($json, $glb, $length): array {
            $view = $json['bufferViews'][$json['accessors'][$accessor]['bufferView']];

            return array_values(unpack('g*', substr($glb, 28 + $length + $view['byteOffset'], $view['byteLength'])) ?: []);
        };
        $want = Waves::points($shards['block'], 8);
        $first = 0;
        foreach ($shards['block'] as $i => $shard) {
            $mesh = $json['meshes'][$i];
            // All frames before the waves begin share one shape; from then on each has its own.
            self::assertCount(Waves::LAST + 1 - Waves::RELEASED + 1, $mesh['primitives'][0]['targets'], 'shapes');
            $channel = array_values(array_filter(
                $json['animations'][0]['channels'],
                static fn (array $c): bool => $c['target'] === ['node' => $i, 'path' => 'weights'],
            ))[0];
            $shares = array_chunk($floats($json['animations'][0]['samplers'][$channel['sampler']]['output']), count($mesh['primitives'][0]['targets']));
            self::assertCount(Waves::LAST + 1, $shares);
            self::assertSame(1.0, array_sum($shares[8]));
            $shape = (int) array_search(1.0, $shares[8], true);
            $node = $json['nodes'][$i];
            $turn = new Quaternion(...$node['rotation']);
            $own = array_slice($want, $first, $shard->mesh->vertexCount());
            $first += $shard->mesh->vertexCount();
            foreach ($mesh['primitives'] as $primitive) {
                $base = $floats($primitive['attributes']['POSITION']);
                $by = $floats($primitive['targets'][$shape]['POSITION']);
                $normal = $floats($primitive['attributes']['NORMAL']);
                $turned = $floats($primitive['targets'][$shape]['NORMAL']);
                for ($k = 0, $n = count($base); $k < $n; $k += 3) {
                    $at = $turn->turn(new Vec3(
                        $base[$k] + $by[$k],
                        $base[$k + 1] + $by[$k + 1],
                        $base[$k + 2] + $by[$k + 2],
                    ))->plus(new Vec3(...$node['translation']));
                    $near = min(array_map(static fn (array $p): float => $at->minus(new Vec3(...$p))->length(), $own));
                    self::assertLessThan(3e-6, $near);
                    self::assertEqualsWithDelta(
                        1.0,
                        (new Vec3($normal[$k] + $turned[$k], $normal[$k + 1] + $turned[$k + 1], $normal[$k + 2] + $turned[$k + 2]))->length(),
                        1e-5,
                        'length of a normal',
                    );
                }
            }
        }
    }

    public function test_what_a_format_leaves_of_it_is_said(): void
    {
        $shot = Waves::shot();
        self::assertSame([], HandOff::leftOut($shot, 'glb'));
        self::assertSame(['Block: its surface is as it was made.'], HandOff::leftOut($shot, 'stl'));
    }

    /** @return array{ShotSpec, array<string, list<\YardBreak\Core\Break\Shard>>} */
    private static function made(): array
    {
        $shot = Waves::shot();

        return [$shot, Waves::shards($shot)];
    }

    /** @return array{ShotSpec, array<string, list<\YardBreak\Core\Break\Shard>>, list<Frame>} */
    private static function baked(): array
    {
        [$shot, $shards] = self::made();

        return [$shot, $shards, iterator_to_array(Waves::ready($shot, $shards)->frames(), false)];
    }

    /**
     * @param  array<string, list<\YardBreak\Core\Break\Shard>>  $shards
     * @param  list<Frame>  $frames
     */
    private static function handOff(ShotSpec $shot, array $shards, array $frames): HandOff
    {
        return new HandOff($shot, Baker::pieces($shot, $shards), Waves::assets(), count($frames), static fn (int $k): array => $frames[$k]->streams);
    }

    /** @param  list<array{float, float, float}>  $want */
    private static function assertPoints(array $want, string $stream, string $message): void
    {
        self::assertEqualsWithDelta(array_merge(...$want), array_values(unpack('g*', $stream) ?: []), 1e-6, $message);
    }
}
