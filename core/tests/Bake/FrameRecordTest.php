<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

final class FrameRecordTest extends TestCase
{
    public function test_streams_of_every_kind_come_back_as_they_were_written(): void
    {
        $writer = new FrameWriter(-7);
        $writer->put(3, StreamKind::Shares, pack('g', 0.25));
        $writer->put(0, StreamKind::Poses, pack('g16', ...range(1, 16)));
        $writer->put(1, StreamKind::Points, pack('g9', ...range(1, 9)));
        // Two points whose relief stands out by a centimetre in full.
        $writer->put(2, StreamKind::Skin, pack('g', 0.01)."\0\xff\x80\xff\xff\0");
        $writer->put(2, StreamKind::Corners, pack('g3', 7, 8, 9));
        $writer->put(0, StreamKind::Sizes, pack('g2', 0.5, 1.0));
        $writer->put(0, StreamKind::Visibility, "\1");
        $writer->put(0, StreamKind::Looks, pack('g2', 0.3, 0.9));
        $bytes = FrameRecord::encode(-7, $writer->streams());
        [$frame, $streams] = FrameRecord::decode($bytes);
        self::assertSame(-7, $frame);
        self::assertSame($writer->streams(), $streams);
        self::assertSame([0, 1, 2, 3], array_keys($streams), 'in the order of the props, however they were put');
        // As anybody can read it: mark, length, number, streams; then 16 bytes a stream.
        $head = unpack('a4mark/Vlength/lframe/Vcount', $bytes) ?: [];
        self::assertSame(['mark' => 'YBF1', 'length' => strlen($bytes), 'frame' => -7, 'count' => 8], $head);
        $skin = array_values(array_filter(
            array_map(static fn (int $k): array => unpack('vprop/vkind/Vitems/Vat/Vlength', $bytes, 16 + 16 * $k) ?: [], range(0, 7)),
            static fn (array $e): bool => $e['kind'] === StreamKind::Skin->value,
        ))[0];
        self::assertSame([2, 2, 10, 0], [$skin['prop'], $skin['items'], $skin['length'], $skin['at'] % 4]);
    }

    public function test_what_is_damaged_or_not_known_is_refused(): void
    {
        $good = FrameRecord::encode(1, [0 => [StreamKind::Poses->value => str_repeat("\0", 64)]]);
        $wrong = [
            'cut' => substr($good, 0, -1), 'more' => $good.'x', 'empty' => '', 'another mark' => 'YBF2'.substr($good, 4),
            'a kind of a later version' => substr_replace($good, pack('v', 99), 18, 2),
            'more streams than there is room for' => substr_replace($good, pack('V', 9), 12, 4),
            'a stream that leaves the record' => substr_replace($good, pack('V', 60), 24, 4),
            'another count' => substr_replace($good, pack('V', 1), 20, 4),
        ];
        foreach ($wrong as $name => $bytes) {
            try {
                FrameRecord::decode($bytes);
                self::fail($name.' was taken');
            } catch (Problem $e) {
                self::assertSame($name === 'a kind of a later version' ? Problem::DISK : Problem::DAMAGED, $e->kind);
            }
        }
    }

    public function test_half_an_item_or_a_second_stream_of_a_kind_is_no_frame(): void
    {
        foreach ([[['Poses', str_repeat("\0", 31)]], [['Skin', 'abc']], [['Sizes', 'abcd'], ['Sizes', 'abcd']]] as $puts) {
            $writer = new FrameWriter(0);
            try {
                foreach ($puts as [$kind, $bytes]) {
                    $writer->put(0, constant(StreamKind::class.'::'.$kind), $bytes);
                }
                self::fail('it was taken');
            } catch (Problem $e) {
                self::assertSame('stream', $e->kind);
            }
        }
    }
}
