<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Option;
use YardBreak\Core\Timing\NumberInTime;

/** How far something acts from where it comes from: in full at its middle, evenly less to nothing. */
final class Reach
{
    public static function option(): Option
    {
        return new Option('reach', 'None beyond', 'It falls off evenly to nothing this far away; 0 for the same everywhere.', NumberInTime::class, 0.0, 0.0, 10000.0, 'm');
    }

    public static function share(float $distance, float $reach): float
    {
        return $reach > 0.0 ? max(0.0, 1.0 - $distance / $reach) : 1.0;
    }
}
