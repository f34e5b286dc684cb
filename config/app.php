<?php

declare(strict_types=1);

return [
    'name' => 'Yard Break',
    'env' => env('APP_ENV', 'production'),
    'debug' => (bool) env('APP_DEBUG', false),
    'url' => env('APP_URL', 'http://127.0.0.1:8120'),
    'timezone' => 'UTC',
    'locale' => 'en',
    'fallback_locale' => 'en',
    'cipher' => 'AES-256-CBC',
    // Nothing is encrypted or signed; the framework only asks that a key is there.
    'key' => env('APP_KEY', 'base64:'.base64_encode(str_repeat('yard', 8))),
    'maintenance' => ['driver' => 'file'],
];
