<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Shot\ShotSpec;

/** What is doubtful about keys and cues; none of it is lost or left out. */
final class TimeCheck
{
    /** @return list<array{level: 'wrong'|'doubtful', path: string, prop: string, message: string, remedy: string}> */
    public static function of(ShotSpec $shot): array
    {
        $out = [];
        $say = static function (string $level, string $path, string $message, string $remedy) use ($shot, &$out): void {
            /** @var 'wrong'|'doubtful' $level */
            $out[] = [
                'level' => $level,
                'path' => $path,
                'prop' => preg_match('/^props\[(\d+)]/', $path, $m) === 1 ? $shot->idAt((int) $m[1]) : '',
                'message' => $message,
                'remedy' => $remedy,
            ];
        };
        foreach ($shot->valuesInTime() as [$path, $name, $keys]) {
            self::keys($shot, $path, $name, $keys, $say);
        }
        foreach ($shot->props as $prop) {
            if ($prop->motion->kind === 'keyed' && ! $prop->place->moves() && ! $prop->place->waits()) {
                $say(
                    'doubtful',
                    'props['.$shot->numberOf($prop->id).'].motion.kind',
                    $prop->name.': it is keyed, but nothing of its place has keys.',
                    'Key its position, turn or size, or make it fixed.',
                );
            }
        }
        foreach ($shot->fixedWithKeys() as [$path, $name]) {
            $say('doubtful', $path, $name.': it is fixed, so its keys do nothing.', 'Make it keyed on the Motion stage.');
        }
        self::cues($shot, $say);

        return $out;
    }

    /**
     * @param  list<array<string, mixed>>  $keys
     * @param  \Closure(string, string, string, string): void  $say
     */
    private static function keys(ShotSpec $shot, string $path, string $name, array $keys, \Closure $say): void
    {
        $at = [];
        $outside = 0;
        foreach ($keys as $key) {
            $anchor = isset($key['cue']) ? $shot->moments->frame($key['cue']) : 0.0;
            if ($anchor === null) {
                continue;
            }
            $frame = $anchor + (float) (isset($key['cue']) ? $key['offset'] ?? 0 : $key['frame'] ?? 0);
            $at[(string) $frame] = ($at[(string) $frame] ?? 0) + 1;
            $outside += $frame < $shot->first || $frame > $shot->last ? 1 : 0;
        }
        foreach ($at as $frame => $count) {
            if ($count > 1) {
                $say('doubtful', $path, $name.' has '.$count.' keys on frame '.$frame.'; the last of them counts.', 'Move or remove the others.');
            }
        }
        if ($outside > 0 && count($at) > 1) {
            $say(
                'doubtful',
                $path,
                $name.' has '.($outside === 1 ? 'a key' : $outside.' keys').' outside frames '.$shot->first.' to '.$shot->last.'.',
                'This may be meant; else move them, or set another range.',
            );
        }
    }

    /** @param  \Closure(string, string, string, string): void  $say */
    private static function cues(ShotSpec $shot, \Closure $say): void
    {
        foreach ($shot->cues as $k => $cue) {
            if (! $cue->isFound()) {
                continue;
            }
            $moving = array_filter([$cue->one, $cue->other], static fn (string $id): bool => ($shot->prop($id)?->motion->kind ?? 'fixed') !== 'fixed');
            if ($cue->isTouch() && $moving === []) {
                $say(
                    'doubtful',
                    'cues['.$k.'].at',
                    'The cue "'.$cue->name.'" waits for a touch of two that never move.',
                    'Choose others, or let one of them move.',
                );
            }
            foreach ($shot->isForeseen($cue) ? [] : $shot->tiedTo($cue->id) as [$path, $offset]) {
                if ($offset < 0.0) {
                    $say(
                        'wrong',
                        $path,
                        'This comes '.-$offset.' frames before the cue "'.$cue->name.'", which only the bake finds.',
                        'Tie it to a frame, or key the prop that strikes.',
                    );
                }
            }
        }
    }
}
