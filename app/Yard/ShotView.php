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
            'undo' => $editor->lastDone($shot)?->label,
            'redo' => $editor->firstUndone($shot)?->label,
        ];
    }

    /** What a prop's picture is marked with; the same where nothing about its shape has changed. */
    public static function tag(PropSpec $prop): string
    {
        return '"'.substr($prop->shardKey(), 0, 24).'"';
    }

    /** @return array<string, mixed>|null */
    public static function bake(?Bake $bake, Shot $shot): ?array
    {
        if ($bake === null) {
            return null;
        }
        $spec = $shot->spec();
        $now = $spec->bakeParts();
        $changed = array_keys(array_filter($now + $bake->parts, static fn (string $_, string $part): bool => ($now[$part] ?? null) !== ($bake->parts[$part] ?? null), ARRAY_FILTER_USE_BOTH));
        $names = $changed === [] ? [] : array_column([...$bake->spec()->props, ...$spec->props], 'name', 'id');

        return [
            'id' => $bake->id, 'state' => $bake->state, 'first' => $bake->first, 'last' => $bake->last,
            'framesDone' => $bake->frames_done, 'pieces' => $bake->pieces, 'seconds' => round($bake->seconds, 2),
            'note' => $bake->note, 'problem' => $bake->problem, 'changed' => $changed, 'outOfDate' => array_map(static fn (string $part): string => ShotSpec::partInWords($part, $names), $changed),
            'fingerprint' => substr($bake->fingerprint, 0, 12), 'startedAt' => $bake->created_at->toIso8601String(),
            'stalled' => FastLane::stalled($bake->state, (string) $bake->getRawOriginal('updated_at'), $bake->note),
        ];
    }
}
