<?php

declare(strict_types=1);

namespace App\Yard;

use App\Jobs\BakeSlice;
use App\Models\Bake;
use App\Models\Shot;
use App\Models\Trial;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Bake\History;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** Begins a bake of a shot as it is now, from the frames that are still true. */
final class StartBake
{
    /** Bakes looked through for such frames. */
    public const LOOKED_AT = 8;

    /**
     * @return Bake where all is there already, the bake that has it; where the same is under way, that one
     *
     * @throws Problem where there is nothing to bake
     */
    public static function of(Shot $shot): Bake
    {
        return self::from($shot, $shot->document, self::movable($shot->spec()), true, null);
    }

    /**
     * The same for a variant of a shot, beside the shot's own.
     *
     * @param  Trial  $trial  whose other variants may have frames it shares
     *
     * @throws Problem where there is nothing to bake
     */
    public static function ofVariant(Shot $shot, string $document, Trial $trial): Bake
    {
        return self::from($shot, $document, self::movable(ShotSpec::ofKept($document)), false, $trial);
    }

    /** @throws Problem where nothing of it can move */
    private static function movable(ShotSpec $spec): ShotSpec
    {
        $spec = Foresight::known($spec);
        if ($spec->props === []) {
            throw Problem::inValue('props', 'There is nothing to bake yet.', 'Bring in or build a prop on the Props stage.');
        }
        if (array_filter($spec->props, static fn (PropSpec $prop): bool => $prop->motion->kind !== 'fixed' || $prop->dust !== [] || Evaluation::needs($prop)) === []) {
            throw new Problem('still', 'Nothing in this shot can move, so every frame would be the same.', 'props', 'Let a prop fall, or key one, on the Motion stage.');
        }

        return $spec;
    }

    private static function from(Shot $shot, string $document, ShotSpec $spec, bool $own, ?Trial $trial): Bake
    {
        $fingerprint = self::fingerprint($spec);
        // What is taken over must hold to the last bit.
        do {
            $taken = self::stillTrue($shot, $spec, $trial)[0];
        } while ($taken !== null && Mending::of($taken));

        return DB::transaction(static function () use ($shot, $document, $spec, $own, $trial, $fingerprint): Bake {
            $wanted = $own ? ['document' => $document, 'own' => true, 'wanted_at' => now()->format('Y-m-d H:i:s.u')] : [];
            /** @var Bake|null $open */
            $open = $shot->bakes()->where('fingerprint', $fingerprint)->whereIn('state', ['queued', 'running'])->first();
            if ($own) {
                Bake::callOff($shot->bakes()->where('own', true)->where('id', '!=', $open->id ?? ''));
            }
            if ($open !== null) {
                $open->update($open->own ? [] : $wanted);

                return $open;
            }
            [$best, $frames] = self::stillTrue($shot, $spec, $trial);
            if ($best !== null && $frames === $spec->last - $spec->first + 1 && $best->state === 'done') {
                $best->update($wanted);

                return $best;
            }
            $bake = $shot->bakes()->create($wanted + [
                'document' => $document, 'own' => false, 'wanted_at' => now()->format('Y-m-d H:i:s.u'),
                'fingerprint' => $fingerprint, 'state' => 'queued', 'first' => $spec->first, 'last' => $spec->last, 'note' => 'Waiting for a worker',
                'kept' => $frames, 'frames_done' => $frames, 'counts' => $best->counts ?? [], 'shards' => $best->shards ?? [], 'pieces' => $best->pieces ?? 0,
                'anchored' => $best?->foundWithin($frames) ?? [],
            ]);
            if ($best !== null && $frames > 0) {
                $bake->files()->takeFrom($best->files(), $frames);
            }
            BakeSlice::next($bake);

            return $bake;
        })->refresh();
    }

    /**
     * What a bake would find: the frames that are still true, and what makes the next one another.
     *
     * @return array{kept: int, same: int, what: string|null, seconds: float|null} frames that need no computing; those of the latest bake that are still true; what makes its next one another, in words; seconds the others will take, as far as that can be told
     */
    public static function plan(Shot $shot, ?Bake $latest): array
    {
        $spec = Foresight::known($shot->spec());
        [$best, $kept] = self::stillTrue($shot, $spec);
        $parts = $latest?->history()->partsFrom(History::of($spec, $latest->anchored));
        $same = $latest === null ? 0 : min($latest->frames_done, $parts === null ? PHP_INT_MAX : max(0, $parts['frame'] - $spec->first), $spec->last - $spec->first + 1);
        $what = $parts === null || $latest === null || $parts['frame'] > min($latest->last, $spec->last) ? null : $parts['what'];
        $from = $best ?? $latest;
        $by = $from === null ? [] : array_column($from->files()->figures(), 'seconds', 'frame');
        $mean = $by === [] ? null : array_sum($by) / count($by);
        $seconds = null;
        for ($frame = $spec->first + $kept; $mean !== null && $frame <= $spec->last; $frame++) {
            $seconds += $by[$frame] ?? $mean;
        }

        return ['kept' => $kept, 'same' => $same, 'what' => $what, 'seconds' => $seconds === null ? null : round($seconds, 4)];
    }

    /**
     * @param  Trial|null  $trial  whose variants are looked at too
     * @return array{Bake|null, int} the bake with the most frames that are still true, and how many these are
     */
    public static function stillTrue(Shot $shot, ShotSpec $spec, ?Trial $trial = null): array
    {
        $best = null;
        $most = 0;
        $ended = static fn () => $shot->bakes()->where('frames_done', '>', 0)->whereNotIn('state', ['queued', 'running'])->latest('wanted_at');
        /** @var Collection<int, Bake> $bakes */
        $bakes = $ended()->where('own', true)->limit(self::LOOKED_AT)->get()
            // What it is known by is worked out only where a variant may have it.
            ->concat($ended()->where('own', false)->exists() ? $ended()->where('own', false)->where('fingerprint', self::fingerprint($spec))->limit(1)->get() : [])
            ->concat($trial === null ? [] : $ended()->where('own', false)->whereIn('id', $trial->variants()->whereNotNull('bake_id')->select('bake_id'))->limit(self::LOOKED_AT)->get());
        foreach ($bakes as $bake) {
            if ($bake->first !== $spec->first) {
                continue;
            }
            $same = History::of($spec, $bake->anchored)->shares($bake->history(), $bake->frames_done);
            if ($same > $most) {
                $best = $bake;
                $most = $same;
            }
        }

        return [$best, $most];
    }

    private static function fingerprint(ShotSpec $spec): string
    {
        $chain = History::of($spec)->chain();

        return bin2hex($chain[count($chain) - 1]);
    }
}
