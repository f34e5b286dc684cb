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
    // Seconds of baking between two checkpoints.
    'bake_slice' => 8.0,
];
