<?php

declare(strict_types=1);

use App\Http\FastLane;
use Illuminate\Http\Request;

$root = dirname(__DIR__);
header_remove('X-Powered-By');
require $root.'/app/Http/Address.php';
require $root.'/app/Http/Door.php';
require $root.'/app/Http/FastLane.php';
require $root.'/app/Storage/FrameStore.php';
require $root.'/app/Storage/MapPath.php';
require $root.'/app/Storage/Sealed.php';
$lane = new FastLane(__DIR__, getenv('YARD_FILES') ?: $root.'/storage/app', getenv('DB_DATABASE') ?: $root.'/storage/yard.sqlite');
$answer = $lane->answer($_SERVER, $_GET, $_COOKIE);
if ($answer !== null) {
    FastLane::send($answer);

    return;
}

define('LARAVEL_START', microtime(true));
require $root.'/vendor/autoload.php';
$app = require_once $root.'/bootstrap/app.php';
$app->handleRequest(Request::capture());
