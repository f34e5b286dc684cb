<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\MakeMap;
use App\Models\Shot;
use App\Storage\MapStore;
use App\Storage\YardFiles;
use App\Yard\StoredParts;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use YardBreak\Core\Break\Neighbours;
use YardBreak\Core\Shot\MapRun;

/** Weight maps as the page asks for them. */
final class MapTest extends YardTestCase
{
    private string $id = '';

    public function test_a_map_is_worked_out_over_all_frames_and_each_is_what_the_core_says(): void
    {
        $this->shot();
        $got = $this->map();
        self::assertTrue($got['done']);
        self::assertCount(25, $got['coverage']);
        // A front that rises a metre through a box of 0.3 at 0.4: nothing at first, all of it at last.
        self::assertEquals([1, 0], array_slice($got['coverage'][0], 0, 2));
        self::assertEquals([0, 1], array_slice($got['coverage'][24], 0, 2));
        self::assertSame([], $got['findings']);
        $run = new MapRun(Shot::query()->findOrFail($this->id)->spec(), $this->app->make(StoredParts::class));
        foreach ([0, 11, 24] as $frame) {
            $want = $run->weightsAt('rise', 'points', $frame);
            self::assertSame(array_map(static fn (float $w): int => (int) round(255 * $w), $want), array_values(unpack('C*', substr($this->frame($got['keys'][$frame]), MapStore::HEAD)) ?: []));
        }
        $this->send('GET', 'maps/frames/'.str_repeat('0', 32))->assertNotFound();
    }

    /** A key moved late leaves the frames before it what they were. */
    public function test_after_an_edit_only_changed_frames_are_worked_out_again(): void
    {
        $revision = $this->shot();
        $before = $this->map()['keys'];
        $made = $this->files();
        $this->edit($this->id, $revision, [['op' => 'replace', 'path' => '/props/0/weights/0/sources/0/values/point/1/keys/2/value', 'value' => 0.9]])->assertOk();
        $after = $this->map()['keys'];
        self::assertSame(array_slice($before, 0, 13), array_slice($after, 0, 13));
        for ($frame = 13; $frame <= 24; $frame++) {
            self::assertNotSame($before[$frame], $after[$frame]);
        }
        self::assertCount(count($made) + count(array_unique(array_diff($after, $before))), $this->files());
    }

    public function test_a_change_by_hand_is_shown_before_it_is_made(): void
    {
        $this->shot();
        $sources = [['source' => 'ball', 'on' => 'own', 'values' => ['middle' => [0, 0.15, 0], 'full' => 0.1, 'none' => 0.4, 'falloff' => 'linear']]];
        $first = $this->trial(['sources' => $sources, 'frame' => 5]);
        // The corners of the box are 0.26 from its middle.
        self::assertEqualsWithDelta(255 * (0.4 - 0.15 * sqrt(3)) / 0.3, min($first), 1.0);
        $sources[0]['values']['none'] = 0.2;
        self::assertSame(0, min($this->trial(['sources' => $sources, 'frame' => 5])), 'from the distances that were kept');
        self::assertNotSame($first, $this->trial(['layer' => 0, 'frame' => 12]));
        $this->send('POST', "shots/$this->id/maps/rise/trial", ['sources' => [['source' => 'moon', 'values' => new \stdClass]], 'frame' => 5])->assertStatus(422)->assertJsonPath('problem.path', 'props[0].weights[0].sources[0].source');
        self::assertCount(count($first), $this->trial(['frame' => 5]), 'nothing was changed by it');
    }

    /** What was tried by hand is there as soon as it is made, before anything is worked out in the background, and the same. */
    public function test_a_change_that_was_tried_is_there_at_once(): void
    {
        $revision = $this->shot();
        $sources = [['source' => 'ball', 'on' => 'own', 'values' => ['middle' => [0, 0.15, 0], 'full' => 0.1, 'none' => 0.31, 'falloff' => 'linear']]];
        $tried = $this->trial(['sources' => $sources, 'frame' => 5]);
        Queue::fake();
        $this->edit($this->id, $revision, [['op' => 'replace', 'path' => '/props/0/weights/0/sources', 'value' => $sources]])->assertOk();
        $got = $this->send('GET', "shots/$this->id/maps/rise?at=5")->assertOk()->json();
        self::assertNotNull($got['coverage'][5]);
        self::assertFalse($got['done']);
        self::assertSame($tried, array_values(unpack('C*', substr($this->frame($got['keys'][5]), MapStore::HEAD)) ?: []));
        Queue::assertPushed(MakeMap::class);
    }

