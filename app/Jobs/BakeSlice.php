<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Bake;
use App\Storage\FrameStore;
use App\Storage\Room;
use App\Storage\ShardStore;
use App\Yard\Foresight;
use App\Yard\Keeping;
use App\Yard\Mending;
use App\Yard\StoredParts;
use Illuminate\Contracts\Bus\Dispatcher;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Support\Facades\DB;
use Throwable;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\Frame;
use YardBreak\Core\Bake\TellingFrame;
use YardBreak\Core\Problem;

/**
 * Bakes on from the last state kept for some seconds, then hands over to the next slice.
 *
 * Whoever takes a bake up raises its `attempt`; a worker that finds another number there stops. A worker that
 * dies leaves its slice to be taken up again from the last state.
 */
final class BakeSlice implements LastsLong, ShouldQueue
{
    use RunsInQueue;

    /** Seconds of computing that may be lost, or must be done again to go on from any frame. */
    private const STATE_EVERY = 0.25;

    /** A state is kept only after so many times what keeping the last one took. */
    private const STATE_SHARE = 20.0;

    private const TELL_EVERY = 0.25;

    /** Seconds between looks whether a variant should step back. */
    private const STEPS_BACK = 0.5;

    /** Microseconds between looks whether there is room again. */
    private const LOOKS = 500_000;

    public function __construct(public readonly string $bakeId)
    {
    }

    /** Has a bake go on in its turn. */
    public static function next(Bake $bake): void
    {
        self::dispatch($bake->id)->onQueue(Turn::of($bake))->afterCommit();
    }

    /** Two at one bake write the same bytes, and the one that came first stops. */
    public function lock(): null
    {
        return null;
    }

