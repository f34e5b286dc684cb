<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Motion\FrameWriter;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\ShotSpec;

/** Writes what keys alone decide of a frame, where it is not the usual: what is not shown, and how it looks. */
final class Recorder
{
    public static function write(ShotSpec $shot, FrameWriter $frame): void
    {
        foreach ($shot->props as $k => $prop) {
            if ($prop->seen->at($frame->frame) < 0.5) {
                $frame->put($k, StreamKind::Visibility, "\0");
            }
            $roughness = $prop->material->roughness?->at($frame->frame);
            $tint = $prop->material->tint->at($frame->frame);
            if ($roughness !== null || $tint > 0.0) {
                $frame->put($k, StreamKind::Looks, pack('g2', $roughness ?? -1.0, $tint));
            }
        }
    }
}
