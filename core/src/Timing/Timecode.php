<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Problem;

/**
 * Hours, minutes, seconds and frames. At 29.97 and 59.94 frames a second the first two (four) numbers of every minute but
 * each tenth are left out, so that the count keeps up with the clock; `;` before the frames says so. SMPTE ST 12-1.
 */
final class Timecode
{
    public static function of(int $frame, Rate $rate): string
    {
        $sign = $frame < 0 ? '-' : '';
        $n = abs($frame);
        $fps = $rate->nominal();
        if ($rate->drops()) {
            $drop = intdiv($fps, 15);
            $minute = 60 * $fps - $drop;
            $ten = 10 * $minute + $drop;
            $tens = intdiv($n, $ten);
            $rest = $n % $ten;
            $n += 9 * $drop * $tens + ($rest > $drop ? $drop * intdiv($rest - $drop, $minute) : 0);
        }

        return sprintf(
            '%s%02d:%02d:%02d%s%02d',
            $sign,
            intdiv($n, 3600 * $fps),
            intdiv($n, 60 * $fps) % 60,
            intdiv($n, $fps) % 60,
            $rate->drops() ? ';' : ':',
            $n % $fps,
        );
    }

    /** @throws Problem where it is no timecode, or names a number that is left out */
    public static function frame(string $code, Rate $rate): int
    {
        if (preg_match('/^(-?)(\d{1,2}):(\d{2}):(\d{2})[:;](\d{2})$/', trim($code), $m) !== 1) {
            throw Problem::inValue('', 'A timecode is hours, minutes, seconds and frames, as 00:00:04:12.', 'Write it so.');
        }
        [$h, $min, $s, $f] = array_map(intval(...), array_slice($m, 2));
        $fps = $rate->nominal();
        if ($min > 59 || $s > 59 || $f >= $fps) {
            throw Problem::inValue('', 'There are at most 59 minutes, 59 seconds and '.($fps - 1).' frames in a timecode.', 'Correct it.');
        }
        $n = ((60 * $h + $min) * 60 + $s) * $fps + $f;
        if ($rate->drops()) {
            $drop = intdiv($fps, 15);
            if ($s === 0 && $f < $drop && $min % 10 !== 0) {
                throw Problem::inValue('', 'At this rate the first '.$drop.' frames of a minute have no number, but in every tenth.', 'Take frame '.$drop.'.');
            }
            $minutes = 60 * $h + $min;
            $n -= $drop * ($minutes - intdiv($minutes, 10));
        }

        return $m[1] === '-' ? -$n : $n;
    }
}