    public function test_work_that_nobody_looks_at_any_more_ends(): void
    {
        $this->shot();
        Queue::fake();
        $keys = $this->send('GET', "shots/$this->id/maps/rise")->assertOk()->json('keys');
        config(['yard.frames_slice' => 0.0]);
        touch(YardFiles::path('maps/asked/'.MakeMap::keyOf($keys)), time() - 60);
        app()->call([new MakeMap($this->id, 'rise', 'points', MakeMap::keyOf($keys), 0), 'handle']);
        self::assertLessThan(4, count($this->files()), 'it notices at its first look');
        $this->send('GET', "shots/$this->id/maps/rise")->assertOk();
        app()->call([new MakeMap($this->id, 'rise', 'points', MakeMap::keyOf($keys), 0), 'handle']);
        self::assertCount(25, $this->files());
    }

    /** It steps back for whoever waits, and what a map remembers is taken along: the frames are those of one go. */
    public function test_where_others_wait_it_gets_on_by_turns(): void
    {
        $revision = $this->shot();
        $this->edit($this->id, $revision, [['op' => 'add', 'path' => '/props/0/weights/0/inTime', 'value' => [['step' => 'lag', 'values' => ['half' => 0.2]], ['step' => 'latch', 'values' => new \stdClass]]]])->assertOk();
        config(['yard.frames_slice' => 0.0]);
        DB::table('jobs')->insert(['queue' => 'default', 'payload' => '{}', 'attempts' => 0, 'available_at' => time() - 5, 'created_at' => time() - 5]);
        $done = 0;
        for ($turns = 1; $turns < 60; $turns++) {
            $got = $this->map();
            $now = count(array_filter($got['coverage']));
            self::assertGreaterThan($done, $now + ($done === 25 ? 1 : 0), 'each turn gets on; what is doubtful is looked for in the last');
            self::assertLessThanOrEqual($done + 4, $now, 'and no further than it must');
            $done = $now;
            if ($got['done']) {
                break;
            }
        }
        self::assertSame(25, $done);
        self::assertSame([], glob($this->folder.'/files/maps/states/*'));
        $run = new MapRun(Shot::query()->findOrFail($this->id)->spec(), app(StoredParts::class));
        foreach ([0, 7, 24] as $frame) {
            self::assertSame(array_map(static fn (float $w): int => (int) round(255 * $w), $run->weightsAt('rise', 'points', $frame)), array_values(unpack('C*', substr($this->frame($got['keys'][$frame]), MapStore::HEAD)) ?: []));
        }
    }

    /** It is looked for once: every slice of a bake, and every map that spreads over pieces, asks. */
    public function test_which_pieces_lie_face_to_face_is_kept(): void
    {
        $this->shot();
        $prop = Shot::query()->findOrFail($this->id)->spec()->props[0];
        $joints = app(StoredParts::class)->joints($prop);
        self::assertGreaterThan(11, count($joints));
        self::assertEquals(Neighbours::of(app(StoredParts::class)->pieces($prop)), $joints);
        $kept = glob($this->folder.'/files/shards/*/'.$prop->shardKey().'.joints-*') ?: [];
        self::assertCount(1, $kept);
        YardFiles::keep(substr($kept[0], strlen($this->folder.'/files/')), serialize([$joints[1]]));
        self::assertEquals([$joints[1]], app(StoredParts::class)->joints($prop));
    }

    public function test_what_is_doubtful_is_said_with_frame_and_place(): void
    {
        $revision = $this->shot();
        $this->edit($this->id, $revision, [['op' => 'replace', 'path' => '/props/0/weights/0/sources/0/values', 'value' => ['point' => [0, ['keys' => [['frame' => 0, 'value' => 0.5], ['frame' => 24, 'value' => 0.6]]], 0], 'direction' => [0, 1, 0], 'full' => 0.008, 'none' => 0.0]]])->assertOk();
        $findings = array_column($this->map()['findings'], null, 'message');
        $said = implode(' ', array_keys($findings));
        self::assertStringContainsString('Frame 0 is not clear', $said);
        self::assertStringContainsString('At frame 24, ', $said);
        self::assertStringContainsString('swapped', $said);
        self::assertStringContainsString('its band is', $said);
        foreach ($findings as $message => $finding) {
            if (str_contains($message, 'swapped')) {
                self::assertEquals(['path' => 'sources[0].values', 'value' => ['full' => 0.0, 'none' => 0.008]], $finding['mend']);
            }
            if (str_contains($message, 'not clear')) {
                self::assertSame(0, $finding['frame']);
                self::assertGreaterThanOrEqual(0.15 - 1e-9, $finding['at'][1], 'the swapped front is full above');
            }
        }
    }

