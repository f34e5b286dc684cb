<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\AssetSource;
use YardBreak\Core\Shot\PropMaker;
use YardBreak\Core\Shot\ShotSpec;
use YardBreak\Core\SilentProgress;

/** Shards caught between a branch on its keys and the boards it goes through. */
final class SqueezedTest extends TestCase
{
    /** @return array<string, array{int}> */
    public static function seeds(): array
    {
        return ['as it comes' => [0], 'the next seed' => [1], 'the one after' => [2], 'a third' => [3]];
    }

    #[DataProvider('seeds')]
    public function test_what_is_squeezed_is_not_shot_out_of_the_yard(int $later): void
    {
        $document = json_decode((string) file_get_contents(dirname(__DIR__, 3).'/resources/demo/roof-and-branch.json'));
        foreach ($document->props as $prop) {
            if (isset($prop->break->values->seed)) {
                $prop->break->values->seed += $later;
            }
        }
        $shot = ShotSpec::fromJson((string) json_encode($document));
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
        $baker = Baker::of($shot, $shards);
        $baker->firstFrame();
        $farthest = 0.0;
        while ($baker->frameNumber() < $shot->last) {
            foreach ($baker->nextFrame()->streams as $kinds) {
                foreach (array_chunk((array) unpack('g*', $kinds[StreamKind::Poses->value]), 8) as [$x, $y, $z]) {
                    $farthest = max($farthest, abs($x), abs($y), abs($z));
                }
            }
        }
        // The branch comes at some metres a second; in three and a half seconds what it strikes may go about so far.
        self::assertLessThan(10.0, $farthest);
    }
}
