<?php

declare(strict_types=1);

// A baked frame of a mover that stands in the tests alone, and its prop as the page is sent them, how often divided and how thick: for the page's own tests.

use App\Yard\PropPicture;
use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\Finish;
use YardBreak\Core\Cloth\Finished;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Tests\Motion\Waves;
use YardBreak\Core\Tests\Weight\Maps;

require __DIR__.'/../vendor/autoload.php';

$frame = 8;
$finish = new Finish((int) ($argv[1] ?? 0), (float) ($argv[2] ?? 0.0));
$shot = Waves::shot(finish: ['times' => $finish->times, 'thickness' => $finish->thickness]);
$shards = Waves::shards($shot);
$frames = iterator_to_array(Waves::ready($shot, $shards)->frames(), false);
$corners = [];
$points = Waves::points($shards['block'], $frame);
$finished = Finished::of(array_map(static fn (Shard $s): Mesh => $s->mesh, $shards['block']), $finish);
$normals = [];
foreach ($finished->at(array_column($points, 0), array_column($points, 1), array_column($points, 2)) as $mesh) {
    foreach ($mesh->faces as $v) {
        array_push($corners, $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
    }
    array_push($normals, ...$mesh->normals ?? []);
}
echo json_encode(['record' => base64_encode(FrameRecord::encode($frame, $frames[$frame]->streams)), 'pieces' => base64_encode(PropPicture::encode($shot->props[0], $shards['block'], Maps::maker())), 'corners' => $corners, 'normals' => $normals]);
