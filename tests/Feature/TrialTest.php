<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\BakeSlice;
use App\Jobs\Turn;
use App\Models\Bake;
use App\Models\Trial;
use App\Yard\Clearing;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** A shot in variants. */
final class TrialTest extends YardTestCase
{
    private const SEED = '/props/0/break/values/seed';

    public function test_a_trial_is_planned_baked_and_one_of_it_taken(): void
    {
        $id = $this->shot();
        $paths = array_column($this->get("/api/shots/$id/values")->assertOk()->json(), 'label', 'path');
        self::assertSame('Seed', $paths[self::SEED] ?? null);
        $rough = $this->send('POST', "shots/$id/trials/plan", ['axes' => [['path' => self::SEED, 'values' => '1–400']]])->assertOk()->json();
        self::assertSame([400, 40, false], [$rough['count'], count($rough['variants']), $rough['known']]);
        self::assertGreaterThan(0, $rough['seconds']);
        $axes = [['path' => self::SEED, 'values' => '3, 4'], ['path' => '/props/0/material/density', 'values' => '1,000, 2,600']];
        $trial = $this->send('POST', "shots/$id/trials", ['axes' => $axes])->assertCreated()->json();
        $trial = $this->get("/api/trials/{$trial['id']}")->assertOk()->json();
        self::assertSame([[0, 'Seed of Box 3, density of Box 1,000 kg/m³', 'done'], [3, 'Seed of Box 4, density of Box 2,600 kg/m³', 'done']], [self::told($trial, 0), self::told($trial, 3)]);
        $outcome = $trial['variants'][0]['bake']['outcome'];
        self::assertSame(12, $outcome['pieces']);
        self::assertGreaterThan(0.0, $outcome['energy']);
        self::assertNull($this->get("/api/shots/$id/bake")->json('bake'), 'none of them is the bake of the shot');
        self::assertSame(4, $this->get("/api/shots/$id/trials")->json('0.done'));
        // What is as it was costs nothing.
        $again = $this->send('POST', "shots/$id/trials/plan", ['axes' => [['path' => self::SEED, 'values' => '3, 9']]])->json('variants');
        self::assertSame(0, $again[0]['seconds']);
        self::assertGreaterThan(0, $again[1]['seconds']);
        $document = $this->get("/api/variants/{$trial['variants'][1]['id']}/document")->assertOk()->json();
        self::assertSame([3, 2600], [$document['props'][0]['break']['values']['seed'], $document['props'][0]['material']['density']]);
        $this->get("/api/variants/{$trial['variants'][2]['id']}/props/box/picture")->assertOk();
        $against = $this->get("/api/bakes/{$trial['variants'][2]['bake']['id']}/against/{$trial['variants'][0]['bake']['id']}")->assertOk()->json();
        self::assertSame(0, $against['from']);
        self::assertStringContainsString('Box', $against['what']);

        $shot = $this->send('POST', "variants/{$trial['variants'][2]['id']}/choose", ['revision' => 2])->assertOk()->json();
        self::assertSame([4, 1000, 'Choose: seed of Box 4, density of Box 1,000 kg/m³'], [$shot['document']['props'][0]['break']['values']['seed'], $shot['document']['props'][0]['material']['density'], $shot['undo']]);
        $bake = $this->get("/api/shots/$id/bake")->json('bake');
        self::assertSame([$trial['variants'][2]['bake']['id'], 'done', 13], [$bake['id'], $bake['state'], $bake['plan']['kept']], 'its bake is the shot\'s');
        self::assertSame(3, $this->send('POST', "shots/$id/undo", ['revision' => 3])->json('document.props.0.break.values.seed'));
    }

