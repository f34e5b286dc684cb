<?php

declare(strict_types=1);

namespace Tests\Browser;

final class BakeTest extends BrowserTestCase
{
    public function test_a_killed_worker_loses_nothing(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['place' => ['position' => [0, 0.8, 0], 'turn' => [0, 0, 12], 'size' => 1], 'break' => Setting::cells(250), 'motion' => Setting::falling()])]);
        $a->sees('250 shards');
        $a->keys('5', 'b');
        $a->until(fn (): bool => $this->done() > 8);
        $a->yard->kill('worker');
        $before = $this->done();
        self::assertLessThan(97, $before, 'the bake was still under way');
        $whole = $this->frames($before);
        // Nobody works on it now; what is there stays there.
        usleep(700_000);
        self::assertGreaterThanOrEqual($before, $this->done());
        $a->yard->startWorker();
        $a->sees('Up to date');
        self::assertSame(97, $this->done());
        self::assertSame($whole, $this->frames($before), 'the frames from before are the same');
        $this->assertNoErrors();
    }

    public function test_a_bake_is_cancelled_and_resumed_and_says_what_has_changed_since(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block', ['place' => ['position' => [0, 0.8, 0], 'turn' => [0, 0, 12], 'size' => 1], 'break' => Setting::cells(300), 'motion' => Setting::falling()])]);
        $a->sees('300 shards');
        $a->keys('5', 'b');
        $a->until(fn (): bool => $this->done() > 4);
        $a->presses('Cancel');
        $a->sees('Resume at frame');
        $a->presses('Resume at frame', true);
        $a->sees('Up to date');
        $a->keys('0');
        $a->types('Ground bounce', '0.4');
        $a->keys('5');
        $a->sees('All frames 0–96 are computed');
        $a->sees('Because of: ground bounce');
        $a->sees('out of date');
        $a->clicks('[aria-label=Undo]');
        $a->sees('Up to date');
    }

    private function done(): int
    {
        return (int) $this->artist->browser->executeAsyncScript('const done=arguments[0];fetch("/api"+location.pathname+"/bake").then(r=>r.json()).then(({bake})=>done(bake?bake.framesDone:0))');
    }

    /** A hash of the frames up to one of them. */
    private function frames(int $to): string
    {
        return (string) $this->artist->browser->executeAsyncScript('const [to,done]=arguments;fetch("/api"+location.pathname+"/bake").then(r=>r.json()).then(({bake})=>fetch("/api/bakes/"+bake.id+"/frames?from=0").then(r=>r.arrayBuffer()).then(b=>crypto.subtle.digest("SHA-256",b.slice(0,to*(32+bake.pieces*32)))).then(h=>done([...new Uint8Array(h)].join())))', [$to]);
    }
}
