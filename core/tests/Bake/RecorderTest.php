<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Recorder;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\Tests\Shot\Documents;

/** Only what is not the usual is written. */
final class RecorderTest extends TestCase
{
    public function test_a_prop_that_looks_as_always_writes_nothing(): void
    {
        self::assertSame([], self::streams([], [], 5));
    }

    public function test_roughness_and_tint_are_written_as_they_are_on_the_frame(): void
    {
        $keys = static fn (float $from, float $to): array => ['keys' => [['frame' => 0, 'value' => $from], ['frame' => 10, 'value' => $to]]];
        foreach ([
            [['roughness' => $keys(0.2, 0.6)], [0.4, 0.0]],
            [['tint' => $keys(0.0, 1.0), 'tintColour' => '#203040'], [-1.0, 0.5]],
            [['roughness' => 0.3, 'tint' => $keys(0.0, 1.0), 'tintColour' => '#203040'], [0.3, 0.5]],
        ] as [$material, $want]) {
            $streams = self::streams($material, [], 5);
            self::assertSame([StreamKind::Looks->value], array_keys($streams));
            self::assertEqualsWithDelta($want, array_values(unpack('g2', $streams[StreamKind::Looks->value]) ?: []), 1e-6);
        }
    }

    public function test_what_is_not_shown_is_written(): void
    {
        $seen = ['keys' => [['frame' => 0, 'value' => 1, 'ease' => 'hold'], ['frame' => 5, 'value' => 0]]];
        self::assertSame([], self::streams([], ['seen' => $seen], 4));
        self::assertSame([StreamKind::Visibility->value => "\0"], self::streams([], ['seen' => $seen], 5));
    }

    /**
     * @param  array<string, mixed>  $material
     * @param  array<string, mixed>  $place
     * @return array<int, string> by kind
     */
    private static function streams(array $material, array $place, int $number): array
    {
        $shot = ShotSpec::fromJson(Documents::json(static function (array $d) use ($material, $place): array {
            $d['props'][0]['material'] += $material;
            $d['props'][0]['place'] += $place;

            return $d;
        }));
        Recorder::write($shot, $frame = new FrameWriter($number));

        return $frame->streams()[0] ?? [];
    }
}