    public function test_a_map_that_cannot_be_says_why(): void
    {
        $revision = $this->shot();
        $this->edit($this->id, $revision++, [['op' => 'add', 'path' => '/props/0/weights/0/sources/-', 'value' => ['source' => 'proximity', 'values' => new \stdClass]]])->assertOk();
        $this->send('GET', "shots/$this->id/maps/rise")->assertStatus(422)->assertJsonPath('problem.path', 'props[0].weights[0].sources[1].values.to');
        $this->send('GET', "shots/$this->id/maps/gone")->assertStatus(422)->assertJsonPath('problem.message', 'The weight map this refers to is not there any more.');
        $this->send('GET', "shots/$this->id/maps/rise?kind=moons")->assertStatus(422);
        // What another map or source refers to cannot go.
        $this->edit($this->id, $revision++, [['op' => 'replace', 'path' => '/props/0/weights/0/sources/1', 'value' => ['source' => 'proximity', 'values' => ['to' => 'gone']]]])->assertStatus(422);
    }

    public function test_pieces_have_weights_of_their_own(): void
    {
        $this->shot();
        $got = $this->send('GET', "shots/$this->id/maps/rise?kind=pieces&at=20")->assertOk()->json();
        $got = $got['done'] ? $got : $this->send('GET', "shots/$this->id/maps/rise?kind=pieces")->json();
        self::assertTrue($got['done']);
        self::assertSame(MapStore::HEAD + 12, strlen($this->frame($got['keys'][12])));
    }

    public function test_the_skin_of_pieces_has_weights_of_its_own(): void
    {
        $revision = $this->shot();
        $this->edit($this->id, $revision, [['op' => 'add', 'path' => '/props/0/relief', 'value' => ['map' => 'rise', 'depth' => 0.02]]])->assertOk();
        $got = $this->send('GET', "shots/$this->id/maps/rise?kind=skin&at=20")->assertOk()->json();
        $got = $got['done'] ? $got : $this->send('GET', "shots/$this->id/maps/rise?kind=skin")->json();
        self::assertTrue($got['done']);
        // One a point of the picture's pieces, as the browser counts them.
        $picture = (string) $this->send('GET', "shots/$this->id/props/box/picture")->assertOk()->getContent();
        $vertices = json_decode(substr($picture, 4, unpack('V', $picture)[1] ?? 0), true)['vertices'];
        $points = array_values((array) unpack('V*', substr($picture, -4 * $vertices)));
        self::assertSame(MapStore::HEAD + max($points) + 1, strlen($this->frame($got['keys'][12])));
        // As much of it as on the block unbroken, and most at its lowest point, from where the front comes.
        $heights = array_values((array) unpack('g*', substr($picture, 4 + (unpack('V', $picture)[1] ?? 0), 12 * $vertices)));
        $weights = array_values((array) unpack('C*', substr($this->frame($got['keys'][12]), MapStore::HEAD)));
        $own = array_values((array) unpack('C*', substr($this->frame($this->map()['keys'][12]), MapStore::HEAD)));
        self::assertSame([min($own), max($own)], [min($weights), max($weights)]);
        $y = array_filter($heights, static fn (int $k): bool => $k % 3 === 1, ARRAY_FILTER_USE_KEY);
        self::assertSame(max($own), $weights[$points[intdiv((int) array_search(min($y), $y, true), 3)]]);
        // What is tried out by hand is shown on the prop unbroken.
        $this->send('POST', "shots/$this->id/maps/rise/trial", ['kind' => 'skin', 'frame' => 5])->assertStatus(422);
    }

