<?php

declare(strict_types=1);

namespace YardBreak\Core\Timing;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** Keys on position and turn. Between keys both run evenly; before the first and after the last they hold. */
final readonly class PoseTrack
{
    /** @param  list<array{frame: float, position: Vec3, turn: Quaternion}>  $keys in rising order of frame */
    public function __construct(private array $keys)
    {
    }

    public function isEmpty(): bool
    {
        return $this->keys === [];
    }

    /** Whether anything moves after this frame. */
    public function movesAfter(float $frame): bool
    {
        return count($this->keys) > 1 && $frame < $this->keys[count($this->keys) - 1]['frame'];
    }

    public function at(float $frame): Placement
    {
        $keys = $this->keys;
        $n = count($keys);
        if ($n === 0) {
            return Placement::identity();
        }
        if ($frame <= $keys[0]['frame']) {
            return new Placement($keys[0]['position'], $keys[0]['turn']);
        }
        for ($k = 1; $k < $n; $k++) {
            if ($frame <= $keys[$k]['frame']) {
                $a = $keys[$k - 1];
                $b = $keys[$k];
                $share = ($frame - $a['frame']) / ($b['frame'] - $a['frame']);

                return new Placement($a['position']->plus($b['position']->minus($a['position'])->times($share)), $a['turn']->towards($b['turn'], $share));
            }
        }

        return new Placement($keys[$n - 1]['position'], $keys[$n - 1]['turn']);
    }
}
