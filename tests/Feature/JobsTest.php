<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\MakeShards;
use App\Jobs\Middleware\Beating;
use App\Models\Bake;
use App\Models\Shot;
use App\Storage\YardFiles;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Problem;

/** Jobs as real workers run them, in processes of their own that are killed. */
final class JobsTest extends YardTestCase
{
    use RealWorkers;

    protected function tearDown(): void
    {
        $this->killAll();
        parent::tearDown();
    }

    public function test_a_killed_workers_bake_is_taken_over_within_seconds_never_shows_fewer_frames_and_ends_with_the_same_bytes(): void
    {
        $id = $this->shot(220, 48);
        $whole = Bake::query()->findOrFail($this->send('POST', "shots/$id/bakes")->assertCreated()->json('bake.id'));
        self::assertSame('done', $whole->state);
        $want = $whole->files()->records(0, 49);
        config(['queue.default' => 'database']);
        $again = $this->shot(220, 48);
        $bake = $this->send('POST', "shots/$again/bakes")->assertCreated()->json('bake.id');
        $done = static fn (): int => Bake::query()->findOrFail($bake)->frames_done;
        for ($kill = 0, $most = 0; $kill < 2; $kill++) {
            $worker = $this->worker();
            $this->until(fn (): bool => $done() > $most + 2, 60);
            $this->kill($worker);
            ['frames_done' => $most, 'attempt' => $attempt] = Bake::query()->findOrFail($bake)->only(['frames_done', 'attempt']);
            $lost = microtime(true);
            $next = $this->worker();
            $this->until(function () use ($done, $most, $attempt, $bake): bool {
                self::assertGreaterThanOrEqual($most, $done(), 'what was shown stays');

                return Bake::query()->findOrFail($bake)->attempt > $attempt;
            }, 20);
            self::assertLessThan(7.0, microtime(true) - $lost, 'a second for starting, five for the claim to lapse, one to look');
            $this->kill($next);
        }
        $this->worker();
        $this->until(static fn (): bool => Bake::query()->findOrFail($bake)->state === 'done', 120);
        self::assertSame(md5($want), md5(Bake::query()->findOrFail($bake)->files()->records(0, 49)));
        self::assertSame(49 * (32 + $whole->pieces * Pose::BYTES), strlen($want));
    }

    public function test_a_break_too_large_for_memory_fails_at_once_in_words_and_is_not_tried_again(): void
    {
        $id = $this->shot(4000, 24);
        config(['queue.default' => 'database']);
        $this->get("/api/shots/$id/props/box/picture")->assertStatus(202);
        $this->worker('48M');
        $key = Shot::query()->findOrFail($id)->spec()->props[0]->shardKey();
        $this->until(static fn (): bool => is_file(YardFiles::path(MakeShards::faultName($key))), 60);
        $this->until(static fn (): bool => DB::table('jobs')->doesntExist(), 20);
        $said = $this->get("/api/shots/$id/props/box/picture")->assertStatus(422)->json('problem');
        self::assertSame('memory', $said['kind']);
        self::assertStringContainsString('48M', $said['message']);
        self::assertStringContainsString('Pieces', $said['remedy']);
        self::assertFalse(DB::table('jobs')->exists(), 'asking again does not try again');
    }

    public function test_a_break_that_gets_nowhere_is_given_up_with_the_value_to_lower(): void
    {
        $id = $this->shot(400, 24);
        $key = Shot::query()->findOrFail($id)->spec()->props[0]->shardKey();
        (new MakeShards($id, 'box', $key))->failed(new Problem(Beating::KINDS[1], 'This got no further.'));
        self::assertStringContainsString('Pieces', $this->get("/api/shots/$id/props/box/picture")->assertStatus(422)->json('problem.remedy'));
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/props/0/break/values/count', 'value' => 10]])->assertOk();
        $this->get("/api/shots/$id/props/box/picture")->assertOk();
    }

    private function shot(int $pieces, int $last): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box($pieces)], ['op' => 'replace', 'path' => '/frames/last', 'value' => $last]])->assertOk();

        return $id;
    }
}
