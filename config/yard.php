<?php

declare(strict_types=1);

return [
    // Bytes. Larger uploads are refused in words.
    'largest_upload' => (int) env('YARD_LARGEST_UPLOAD', 200 * 1024 * 1024),
    // Bytes of a mesh that is read while its sender waits; larger ones are read in the background.
    'read_at_once' => 4 * 1024 * 1024,
    // Bytes of any other request.
    'largest_change' => 16 * 1024 * 1024,
    // Seconds that what nothing refers to any more is kept, deleted shots among it.
    'clear_after' => 24 * 3600,
    // Bytes that what can be made again may take (pieces, pictures, maps, bakes): what was used longest ago goes first.
    'keep' => (int) env('YARD_KEEP', 800_000_000),
    // Seconds a worker bakes before it lets another shot have its turn.
    'bake_slice' => 8.0,
    // Seconds a worker works out frames somebody looks at, where another job waits.
    'frames_slice' => 2.0,
];
