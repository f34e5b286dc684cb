<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Bake;
use App\Storage\ShardStore;
use App\Yard\BakeFiles;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Support\Facades\DB;
use Throwable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\TellingFrame;
use YardBreak\Core\Problem;

/**
 * Bakes on from the last checkpoint for some seconds, then hands over to the next slice.
 *
 * Whoever takes a bake up raises its `attempt`; a worker that finds another number there stops. A worker that
 * dies leaves its slice to be taken up again from the checkpoint.
 */
final class BakeSlice implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    public function __construct(public readonly string $bakeId)
    {
    }

    /** Two at one bake write the same bytes, and the one that came first stops. */
    public function lock(): null
    {
        return null;
    }

    public function handle(ShardStore $store): void
    {
        $bake = Bake::query()->find($this->bakeId);
        if ($bake === null || ! $bake->isOpen()) {
            return;
        }
        $mine = $bake->attempt + 1;
        if (Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->whereIn('state', ['queued', 'running'])->update(['attempt' => $mine, 'state' => 'running']) === 0) {
            return;
        }
        $bake->attempt = $mine;
        try {
            $this->bakeOn($bake, $store);
        } catch (Problem $e) {
            Bake::query()->whereKey($bake->id)->where('attempt', $mine)->update(['state' => 'failed', 'problem' => json_encode($e->toArray())]);
        }
    }

    public function failed(?Throwable $e): void
    {
        $problem = $e instanceof Problem ? $e : new Problem('internal', 'The bake stopped unexpectedly.', '', 'Resume it; it goes on from its last checkpoint.');
        Bake::query()->whereKey($this->bakeId)->whereIn('state', ['queued', 'running'])->update(['state' => 'failed', 'problem' => json_encode($problem->toArray())]);
    }

    private function bakeOn(Bake $bake, ShardStore $store): void
    {
        $files = new BakeFiles($bake);
        $baker = $files->checkpoint();
        $begun = microtime(true);
        $pending = [];
        if ($baker === null) {
            $shot = $bake->spec();
            $shards = [];
            foreach ($shot->props as $prop) {
                if (! $this->note($bake, 'Breaking '.$prop->name)) {
                    return;
                }
                $shards[$prop->id] = $store->of($prop, new BeatingProgress);
            }
            $baker = new Baker($shot, $shards);
            $bake->pieces = count(Baker::pieces($shot, $shards));
            unset($shards);
            $files->put([$baker->firstFrame()]);
            if (! $this->advance($bake, 1, microtime(true) - $begun)) {
                return;
            }
        }
        $spent = $shown = microtime(true);
        while ($baker->frameNumber() < $bake->last) {
            $from = microtime(true);
            $frame = $baker->nextFrame();
            $now = microtime(true);
            $pending[] = $frame->took($now - $from);
            if ($now - $shown > 0.25) {
                $files->put($pending);
                $pending = [];
                if (! $this->advance($bake, $baker->frameNumber() - $bake->first + 1, $now - $spent)) {
                    return;
                }
                $spent = $shown = $now;
            }
            if ($now - $begun > (float) config('yard.bake_slice')) {
                break;
            }
        }
        $files->put($pending);
        $done = $baker->frameNumber() >= $bake->last;
        if (! $this->advance($bake, $baker->frameNumber() - $bake->first + 1, microtime(true) - $spent)) {
            return;
        }
        if ($done) {
            Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->update(['state' => 'done', 'note' => '', 'telling' => TellingFrame::of($files->figures())]);
            $files->dropCheckpoint();

            return;
        }
        $files->keepCheckpoint($baker);
        self::dispatch($bake->id);
    }

    private function note(Bake $bake, string $note): bool
    {
        return Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->where('state', 'running')->update(['note' => $note]) === 1;
    }

    /** Tells how far the bake is; false where it was cancelled or taken over. */
    private function advance(Bake $bake, int $frames, float $seconds): bool
    {
        Beating::gotOn();
        $bake->seconds += $seconds;

        return Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->where('state', 'running')
            ->update(['frames_done' => DB::raw('max(frames_done, '.$frames.')'), 'pieces' => $bake->pieces, 'seconds' => $bake->seconds, 'note' => '']) === 1;
    }
}
