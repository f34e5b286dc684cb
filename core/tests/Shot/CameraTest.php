<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Shot;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\Piece;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shape\ShapeCatalogue;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PlateMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\References\OutsideTools;

final class CameraTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        mkdir($this->folder = sys_get_temp_dir().'/yard-camera-'.bin2hex(random_bytes(4)));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /** tan of half the angle is half the film by the focal length: 36 mm of film behind 36 mm see 53.13° wide (value of any textbook on optics). */
    public function test_it_looks_at_its_target_and_sees_as_wide_as_its_lens(): void
    {
        $camera = self::shot()->camera;
        self::assertNotNull($camera);
        $turn = $camera->turn(0);
        $way = $turn->turn(new Vec3(0, 0, -1));
        $want = (new Vec3(-3, -1, -4))->unit();
        self::assertEqualsWithDelta($want->toArray(), $way->toArray(), 1e-12);
        self::assertEqualsWithDelta(0.0, $turn->turn(new Vec3(1, 0, 0))->y, 1e-12, 'the horizon is level');
        self::assertGreaterThan(0.0, $turn->turn(new Vec3(0, 1, 0))->y);
        $wide = 2 * atan(tan($camera->fieldOfView(0) / 2) * $camera->aspect());
        self::assertEqualsWithDelta(53.1301, rad2deg($wide), 1e-3);
        self::assertLessThan($camera->fieldOfView(0), $camera->fieldOfView(24), 'a longer lens sees less');
        // Straight down it still has a way up.
        self::assertEqualsWithDelta(
            [0, -1, 0],
            self::shot(['position' => [0, 5, 0], 'target' => [0, 0, 0]])->camera?->turn(0)->turn(new Vec3(0, 0, -1))->toArray(),
            1e-12,
        );
    }

    public function test_leaning_to_the_right_it_sees_the_world_lean_to_the_left(): void
    {
        $up = self::shot(['roll' => 10])->camera?->turn(0)->inverse()->turn(new Vec3(0, 1, 0)) ?? self::fail('no camera');
        self::assertLessThan(0.0, $up->x, 'what stands upright leans to the left in its picture');
        $flat = self::shot(['position' => [0, 0, 5], 'target' => [0, 0, 0], 'roll' => 10])->camera?->turn(0)->turn(new Vec3(0, 1, 0)) ?? self::fail('no camera');
        self::assertEqualsWithDelta([sin(deg2rad(10)), cos(deg2rad(10)), 0.0], $flat->toArray(), 1e-12);
    }

    /** What a camera sees of a turned and moved prop lines another one up with it: the same place, way, lens and lean. */
    public function test_it_is_lined_up_with_what_it_is_matched_to(): void
    {
        $truth = self::shot(['position' => [3, 2, 5], 'target' => [0.2, 0.8, 0.1], 'focal' => 42, 'roll' => -4])->camera ?? self::fail('no camera');
        $place = new Placement(new Vec3(0.5, 0.2, -0.3), Quaternion::aboutAxis(new Vec3(0, 1, 0), 0.4), 1.5);
        $matches = [];
        foreach ([[0, 0, 0], [1, 0, 0.2], [1, 1, 0], [0.1, 1, -0.5], [0.5, 0.3, 0.9], [0.8, 0.6, -0.8]] as $p) {
            $q = $truth->turn(0)->inverse()->turn($place->point(new Vec3(...$p))->minus($truth->position->at(0)));
            $half = tan($truth->fieldOfView(0) / 2) * -$q->z;
            $matches[] = ['prop' => 'box', 'at' => $p, 'on' => [$truth->shape[0] / 2 + $q->x / $half * $truth->shape[1] / 2, $truth->shape[1] / 2 - $q->y / $half * $truth->shape[1] / 2]];
        }
        $matches[] = ['prop' => 'gone', 'at' => [0, 0, 0], 'on' => [0, 0]];
        $camera = self::shot(['position' => [0, 1, 9], 'target' => [0, 0, 0], 'focal' => 36, 'matches' => $matches])->camera ?? self::fail('no camera');
        $found = $camera->linedUp(0.0, static fn (string $prop): ?Placement => $prop === 'box' ? $place : null);
        self::assertEqualsWithDelta([3, 2, 5], $found['position'], 1e-3);
        self::assertEqualsWithDelta([42.0, -4.0], [$found['focal'], $found['roll']], 1e-3);
        self::assertLessThan(0.1, $found['residual']);
        self::assertSame([true, true, true, true, true, true, false], array_map(static fn (?float $left): bool => $left !== null, $found['left']));
        $again = self::shot(['position' => $found['position'], 'target' => $found['target'], 'focal' => $found['focal'], 'roll' => $found['roll']])->camera ?? self::fail('no camera');
        self::assertEqualsWithDelta($truth->turn(0)->turn(new Vec3(1, 0, 0))->toArray(), $again->turn(0)->turn(new Vec3(1, 0, 0))->toArray(), 1e-5);
    }

    public function test_a_camera_that_stands_in_what_it_looks_at_is_refused(): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage('looks nowhere');
        self::shot(['position' => [1, 2, 3], 'target' => [1, 2, 3]]);
    }

    public function test_a_camera_that_passes_through_what_it_looks_at_is_refused_with_the_frame(): void
    {
        // Halfway between two keys, where neither has one.
        $keys = static fn (float $from, float $to): array => ['keys' => [
            ['frame' => 4, 'value' => $from, 'ease' => 'linear'],
            ['frame' => 24, 'value' => $to],
        ]];
        try {
            self::shot(['position' => [$keys(-2, 2), 0.5, 0], 'target' => [0, 0.5, 0]]);
            self::fail('It was taken.');
        } catch (Problem $e) {
            self::assertSame('camera.target', $e->path);
            self::assertStringContainsString('At frame 14 ', $e->getMessage());
        }
        // What it looks at runs away before it, and one that passes a hand's breadth beside it, are cameras.
        self::assertNotNull(self::shot(['position' => [$keys(-2, 2), 0.5, 0], 'target' => [$keys(-1, 3), 0.5, 0]])->camera);
        self::assertNotNull(self::shot(['position' => [$keys(-2, 2), 0.5, 0.1], 'target' => [0, 0.5, 0]])->camera);
    }

    public function test_a_number_out_of_all_range_is_said_in_few_digits(): void
    {
        try {
            self::shot(['focal' => 1e308]);
            self::fail('It was taken.');
        } catch (Problem $e) {
            self::assertStringContainsString('e+308', $e->getMessage());
            self::assertLessThan(200, strlen($e->getMessage()));
        }
    }

    public function test_it_leaves_with_its_motion_in_a_glb_the_khronos_validator_takes(): void
    {
        $mesh = ShapeCatalogue::mesh('box', []);
        $frames = [0 => [StreamKind::Poses->value => pack('g8', 0, 0.5, 0, 0, 0, 0, 0, 1)]];
        $none = new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        };
        $writer = new HandOff(
            self::shot(),
            [new Piece('Block', 0, 0, new Shard('whole', $mesh, MassProperties::of($mesh)))],
            $none,
            25,
            static fn (int $k): array => $frames,
        );
        $writer->write('glb', 0, $path = $this->folder.'/shot.glb');
        $report = OutsideTools::node('validate.mjs', $path);
        self::assertSame([0, 0], [$report['errors'], $report['warnings']], json_encode($report) ?: '');
        $bytes = (string) file_get_contents($path);
        $json = json_decode(substr($bytes, 20, unpack('V', $bytes, 12)[1] ?? 0), true);
        self::assertSame(['perspective', 2], [$json['cameras'][0]['type'], count($json['nodes'])]);
        self::assertEqualsWithDelta(2 * atan(18 / 36 / (16 / 9)), $json['cameras'][0]['perspective']['yfov'], 1e-6);
        self::assertSame(
            [['node' => 1, 'path' => 'translation'], ['node' => 1, 'path' => 'rotation']],
            array_column($json['animations'][0]['channels'], 'target'),
        );
    }

    public function test_pictures_become_a_plate_by_their_numbers_and_what_is_wrong_is_named(): void
    {
        foreach (['a' => [64, 36], 'b' => [64, 36], 'c' => [32, 36]] as $name => [$w, $h]) {
            $image = imagecreatetruecolor(max(1, $w), max(1, $h));
            assert($image !== false);
            imagepng($image, $this->folder.'/'.$name);
        }
        file_put_contents($this->folder.'/d', 'no picture');
        $make = fn (array $files): array => PlateMaker::of($files, fn (string $asset): string => $this->folder.'/'.$asset);
        $file = static fn (string $name, string $asset): array => ['name' => $name, 'asset' => $asset];
        $made = $make([$file('shed_v2.1003.png', 'b'), $file('shed_v2.1001.png', 'a'), $file('shed_v2.1006.png', 'a')]);
        self::assertSame(
            [
                'name' => 'shed_v2',
                'width' => 64,
                'height' => 36,
                'frames' => [['frame' => 1001, 'asset' => 'a'], ['frame' => 1003, 'asset' => 'b'], ['frame' => 1006, 'asset' => 'a']],
            ],
            $made['plate'],
        );
        self::assertSame([1002, 1004, 1005], $made['missing']);
        self::assertSame(0, $make([$file('one.png', 'a')])['plate']['frames'][0]['frame'], 'a single one needs no number');
        foreach ([
            ['32 × 36', [$file('p.1.png', 'a'), $file('p.2.png', 'c')]],
            ['no number', [$file('p.1.png', 'a'), $file('last.png', 'b')]],
            ['Two pictures have the number 1', [$file('p.1.png', 'a'), $file('q.001.png', 'b')]],
            ['no picture', [$file('p.1.png', 'a'), $file('p.2.png', 'd')]],
            ['between 1 and', []],
        ] as [$words, $files]) {
            try {
                $make($files);
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertStringContainsString($words, $e->getMessage());
            }
        }
    }

    /** @param  array<string, mixed>  $with */
    private static function shot(array $with = []): ShotSpec
    {
        return ShotSpec::fromJson(Documents::json(static function (array $d) use ($with): array {
            $d['camera'] = $with + [
                'position' => [['keys' => [['frame' => 0, 'value' => 3], ['frame' => 24, 'value' => 4]]], 1.5, 4],
                'target' => [0, 0.5, 0],
                'focal' => ['keys' => [['frame' => 0, 'value' => 36], ['frame' => 24, 'value' => 85]]],
                'film' => 36,
                'shape' => [1920, 1080],
            ];

            return $d;
        }));
    }
}
