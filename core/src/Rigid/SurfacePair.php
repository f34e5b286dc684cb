<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/** What is kept of a hull and a surface that are near each other. */
final class SurfacePair
{
    /** @var list<float> where the hull's body is, seen from the surface's: place (3) and turn (4), when its contacts were made; none where there are none */
    public array $pose = [];

    /** @var list<list<float>> by contact: normal from the surface (3), then six numbers a point: in the axes of the hull's body, in those of the surface's */
    public array $contacts = [];

    /** @var list<list<float>> impulses of its points, by contact */
    public array $push = [];

    /** @var list<array{float, float, float, float}> friction and twist, by contact */
    public array $rub = [];

    /** @var array{float, float, float}|null where the hull's middle was when it was last in front of all faces, axes of the surface */
    public ?array $before = null;

    /** Which side of a sheet counts; 0 where that is not known yet. */
    public int $side = 0;

    /** Round in which they were last near. */
    public int $stamp = 0;
}
