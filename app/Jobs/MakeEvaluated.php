<?php

declare(strict_types=1);

namespace App\Jobs;

use YardBreak\Core\Bake\FrameRecord;
use YardBreak\Core\Shot\Evaluation;
use YardBreak\Core\Shot\MapRun;
use YardBreak\Core\Shot\ShotSpec;

/** Works out what of a prop is evaluated: each frame a record as of a bake, of this prop alone. */
final class MakeEvaluated extends MakeFrames
{
    public function __construct(string $shotId, private readonly string $prop, string $key, int $frame, ?string $bakeId = null)
    {
        parent::__construct($shotId, $key, $frame, $bakeId);
    }

    protected function isThere(ShotSpec $shot): bool
    {
        $prop = $shot->prop($this->prop);

        return $prop !== null && Evaluation::needs($prop);
    }

    protected function keys(MapRun $run): array
    {
        return (new Evaluation($run))->keys($this->prop);
    }

    protected function remembers(MapRun $run): bool
    {
        return (new Evaluation($run))->remembers($this->prop);
    }

    protected function bytes(MapRun $run, int $frame): string
    {
        return FrameRecord::encode($frame, [0 => (new Evaluation($run))->streams($this->prop, $frame)]);
    }
}
