<?php

declare(strict_types=1);

namespace App\Storage;

use YardBreak\Core\Problem;

/** What went wrong in the background, kept with the values that led there and said whenever they are asked for again. */
final class Faults
{
    public static function keep(string $name, Problem $problem): void
    {
        try {
            YardFiles::write($name, (string) json_encode($problem->toArray()));
        } catch (Problem) {
            // Where not even this can be written, it is tried again as often as it is asked for.
        }
    }

    /** A full disk is no fault of these values: once there is room, it is forgotten. */
    public static function of(string $name): ?Problem
    {
        $kept = json_decode((string) @file_get_contents($path = YardFiles::folder($name)), true);
        if (! is_array($kept)) {
            return null;
        }
        $problem = Problem::fromArray($kept);
        if (in_array($problem->kind, [Problem::FULL, Problem::DISK], true) && Room::isThere()) {
            @unlink($path);

            return null;
        }

        return $problem;
    }
}
