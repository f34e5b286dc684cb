<?php

declare(strict_types=1);

namespace App\Yard;

use App\Storage\ShardStore;
use App\Storage\YardFiles;
use YardBreak\Core\Bake\Foresight as Foreseen;
use YardBreak\Core\Progress;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** Touches, and maps reaching a share, that keys alone decide: found once for each way the props move. */
final class Foresight
{
    public function __construct(private readonly ShardStore $store, private readonly StoredParts $parts)
    {
    }

    /** The shot with those touches that were found before. */
    public static function known(ShotSpec $shot): ShotSpec
    {
        return Foreseen::of($shot, static fn (ShotSpec $now, Cue $cue): ?float => self::frame(self::kept(self::name($now, $cue))));
    }

    /**
     * The shot with all of them, as far as they ever come.
     *
     * @param  bool  $make  whether pieces are made that are not there yet; else such a touch is left open
     */
    public function of(ShotSpec $shot, bool $make, Progress $progress = new SilentProgress): ShotSpec
    {
        return Foreseen::of($shot, function (ShotSpec $now, Cue $cue) use ($make, $progress): ?float {
            $name = self::name($now, $cue);
            $kept = self::kept($name);
            $missing = array_filter(array_filter([$now->prop($cue->one), $now->prop($cue->other)]), fn (PropSpec $p): bool => ! $this->store->isReady($p));
            // How far a map reaches takes longer than a question may wait for.
            if ($kept === null && ($make || $missing === [] && $cue->isTouch())) {
                $frame = Foreseen::frame($now, $cue, fn (PropSpec $p): array => $this->store->solids($p, $progress), $this->parts, $progress);
                YardFiles::write($name, $kept = $frame === null ? 'never' : (string) $frame);
            }

            return self::frame($kept);
        });
    }

    private static function kept(string $name): ?string
    {
        $kept = @file_get_contents(YardFiles::folder($name));

        return $kept === false ? null : $kept;
    }

    private static function frame(?string $kept): ?float
    {
        return is_numeric($kept) ? (float) $kept : null;
    }

    private static function name(ShotSpec $shot, Cue $cue): string
    {
        $hash = Foreseen::key($shot, $cue, app(StoredParts::class));

        return 'touches/'.substr($hash, 0, 2).'/'.$hash;
    }
}
