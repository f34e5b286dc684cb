<?php

declare(strict_types=1);

// A running job renews its claim every second; one that has not for `retry_after` seconds goes to another worker.
use App\Jobs\Turn;

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        'database' => ['driver' => 'database', 'table' => 'jobs', 'queue' => 'default', 'retry_after' => 4, 'after_commit' => false],
        'workers' => ['driver' => 'database', 'table' => 'jobs', 'queue' => Turn::ORDER, 'retry_after' => 4, 'after_commit' => false],
        'redis' => ['driver' => 'redis', 'connection' => 'default', 'queue' => 'default', 'retry_after' => 4, 'block_for' => null],
    ],
    'failed' => ['driver' => 'database-uuids', 'database' => 'sqlite', 'table' => 'failed_jobs'],
];
