<?php

declare(strict_types=1);

namespace App\Jobs;

use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Shot\DriftRun;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** Works out where the pieces of a drifting prop are: each frame a record as of a bake, of this prop alone. */
final class MakeDrift extends MakeFrames
{
    public function __construct(string $shotId, private readonly string $prop, string $key, int $frame)
    {
        parent::__construct($shotId, $key, $frame);
    }

    protected function isThere(ShotSpec $shot): bool
    {
        return $shot->prop($this->prop)?->motion->drift !== null;
    }

    protected function keys(MapRun $run): array
    {
        return (new DriftRun($run))->keys($this->prop);
    }

    protected function remembers(MapRun $run): bool
    {
        return $run->remembers($run->prop($this->prop)->motion->drift->map ?? '');
    }

    protected function bytes(MapRun $run, int $frame): string
    {
        [$poses, $sizes] = (new DriftRun($run))->at($this->prop, (float) $frame);

        return FrameRecord::encode($frame, [0 => [StreamKind::Poses->value => self::packed($poses), StreamKind::Sizes->value => self::packed($sizes)]]);
    }

    /** @param  list<float>  $values */
    private static function packed(array $values): string
    {
        $out = '';
        foreach (array_chunk($values, 8192) as $chunk) {
            $out .= pack('g*', ...$chunk);
        }

        return $out;
    }
}
