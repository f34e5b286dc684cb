<?php

declare(strict_types=1);

namespace App\Yard;

use App\Http\FastLane;
use App\Models\Bake;
use App\Models\Shot;
use YardBreak\Core\Shot\PropSpec;
use YardBreak\Core\Shot\ShotSpec;

/** What the browser is told about a shot. */
final class ShotView
{
    /** @return array<string, mixed> */
    public static function of(Shot $shot): array
    {
        $editor = new ShotEditor;

        return [
            'id' => $shot->id,
            'revision' => $shot->revision,
            'document' => $shot->decoded(),
            'tags' => array_map(static fn (PropSpec $p): string => self::tag($p), array_column($shot->spec()->props, null, 'id')),
            'meets' => array_map(static fn (PropSpec $p): string => $p->motion->collidesAs(), array_column($shot->spec()->props, null, 'id')),
            'pace' => $shot->spec()->keysFollow() ? $shot->spec()->pace->table() : [],
            'undo' => $editor->lastDone($shot)?->label,
            'redo' => $editor->firstUndone($shot)?->label,
        ];
    }

    /** What a prop's picture is marked with; the same where nothing about its shape has changed. */
    public static function tag(PropSpec $prop): string
    {
        return '"'.substr(hash('xxh128', PropPicture::key($prop)), 0, 24).'"';
    }

    /** @return array<string, mixed> what is told of every bake that is looked at */
    public static function told(Bake $bake): array
    {
        $props = ShotSpec::propsIn($bake->document);

        return [
            'id' => $bake->id, 'state' => $bake->state, 'first' => $bake->first, 'last' => $bake->last,
            'framesDone' => $bake->frames_done, 'pieces' => $bake->pieces, 'counts' => $bake->counts, 'kept' => $bake->kept, 'seconds' => round($bake->seconds, 2),
            'note' => $bake->note, 'problem' => $bake->problem, 'anchored' => (object) $bake->anchored,
            'props' => array_keys($props), 'dusty' => in_array(true, $props, true),
        ];
    }

    /** @return array<string, mixed>|null */
    public static function bake(?Bake $bake, Shot $shot): ?array
    {
        if ($bake === null) {
            return null;
        }

        return self::told($bake) + [
            'mended' => $bake->mended, 'plan' => StartBake::plan($shot, $bake), 'fingerprint' => substr($bake->fingerprint, 0, 12), 'startedAt' => $bake->created_at->toIso8601String(),
            'stalled' => FastLane::stalled($bake->state, (string) $bake->getRawOriginal('updated_at'), $bake->note, (string) config('database.connections.sqlite.database')),
        ];
    }
}
