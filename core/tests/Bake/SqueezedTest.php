<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** Shards caught between a branch on its keys and the boards it goes through. */
final class SqueezedTest extends TestCase
{
    public function test_what_is_squeezed_is_not_shot_out_of_the_yard(): void
    {
        $shot = ShotSpec::fromJson((string) file_get_contents(dirname(__DIR__, 3).'/resources/demo/roof-and-branch.json'));
        $maker = new PropMaker(new class implements AssetSource
        {
            public function path(string $asset): string
            {
                throw new \LogicException($asset);
            }
        });
        $shards = [];
        foreach ($shot->props as $prop) {
            $shards[$prop->id] = $maker->shards($prop, new SilentProgress);
        }
        $baker = new Baker($shot, $shards);
        $baker->firstFrame();
        $farthest = 0.0;
        while ($baker->frameNumber() < $shot->last) {
            foreach (array_chunk((array) unpack('g*', $baker->nextFrame()->records), 8) as [$x, $y, $z]) {
                $farthest = max($farthest, abs($x), abs($y), abs($z));
            }
        }
        // The branch comes at some metres a second; in three and a half seconds what it strikes may go about so far.
        self::assertLessThan(10.0, $farthest);
    }
}
