<?php

declare(strict_types=1);

namespace App\Yard;

use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use Illuminate\Support\Facades\DB;

/** Bakes whose files are no longer what was written: what does not hold is thrown away, and computed again by itself. */
final class Mending
{
    /**
     * Looks at every frame of a bake that nobody works on.
     *
     * @return bool whether something had to be thrown away
     */
    public static function of(Bake $bake): bool
    {
        $sound = $bake->isOpen() ? $bake->frames_done : $bake->files()->sound($bake->frames_done);
        if ($sound === $bake->frames_done) {
            return false;
        }
        DB::transaction(static function () use ($bake, $sound): void {
            // What was whole becomes so again, unless the shot is being baked otherwise just now.
            $again = $bake->state === 'done' && ! Bake::query()->where('shot_id', $bake->shot_id)->where('own', true)->whereIn('state', ['queued', 'running'])->exists();
            $changed = Bake::query()->whereKey($bake->id)->where('state', $bake->state)->where('frames_done', $bake->frames_done)->update([
                'frames_done' => $sound, 'kept' => min($bake->kept, $sound), 'mended' => self::said($bake, $sound),
                'state' => $again ? 'queued' : ($bake->state === 'done' ? 'cancelled' : $bake->state), 'note' => $again ? 'Waiting for a worker' : '',
            ]);
            if ($changed === 1) {
                $bake->files()->cutTo($sound);
            }
            if ($again && $changed === 1) {
                BakeSlice::next($bake);
            }
        });
        $bake->refresh();

        return true;
    }

    /** The bakes of a shot, those asked for last. */
    public static function ofShot(Shot $shot): void
    {
        /** @var iterable<Bake> $bakes */
        $bakes = $shot->bakes()->where('frames_done', '>', 0)->latest('wanted_at')->limit(StartBake::LOOKED_AT)->get();
        foreach ($bakes as $bake) {
            self::of($bake);
        }
    }

    /** What is said of frames that were thrown away, in words. */
    public static function said(Bake $bake, int $sound): string
    {
        [$from, $to] = [$bake->first + $sound, $bake->first + $bake->frames_done - 1];

        return $from === $to
            ? "Frame $from was damaged on the disk, so it was thrown away to be computed again."
            : "Frames $from to $to were damaged on the disk, so they were thrown away to be computed again.";
    }
}