    public function test_one_that_fails_says_why_and_the_others_go_on(): void
    {
        $id = $this->shot();
        $this->edit($id, 2, [['op' => 'replace', 'path' => '/props/0/break', 'value' => ['pattern' => 'punch', 'values' => ['radius' => 0.05]]]])->assertOk();
        $trial = $this->send('POST', "shots/$id/trials", ['axes' => [['path' => '/props/0/break/values/radius', 'values' => '0.05, 5']]])->assertCreated()->json('id');
        $trial = $this->get("/api/trials/$trial")->json();
        self::assertSame('done', $trial['variants'][0]['bake']['state']);
        $failed = $trial['variants'][1];
        self::assertSame(['failed', 'The punch takes the whole prop with it.'], [$failed['bake']['state'], $failed['bake']['problem']['message']]);
        $this->send('POST', "shots/$id/trials", ['axes' => [['path' => self::SEED, 'values' => 'x']]])->assertStatus(422)->assertJsonPath('problem.message', 'Seed of Box cannot be "x".');
        $this->send('POST', "shots/$id/trials", ['axes' => 'all'])->assertStatus(422);
        $this->send('POST', "shots/$id/trials/plan", ['axes' => [['path' => self::SEED]]])->assertStatus(422);
    }

    public function test_what_a_shot_needs_goes_before_variants_and_those_looked_at_before_others(): void
    {
        $id = $this->shot();
        Queue::fake();
        $trial = $this->send('POST', "shots/$id/trials", ['axes' => [['path' => self::SEED, 'values' => '3, 4, 5']]])->json('id');
        Queue::assertPushed(\App\Jobs\BeginTrial::class, 1);
        $of = Trial::query()->findOrFail($trial);
        foreach ($of->variants as $variant) {
            app(\App\Yard\Trials::class)->bake($variant);
        }
        Queue::assertPushedOn('later', BakeSlice::class);
        $this->send('POST', "trials/$trial/look", ['numbers' => [1]])->assertNoContent();
        $bakes = $of->variants()->oldest('number')->get()->map(static fn ($v): Bake => $v->bake ?? self::fail('not begun'));
        self::assertSame(['later', 'seen', 'later'], $bakes->map(Turn::of(...))->all());
        $own = $this->send('POST', "shots/$id/bakes")->json('bake.id');
        self::assertSame([$bakes[0]->id, 'default'], [$own, Turn::of(Bake::query()->findOrFail($own))], 'the shot as it is is one of them, and now its own');
        // A variant that is baked steps back once something of a shot waits.
        config(['queue.default' => 'database', 'yard.bake_slice' => 8.0]);
        self::assertFalse(Turn::othersWait());
        DB::table('jobs')->insert(['queue' => 'default', 'payload' => '{}', 'attempts' => 0, 'available_at' => time() - 1, 'created_at' => time()]);
        self::assertTrue(Turn::othersWait());
    }

    public function test_called_off_it_ends_gone_on_with_it_is_finished_and_put_away_nothing_is_left(): void
    {
        $id = $this->shot();
        Queue::fake();
        $trial = $this->send('POST', "shots/$id/trials", ['axes' => [['path' => self::SEED, 'values' => '7, 8']]])->json('id');
        app(\App\Yard\Trials::class)->bake(Trial::query()->findOrFail($trial)->variants()->firstOrFail());
        $off = $this->send('POST', "trials/$trial/cancel")->assertOk()->json('variants');
        self::assertSame(['cancelled', 'It was called off before it began.'], [$off[0]['bake']['state'], $off[1]['problem']['message']]);
        Queue::getFacadeRoot()->except([BakeSlice::class, \App\Jobs\BeginTrial::class]);
        $this->send('POST', "trials/$trial/resume")->assertOk();
        self::assertSame(['done', 'done'], array_column(array_column($this->get("/api/trials/$trial")->json('variants'), 'bake'), 'state'));
        $bakes = Bake::query()->pluck('id')->all();
        $this->travel(2)->days();
        app(Clearing::class)->clear(3600);
        self::assertCount(2, array_intersect(Bake::query()->where('state', 'done')->pluck('id')->all(), $bakes), 'they stay as long as the trial does');
        $this->send('DELETE', "trials/$trial")->assertNoContent();
        app(Clearing::class)->clear(3600);
        self::assertSame(0, Bake::query()->count());
    }

    private function shot(): string
    {
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box()]])->assertOk();
        $this->edit($id, 1, [['op' => 'replace', 'path' => '/frames/last', 'value' => 12]])->assertOk();

        return $id;
    }

    /**
     * @param  array<string, mixed>  $trial
     * @return array{int, string, string}
     */
    private static function told(array $trial, int $k): array
    {
        return [$trial['variants'][$k]['number'], $trial['variants'][$k]['words'], $trial['variants'][$k]['bake']['state'] ?? ''];
    }
}
