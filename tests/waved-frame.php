<?php

declare(strict_types=1);

// A baked frame of a mover that stands in the tests alone, and its prop as the page is sent them: for the page's own tests.

use App\Yard\PropPicture;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Tests\Motion\Waves;
use YardBreak\Core\Tests\Weight\Maps;

require __DIR__.'/../vendor/autoload.php';

$frame = 8;
$shot = Waves::shot();
$shards = Waves::shards($shot);
$frames = iterator_to_array(Waves::ready($shot, $shards)->frames(), false);
$corners = [];
$points = Waves::points($shards['block'], $frame);
$before = 0;
foreach ($shards['block'] as $shard) {
    foreach ($shard->mesh->faces as $v) {
        array_push($corners, ...$points[$before + $v]);
    }
    $before += $shard->mesh->vertexCount();
}
echo json_encode(['record' => base64_encode(FrameRecord::encode($frame, $frames[$frame]->streams)), 'pieces' => base64_encode(PropPicture::encode($shot->props[0], $shards['block'], Maps::maker())), 'corners' => $corners]);
