<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Storage\FrameStore;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

/** What is on the disk is a whole frame or not there, whoever wrote it and however that ended. */
final class FrameStoreTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/yard-frames-'.bin2hex(random_bytes(4));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->folder).'*');
    }

    public function test_frames_come_back_in_any_stretch(): void
    {
        $store = $this->filled(40);
        self::assertSame(40, $store->sound(99));
        foreach ([0, 15, 16, 39] as $k) {
            self::assertSame(self::frame($k)->streams, $store->streams($k));
        }
        self::assertSame(strlen($store->records(0, 40)), strlen($store->records(0, 17)) + strlen($store->records(17, 99)));
        self::assertSame('', $store->records(40, 5));
        self::assertSame(range(1001 + 30, 1001 + 39), array_column($store->figures(30), 'frame'));
    }

    public function test_two_who_write_the_same_frames_at_once_leave_each_once(): void
    {
        $one = new FrameStore($this->folder, 1001);
        $two = new FrameStore($this->folder, 1001);
        for ($k = 0; $k < 40; $k += 2) {
            $one->put([self::frame($k), self::frame($k + 1)]);
            // The other is a little behind.
            $two->put(array_map(self::frame(...), range(max(0, $k - 3), $k)));
        }
        $whole = new FrameStore($this->folder.'-whole', 1001);
        $whole->put(array_map(self::frame(...), range(0, 39)));
        self::assertSame(md5($whole->records(0, 40)), md5($one->records(0, 40)));
        self::assertSame(range(1001, 1040), array_column($one->figures(), 'frame'));
    }

    public function test_what_was_being_written_when_it_ended_is_not_there_and_is_written_over(): void
    {
        $store = $this->filled(20);
        $want = $store->records(0, 20);
        // A record without its entry in the index, half an entry, and half a line of figures.
        file_put_contents($this->folder.'/frames-00001', random_bytes(50), FILE_APPEND);
        file_put_contents($this->folder.'/index', 'abc', FILE_APPEND);
        file_put_contents($this->folder.'/figures.jsonl', '{"frame":1021,"mo', FILE_APPEND);
        $again = new FrameStore($this->folder, 1001);
        self::assertSame([20, $want], [$again->sound(99), $again->records(0, 99)]);
        $again->put([self::frame(20), self::frame(21)]);
        self::assertSame(self::frame(21)->streams, $again->streams(21));
        self::assertSame(range(1001, 1022), array_column($again->figures(), 'frame'));
        $this->expectException(Problem::class);
        $again->put([self::frame(30)]);
    }

    public function test_frames_of_another_bake_are_shared_and_never_changed(): void
    {
        $from = $this->filled(40);
        foreach ([9, 25, 33] as $k) {
            $from->keepState(1001 + $k, "state $k");
        }
        $want = $from->records(0, 40);
        $to = new FrameStore($this->folder.'-next', 1001);
        $to->takeFrom($from, 30);
        self::assertSame([30, $from->records(0, 30)], [$to->sound(99), $to->records(0, 99)]);
        self::assertSame(fileinode($this->folder.'/frames-00000'), fileinode($this->folder.'-next/frames-00000'), 'a full file is the same file');
        self::assertNotSame(fileinode($this->folder.'/frames-00001'), fileinode($this->folder.'-next/frames-00001'));
        self::assertSame([1026, 'state 25'], $to->stateUpTo(1030));
        self::assertSame([1010, 'state 9'], $to->stateUpTo(1020));
        self::assertNull($to->stateUpTo(1005));
        self::assertSame(range(1001, 1030), array_column($to->figures(), 'frame'));
        $to->put([self::frame(30, 7.0)]);
        self::assertSame($want, $from->records(0, 40));
        self::assertNotSame($from->streams(30), $to->streams(30));
    }

    public function test_old_states_are_thinned_when_they_take_too_much(): void
    {
        $store = $this->filled(64);
        for ($k = 0; $k < 64; $k++) {
            $store->keepState(1001 + $k, str_repeat('s', 8_000_000));
        }
        $kept = glob($this->folder.'/state-*') ?: [];
        self::assertLessThanOrEqual(256_000_000, array_sum(array_map(filesize(...), $kept)));
        self::assertSame([1064, 1063], [$store->stateUpTo(1064)[0] ?? 0, $store->stateUpTo(1063)[0] ?? 0], 'the latest stay');
        self::assertNotNull($store->stateUpTo(1003), 'and some of the first');
    }

    private function filled(int $frames): FrameStore
    {
        $store = new FrameStore($this->folder, 1001);
        $store->put(array_map(self::frame(...), range(0, $frames - 1)));

        return $store;
    }

    private static function frame(int $k, float $at = 0.0): Frame
    {
        return new Frame(1001 + $k, [0 => [StreamKind::Poses->value => str_repeat(pack('g8', $k, $at, 0, 1, 0, 0, 0, 1), 2 + $k % 3)]], ['released' => ['a' => $k], 'cracks' => [], 'moving' => 1, 'resting' => 0, 'energy' => 0.0, 'overlap' => 0.0, 'grains' => 0, 'work' => ['contacts' => 0.05], 'seconds' => 0.1], []);
    }
}
