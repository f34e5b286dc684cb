<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Shot;
use App\Yard\StoredParts;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\MapRun;
use ZipArchive;

/** What weight maps decide without a bake, as the page asks for it, and as it leaves with a hand-off. */
final class EvaluatedTest extends YardTestCase
{
    private string $id = '';

    private int $revision = 0;

    public function test_a_drifting_prop_is_worked_out_frame_by_frame_without_a_bake(): void
    {
        $this->board(['motion' => self::drift()]);
        $told = $this->evaluated();
        self::assertSame(['board'], array_keys($told), 'nothing of the other prop is evaluated');
        self::assertNull($told['board']['problem']);
        self::assertCount(25, $told['board']['keys']);
        $run = new Evaluation(new MapRun(Shot::query()->findOrFail($this->id)->spec(), $this->app->make(StoredParts::class)));
        foreach ([0, 12, 24] as $frame) {
            self::assertSame(FrameRecord::encode($frame, [0 => $run->streams('board', $frame)]), self::bytes($this->send('GET', 'maps/frames/'.$told['board']['keys'][$frame])));
        }
        // At first all are in their places, at last each is two metres above.
        self::assertEqualsWithDelta([1.0, 1.0, 1.0, 1.0], $this->heights($told['board']['keys'][0]), 1e-6);
        self::assertEqualsWithDelta([3.0, 3.0, 3.0, 3.0], $this->heights($told['board']['keys'][24]), 1e-6);
        $this->send('GET', "shots/$this->id/bake")->assertOk()->assertJsonPath('bake', null);
    }