    /** A block falls onto a slab: until it is baked the slab's map sees it where it hangs, then where it has come to. */
    public function test_what_physics_moves_is_seen_where_the_bake_has_it(): void
    {
        $this->id = $this->newShot();
        $slab = ['source' => ['kind' => 'shape', 'shape' => 'box', 'values' => ['width' => 0.6, 'height' => 0.02, 'depth' => 0.6]], 'place' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'size' => 1], 'break' => null, 'motion' => ['kind' => 'fixed']] + self::box(12, 'slab');
        $slab['weights'] = [['id' => 'rise', 'name' => 'Near', 'sources' => [['source' => 'proximity', 'values' => ['to' => 'box', 'full' => 0.03, 'none' => 0.1, 'falloff' => 'linear']]]]];
        $this->edit($this->id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $slab], ['op' => 'add', 'path' => '/props/-', 'value' => self::box()], ['op' => 'replace', 'path' => '/frames/last', 'value' => 14]])->assertOk();
        $before = $this->map();
        self::assertSame([1.0, 1.0], array_map(floatval(...), [$before['coverage'][0][0], $before['coverage'][14][0]]), 'it hangs 0.38 above');
        self::assertCount(1, array_unique($before['keys']));
        $this->send('POST', "shots/$this->id/bakes")->assertCreated();
        $after = $this->map();
        self::assertEquals(1, $after['coverage'][0][0]);
        self::assertSame(0, (int) $after['coverage'][4][1], 'half way down it touches nothing');
        // It has landed: under its foot, a quarter of the top, the slab is full.
        self::assertGreaterThan(0.1, $after['coverage'][14][1]);
        self::assertCount(15, array_unique($after['keys']));
        // What comes before a change keeps what it was.
        $this->edit($this->id, 1, [['op' => 'replace', 'path' => '/props/1/material/bounce', 'value' => ['keys' => [['frame' => 10, 'value' => 0.1], ['frame' => 12, 'value' => 0.9]]]]])->assertOk();
        $changed = $this->map();
        self::assertSame(array_slice($after['keys'], 0, 11), array_slice($changed['keys'], 0, 11));
        self::assertNotSame($after['keys'][14], $changed['keys'][14]);
    }

    public function test_the_unbroken_prop_tells_which_point_each_corner_is(): void
    {
        $this->shot();
        $bytes = self::bytes($this->send('GET', "shots/$this->id/props/box/picture?whole=1")->assertOk());
        $head = json_decode(substr($bytes, 4, (unpack('V', $bytes) ?: [1 => 0])[1]), true);
        $points = array_values(unpack('V*', substr($bytes, -4 * $head['vertices'])) ?: []);
        self::assertCount($head['vertices'], $points);
        $count = (unpack('V', $this->frame($this->map()['keys'][0]), 4) ?: [1 => 0])[1];
        $points = array_values(array_unique($points));
        sort($points);
        self::assertSame(range(0, $count - 1), $points);
    }

    /** @return int revision */
    private function shot(): int
    {
        $this->id = $this->newShot();
        $box = self::box();
        $box['source']['values']['segments'] = 6;
        $box['weights'] = [['id' => 'rise', 'name' => 'Rise', 'sources' => [[
            'source' => 'front', 'on' => 'world',
            'values' => ['point' => [0, ['keys' => [['frame' => 0, 'value' => 0], ['frame' => 12, 'value' => 0.45], ['frame' => 24, 'value' => 1]]], 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 0.2, 'falloff' => 'linear'],
        ]]]];
        $this->edit($this->id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => $box], ['op' => 'replace', 'path' => '/frames/last', 'value' => 24]])->assertOk();

        return 1;
    }

    /** @return array<string, mixed> */
    private function map(): array
    {
        $this->send('GET', "shots/$this->id/maps/rise")->assertOk();

        // The queue runs along here: what was missing is there when it is asked for again.
        return $this->send('GET', "shots/$this->id/maps/rise")->assertOk()->json();
    }

    /**
     * @param  array<string, mixed>  $body
     * @return list<int>
     */
    private function trial(array $body): array
    {
        return array_values(unpack('C*', substr((string) $this->send('POST', "shots/$this->id/maps/rise/trial", $body)->assertOk()->getContent(), MapStore::HEAD)) ?: []);
    }

    private function frame(string $key): string
    {
        return self::bytes($this->send('GET', 'maps/frames/'.$key)->assertOk());
    }

    /** @return list<string> */
    private function files(): array
    {
        return array_values(array_filter(glob($this->folder.'/files/maps/*/*') ?: [], static fn (string $p): bool => preg_match('#/[0-9a-f]{2}/[0-9a-f]{32}$#', $p) === 1));
    }
}
