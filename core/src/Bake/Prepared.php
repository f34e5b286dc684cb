<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Geometry\Vec3;

/** What is known of the pieces of a prop before anything moves. */
final readonly class Prepared
{
    /**
     * @param  list<string>  $names
     * @param  list<Vec3>  $middles  in the prop's own coordinates
     * @param  array<int, true>  $grounded  pieces that stand on the ground
     * @param  \Closure(): list<array{int, int, float}>  $ways  between pieces that lie face to face
     */
    public function __construct(public array $names, public array $middles, public array $grounded, private \Closure $ways)
    {
    }

    /** @return array<int, list<int>> pieces beside a piece */
    public function beside(): array
    {
        $out = [];
        foreach (($this->ways)() as [$a, $b]) {
            $out[$a][] = $b;
            $out[$b][] = $a;
        }

        return $out;
    }
}
