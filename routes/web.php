<?php

declare(strict_types=1);

use Illuminate\Support\Facades\Route;

Route::get('up', static fn () => response('up', 200, ['Content-Type' => 'text/plain']));
Route::view('/{any?}', 'app')->where('any', '(?!(api|up|build)(/|$)).*');
