<?php

declare(strict_types=1);

return [
    'default' => 'daily',
    'channels' => ['daily' => ['driver' => 'daily', 'days' => 14, 'path' => storage_path('logs/yard.log'), 'level' => env('LOG_LEVEL', 'warning')]],
];