    public function handle(ShardStore $store, Foresight $foresight): void
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
            // What bakes is let go before the next slice is asked for: where jobs run at once, each waits for those after it.
            if ($this->bakeOn($bake, $store, $foresight)) {
                $this->whenThereIsRoom($bake, static fn () => app(Dispatcher::class)->dispatch((new self($bake->id))->onQueue(Turn::of($bake))));
            }
        } catch (Problem $e) {
            if ($e->kind === 'cancelled') {
                return;
            }
            Bake::query()->whereKey($bake->id)->where('attempt', $mine)->update(['state' => 'failed', 'problem' => json_encode($e->toArray())]);
        }
    }

    public function failed(?Throwable $e): void
    {
        $problem = $e instanceof Problem ? $e : new Problem('internal', 'The bake stopped unexpectedly.', '', 'Resume it; it goes on from its last frames.');
        Bake::query()->whereKey($this->bakeId)->whereIn('state', ['queued', 'running'])->update(['state' => 'failed', 'problem' => json_encode($problem->toArray())]);
    }

    /** Whether frames are left for another slice. */
    private function bakeOn(Bake $bake, ShardStore $store, Foresight $foresight): bool
    {
        $begun = microtime(true);
        $files = $bake->files();
        $this->dropDamaged($bake, $files);
        $baker = $this->baker($bake, $store, $foresight);
        if ($baker === null) {
            return false;
        }
        if ($bake->frames_done === 0) {
            $first = [$baker->firstFrame()];
            $this->whenThereIsRoom($bake, static fn () => $files->put($first));
            if (! $this->advance($bake, 1, microtime(true) - $begun)) {
                return false;
            }
        } elseif (! $this->goOn($bake, $baker, $files)) {
            return false;
        }
        $pending = [];
        $told = $spent = $kept = $looked = microtime(true);
        $every = self::STATE_EVERY;
        while ($baker->frameNumber() < $bake->last) {
            $from = microtime(true);
            $frame = $baker->nextFrame();
            $now = microtime(true);
            $pending[] = $frame->took($now - $from);
            $bake->anchored += $frame->anchored;
            $slice = (float) config('yard.bake_slice');
            if (! $bake->own && $now - $looked > self::STEPS_BACK) {
                // A variant keeps nobody waiting who works on a shot.
                [$looked, $slice] = [$now, Turn::othersWait() ? 0.0 : $slice];
            }
            $ends = $now - $begun > $slice || $baker->frameNumber() >= $bake->last;
            if ($ends || $now - $kept > $every) {
                $state = $baker->pack();
                $this->whenThereIsRoom($bake, static function () use ($files, $pending, $baker, $state): void {
                    $files->put($pending);
                    $files->keepState($baker->frameNumber(), $state);
                });
                $pending = [];
                $kept = microtime(true);
                $every = max(self::STATE_EVERY, self::STATE_SHARE * ($kept - $now));
            }
            if ($ends || $now - $told > self::TELL_EVERY) {
                $this->whenThereIsRoom($bake, static fn () => $files->put($pending));
                $pending = [];
                $told = microtime(true);
                if (! $this->advance($bake, $baker->frameNumber() - $bake->first + 1, $told - $spent)) {
                    // Whoever resumes it goes on from here.
                    $files->keepState($baker->frameNumber(), $baker->pack());

                    return false;
                }
                $spent = $told;
            }
            if ($ends) {
                break;
            }
        }
        if ($baker->frameNumber() < $bake->last) {
            return true;
        }
        $figures = array_map(static fn (array $f): array => ['frame' => (int) $f['frame'], 'moving' => (int) $f['moving'], 'energy' => (float) $f['energy']], $files->figures());
        $this->whenThereIsRoom($bake, static fn () => Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->update(['state' => 'done', 'note' => '', 'telling' => $figures === [] ? null : TellingFrame::of($figures), 'frames_done' => $bake->last - $bake->first + 1]));
        Keeping::look();

        return false;
    }

    /**
     * Does what writes to the disk; where that is full, waits until there is room, or until nobody wants the bake any more.
     *
     * @template T
     *
     * @param  \Closure(): T  $do  may be done again from its start
     * @return T
     *
     * @throws Problem where it cannot be written for another reason, or is not wanted
     */
    private function whenThereIsRoom(Bake $bake, \Closure $do)
    {
        while (true) {
            try {
                return $do();
            } catch (Throwable $e) {
                $full = Room::problem($e) ?? throw $e;
            }
            try {
                $this->note($bake, $full->getMessage().' It goes on by itself when there is room');
            } catch (Throwable $e) {
                Room::problem($e) ?? throw $e;
            }
            Beating::gotOn();
            usleep(self::LOOKS);
            if (Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->where('state', 'running')->doesntExist()) {
                throw Problem::cancelled();
            }
        }
    }

    /** What bakes it, at its start; null where it was cancelled or taken over meanwhile. */
    private function baker(Bake $bake, ShardStore $store, Foresight $foresight): ?Baker
    {
        $shot = $bake->spec();
        $solids = $keys = [];
        foreach ($shot->props as $prop) {
            if (! $store->has($prop) && ! $this->note($bake, 'Breaking '.$prop->name)) {
                return null;
            }
            $solids[$prop->id] = $this->whenThereIsRoom($bake, static fn (): array => $store->solids($prop, new BeatingProgress));
            $keys[$prop->id] = $prop->shardKey();
        }
        $bake->shards = $keys;
        $bake->counts = array_map(count(...), array_values($solids));
        $bake->pieces = array_sum($bake->counts);

        return new Baker($foresight->of($shot, true, new BeatingProgress), $solids, new BeatingProgress, app(StoredParts::class), static fn (): float => hrtime(true) / 1e9);
    }

    /** Goes back to the last frame that holds: what was written may not be what is there. */
    private function dropDamaged(Bake $bake, FrameStore $files): void
    {
        $sound = $files->sound($bake->frames_done);
        if ($sound < $bake->frames_done) {
            $files->cutTo($sound);
            Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->update(['frames_done' => $sound, 'kept' => min($bake->kept, $sound), 'mended' => Mending::said($bake, $sound)]);
            $bake->refresh();
        }
    }

    /** Takes it up where its frames end; false where it was cancelled or taken over meanwhile. */
    private function goOn(Bake $bake, Baker $baker, FrameStore $files): bool
    {
        $last = $bake->first + $bake->frames_done - 1;
        while (($state = $files->stateUpTo($last)) !== null) {
            try {
                $baker->unpack($state[1]);
                break;
            } catch (Problem) {
                $files->dropState($state[0]);
            }
        }
        if ($state === null) {
            $baker->firstFrame();
        }
        while ($baker->frameNumber() < $last) {
            $baker->nextFrame();
        }

        return $this->note($bake, '');
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

        return $this->whenThereIsRoom($bake, static fn (): int => Bake::query()->whereKey($bake->id)->where('attempt', $bake->attempt)->where('state', 'running')->update([
            'frames_done' => DB::raw('max(frames_done, '.$frames.')'), 'pieces' => $bake->pieces, 'counts' => json_encode($bake->counts), 'shards' => json_encode((object) $bake->shards),
            'anchored' => json_encode((object) $bake->anchored), 'seconds' => $bake->seconds, 'note' => '',
        ])) === 1;
    }
}
