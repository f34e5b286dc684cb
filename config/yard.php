<?php

declare(strict_types=1);

return [
    // Bytes. Larger uploads are refused in words.
    'largest_upload' => (int) env('YARD_LARGEST_UPLOAD', 200 * 1024 * 1024),
    // Bytes of any other request.
    'largest_change' => 16 * 1024 * 1024,
    // Seconds of baking between two checkpoints.
    'bake_slice' => 8.0,
];
