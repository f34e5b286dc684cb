<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Bake;
use App\Models\Variant;
use Illuminate\Support\Facades\DB;

/** In which order workers take up jobs: what a shot itself needs, then variants that are looked at, then all others. */
final class Turn
{
    private const SHOT = 'default';

    private const SEEN = 'seen';

    private const LATER = 'later';

    /** As workers are told it. */
    public const ORDER = self::SHOT.','.self::SEEN.','.self::LATER;

    /** Seconds after somebody looked at a variant that it comes first. */
    private const LOOKED_AT = 20;

    /** The queue a bake's next slice waits in. */
    public static function of(Bake $bake): string
    {
        if ($bake->own) {
            return self::SHOT;
        }

        return Variant::query()->where('bake_id', $bake->id)->where('seen_at', '>', now()->subSeconds(self::LOOKED_AT)->format('Y-m-d H:i:s'))->exists() ? self::SEEN : self::LATER;
    }

    /** Whether something waits that a shot itself needs. */
    public static function othersWait(): bool
    {
        return DB::table('jobs')->where('queue', self::SHOT)->whereNull('reserved_at')->where('available_at', '<=', time())->exists();
    }

    /** Lets a bake whose slice waits come in its turn, after that has changed. */
    public static function again(Bake $bake): void
    {
        DB::table('jobs')->whereNull('reserved_at')->where('queue', '!=', self::SHOT)->where('payload', 'like', '%'.$bake->id.'%')->update(['queue' => self::of($bake)]);
    }
}