    /** Held against others, a bake is shown with what maps decided then, whatever the shot has become; so is a variant of a trial. */
    public function test_what_maps_decide_beside_a_bake_is_as_the_shot_was_baked(): void
    {
        $this->board(['motion' => self::drift()]);
        $this->change([['op' => 'replace', 'path' => '/props/1/motion', 'value' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]]]);
        $now = $this->evaluated()['board']['keys'];
        $bake = $this->send('POST', "shots/$this->id/bakes")->assertCreated()->json('bake.id');
        $this->change([['op' => 'replace', 'path' => '/props/0/motion/drift/moves/0/values/by', 'value' => [0, 5, 0]]]);
        self::assertSame($now, $this->evaluated($bake)['board']['keys']);
        self::assertEqualsWithDelta([3.0, 3.0, 3.0, 3.0], $this->heights($this->evaluated($bake)['board']['keys'][24]), 1e-6);
        $trial = $this->send('POST', "shots/$this->id/trials", ['axes' => [['path' => '/props/0/motion/drift/moves/0/values/by/1', 'values' => '3, 4']]])->assertCreated()->json('id');
        $variants = $this->get("/api/trials/$trial")->assertOk()->json('variants');
        foreach ([0 => 4.0, 1 => 5.0] as $k => $height) {
            $told = $this->evaluated($variants[$k]['bake']['id'])['board'];
            self::assertNotContains(null, $told['keys'], 'all of it is worked out');
            self::assertEqualsWithDelta(array_fill(0, 4, $height), $this->heights($told['keys'][24]), 1e-6);
        }
    }

    public function test_after_an_edit_only_changed_frames_are_worked_out_again_and_faults_are_said(): void
    {
        $this->board(['motion' => self::drift()]);
        $before = $this->evaluated()['board']['keys'];
        $this->change([['op' => 'add', 'path' => '/props/0/weights/0/sources/0/values/point/0/keys/2', 'value' => ['frame' => 30, 'value' => 9]]]);
        self::assertSame($before, $this->evaluated()['board']['keys'], 'a key after the end');
        $this->change([['op' => 'replace', 'path' => '/props/0/motion/drift/moves/0', 'value' => ['move' => 'path', 'values' => ['kind' => 'line', 'points' => [[0, 0, 0]]]]]]);
        $told = $this->evaluated()['board'];
        self::assertSame('A path of one point leads nowhere.', $told['problem']['message'] ?? '');
        self::assertSame('props[0].motion.drift.moves[0].values.points', $told['problem']['path']);
    }

    /** The page shows it as the bake has it: the touch that only physics decides is where the last bake found it. */
    public function test_a_drift_tied_to_a_touch_the_bake_finds_is_where_the_bake_has_it(): void
    {
        $this->board(['motion' => self::drift()]);
        $keys = ['keys' => [['frame' => 0, 'value' => -1], ['cue' => 'land', 'offset' => 0, 'value' => -1], ['cue' => 'land', 'offset' => 8, 'value' => 1]]];
        $this->change([
            ['op' => 'add', 'path' => '/cues', 'value' => [['id' => 'land', 'name' => 'Land', 'at' => ['on' => 'touch', 'one' => 'other', 'other' => 'ground']]]],
            ['op' => 'replace', 'path' => '/props/1/motion', 'value' => ['kind' => 'free', 'release' => ['on' => 'frame', 'frame' => 0]]],
            ['op' => 'replace', 'path' => '/props/0/weights/0/sources/0/values/point/0', 'value' => $keys],
        ]);
        $this->evaluated();
        $this->send('POST', "shots/$this->id/bakes")->assertCreated();
        /** @var Bake $bake */
        $bake = Shot::query()->findOrFail($this->id)->bakes()->firstOrFail();
        $land = (int) $bake->anchored['land'];
        self::assertGreaterThan(3, $land);
        $told = $this->evaluated()['board']['keys'];
        foreach ([0 => 1.0, $land => 1.0, $land + 8 => 3.0, 24 => 3.0] as $frame => $height) {
            self::assertEqualsWithDelta(array_fill(0, 4, $height), $this->heights($told[$frame]), 1e-6, "evaluated at $frame");
            $baked = array_values(unpack('g*', $bake->files()->streams($frame)[0][StreamKind::Poses->value]) ?: []);
            self::assertEqualsWithDelta($height, $baked[1], 1e-6, "baked at $frame");
        }
    }

    public function test_the_order_of_release_by_a_map_is_told(): void
    {
        $this->board(['motion' => ['kind' => 'free', 'release' => ['on' => 'weight', 'map' => 'sweep', 'level' => 0.4]]]);
        $this->evaluated();
        $this->send('GET', "shots/$this->id/props/board/picture")->assertOk();
        // The front is at −1 + frame/12, 0.4 of it 0.12 before it; tiles have their middles at −0.45 … 0.45.
        $want = array_map(static fn (float $x): int => (int) ceil(12 * ($x - 0.12 + 1.0)), [-0.45, -0.15, 0.15, 0.45]);
        $frames = $this->send('GET', "shots/$this->id/props/board/order")->assertOk()->json('frames');
        sort($frames);
        self::assertSame($want, $frames);
    }

    public function test_what_has_appeared_and_how_its_surface_stands_out_leaves_with_the_hand_off(): void
    {
        $this->board(['motion' => ['kind' => 'fixed'], 'appears' => ['map' => 'sweep', 'how' => 'pieces'], 'relief' => ['map' => 'sweep', 'depth' => 0.05]]);
        $lines = $this->handedOff('obj', 12);
        // At frame 12 the front is at 0: two tiles are seen, the left ones; full relief stands them out of the slab by 5 cm.
        self::assertCount(2, preg_grep('/^o Board/', $lines) ?: []);
        self::assertEqualsWithDelta(0.05 + 0.05, max($this->column($lines, 3)), 1e-6);
        $later = $this->handedOff('obj', 24);
        self::assertCount(4, preg_grep('/^o Board/', $later) ?: []);
        $bake = $this->send('GET', "shots/$this->id/bake")->json('bake.id');
        $leaves = $this->send('GET', "bakes/$bake/hand-offs")->assertOk()->json('leaves');
        self::assertSame([], $leaves['obj']);
        self::assertSame(['Board: it has no relief.'], $leaves['glb']);
    }

    public function test_faces_that_fly_one_by_one_leave_as_they_fly(): void
    {
        $this->board(['motion' => self::drift(['by' => 'faces']), 'break' => null]);
        $lines = $this->handedOff('obj', 24);
        $y = $this->column($lines, 2);
        self::assertCount(36, $y, 'every one of twelve faces has corners of its own');
        self::assertEqualsWithDelta([0.9 + 2.0, 1.1 + 2.0], [min($y), max($y)], 1e-6);
    }

    public function test_a_change_of_looks_alone_leaves_with_the_bake_there_is(): void
    {
        $this->board(['motion' => ['kind' => 'keyed']]);
        self::assertCount(4, preg_grep('/^o Board/', $this->handedOff('obj', 0)) ?: []);
        $this->change([['op' => 'add', 'path' => '/props/0/appears', 'value' => ['map' => 'sweep', 'how' => 'pieces']]]);
        self::assertCount(0, preg_grep('/^o Board/', $this->handedOff('obj', 0, false)) ?: []);
    }

    /** @param  array<string, mixed>  $with  of a board of four tiles at 1 m that a front sweeps over from left to right in 24 frames */
    private function board(array $with): void
    {
        $this->id = $this->newShot();
        $this->revision = 0;
        $front = ['source' => 'front', 'on' => 'own', 'values' => ['point' => [['keys' => [['frame' => 0, 'value' => -1], ['frame' => 24, 'value' => 1]]], 0, 0], 'direction' => [1, 0, 0], 'full' => 0, 'none' => 0.2, 'falloff' => 'linear']];
        $board = $with + [
            'source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 1.2, 'height' => 0.2, 'depth' => 0.1, 'segments' => 1]], 'break' => ['pattern' => 'tiles', 'values' => ['grid' => [4, 1, 1]]],
            'place' => ['position' => [0, 0.9, 0], 'turn' => [0, 0, 0], 'size' => 1], 'weights' => [['id' => 'sweep', 'name' => 'Sweep', 'sources' => [$front]]],
        ] + self::box(12, 'board');
        $other = ['motion' => ['kind' => 'fixed'], 'break' => null] + self::box(12, 'other');
        $this->change([['op' => 'add', 'path' => '/props/-', 'value' => $board], ['op' => 'add', 'path' => '/props/-', 'value' => $other], ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]]);
    }

    /**
     * Two metres up.
     *
     * @param  array<string, mixed>  $with
     * @return array<string, mixed>
     */
    private static function drift(array $with = []): array
    {
        return ['kind' => 'drift', 'drift' => $with + ['map' => 'sweep', 'ease' => 'linear', 'moves' => [['move' => 'offset', 'values' => ['by' => [0, 2, 0], 'random' => 0, 'strewn' => 0]]]]];
    }

    /** @param  list<array<string, mixed>>  $patch */
    private function change(array $patch): void
    {
        $this->edit($this->id, $this->revision++, $patch)->assertOk();
    }

    /** @return array<string, array{keys: list<string|null>, problem: array<string, string>|null}> */
    private function evaluated(?string $bake = null): array
    {
        foreach (['board', 'other'] as $prop) {
            $this->send('GET', "shots/$this->id/props/$prop/picture");
        }
        $at = $bake === null ? "shots/$this->id" : "bakes/$bake";
        $this->send('GET', "$at/evaluated")->assertOk();

        // The queue runs along here: what was missing is there when it is asked for again.
        return $this->send('GET', "$at/evaluated")->assertOk()->json('props');
    }

    /** @return list<float> of the middles of its pieces */
    private function heights(?string $key): array
    {
        $poses = array_values(unpack('g*', FrameRecord::decode(self::bytes($this->send('GET', 'maps/frames/'.$key)))[1][0][StreamKind::Poses->value] ?? '') ?: []);

        return array_map(static fn (array $pose): float => $pose[1], array_chunk($poses, 8));
    }

    /** @return list<string> lines of the file of a frame */
    private function handedOff(string $format, int $frame, bool $bake = true): array
    {
        if ($bake) {
            $this->send('POST', "shots/$this->id/bakes")->assertCreated();
        }
        $id = $this->send('GET', "shots/$this->id/bake")->json('bake.id');
        $handOff = $this->send('POST', "bakes/$id/hand-offs", ['format' => $format])->assertCreated()->json('id');
        $this->send('GET', "hand-offs/$handOff")->assertJsonPath('problem', null)->assertJsonPath('state', 'done');
        $zip = new ZipArchive;
        $path = $this->folder.'/out.zip';
        file_put_contents($path, self::bytes($this->get("/api/hand-offs/$handOff/file")));
        self::assertTrue($zip->open($path));
        $text = (string) $zip->getFromIndex($frame);
        $zip->close();

        return explode("\n", $text);
    }

    /**
     * @param  list<string>  $lines
     * @return non-empty-list<float> one coordinate of the points of the board
     */
    private function column(array $lines, int $axis): array
    {
        $out = [0.0];
        $board = false;
        foreach ($lines as $line) {
            $board = str_starts_with($line, 'o ') ? str_starts_with($line, 'o Board') : $board;
            if ($board && str_starts_with($line, 'v ')) {
                $out[] = (float) explode(' ', $line)[$axis];
            }
        }

        return count($out) > 1 ? array_slice($out, 1) : $out;
    }
}
