<?php

declare(strict_types=1);

return [
    // Bytes. Larger uploads are refused in words.
    'largest_upload' => (int) env('YARD_LARGEST_UPLOAD', 200 * 1024 * 1024),
    // Breaks of up to this many pieces are answered at once, larger ones by a job.
    'pieces_at_once' => 250,
    // Seconds of baking between two checkpoints.
    'bake_slice' => 8.0,
];
