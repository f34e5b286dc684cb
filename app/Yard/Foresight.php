<?php

declare(strict_types=1);

namespace App\Yard;

use App\Storage\ShardStore;
use App\Storage\YardFiles;
use YardBreak\Core\Progress;
use YardBreak\Core\Rigid\Meeting;
use YardBreak\Core\Shot\Cue;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** Touches that keys alone decide, found once for each way the two props move. */
final class Foresight
{
    public function __construct(private readonly ShardStore $store)
    {
    }

    /** The shot with those touches that were found before. */
    public static function known(ShotSpec $shot): ShotSpec
    {
        foreach ($shot->foreseenInOrder() as $cue) {
            $kept = @file_get_contents(YardFiles::folder(self::name($shot, $cue)));
            if ($kept !== false && is_numeric($kept)) {
                $shot = $shot->with($shot->moments->known($cue->id, (float) $kept));
            }
        }

        return $shot;
    }

    /**
     * The shot with all of them, as far as they ever come.
     *
     * @param  bool  $make  whether pieces are made that are not there yet; else such a touch is left open
     */
    public function of(ShotSpec $shot, bool $make, Progress $progress = new SilentProgress): ShotSpec
    {
        foreach ($shot->foreseenInOrder() as $cue) {
            $name = self::name($shot, $cue);
            $one = $shot->prop($cue->one);
            $other = $shot->prop($cue->other);
            $there = $make || array_filter(array_filter([$one, $other]), fn (PropSpec $p): bool => ! $this->store->has($p)) === [];
            if ($one === null || ! $there) {
                continue;
            }
            if (! is_file(YardFiles::folder($name))) {
                $frame = Meeting::first($one->place, $this->store->solids($one, $progress), $other?->place, $other === null ? [] : $this->store->solids($other, $progress), $shot->first, $shot->last, $shot->frameTime(), $cue->speed, $progress);
                YardFiles::write($name, $frame === null ? 'never' : (string) $frame);
            }
            $shot = self::known($shot);
        }

        return $shot;
    }

    private static function name(ShotSpec $shot, Cue $cue): string
    {
        $key = [ShotSpec::BAKE_VERSION, $shot->first, $shot->last, $shot->rate->toArray(), $cue->speed];
        foreach ([$shot->prop($cue->one), $shot->prop($cue->other)] as $prop) {
            $key[] = $prop === null ? null : [$prop->shardKey(), $prop->place->shortest, array_map(static fn ($track): array => array_map(static fn (array $act): string => $act[0].' '.$act[1], $track->acts()), array_values($prop->place->tracks()))];
        }
        $hash = hash('sha256', (string) json_encode($key));

        return 'touches/'.substr($hash, 0, 2).'/'.$hash;
    }
}
