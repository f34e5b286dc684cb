<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Geometry\NamedFaces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Weight\Body;
use YardBreak\Core\Weight\Picture;
use YardBreak\Core\Weight\Points;
use YardBreak\Core\Weight\Scene;

/** A frame of a shot as the sources of its maps see it. */
final readonly class MapScene implements Scene
{
    public function __construct(private MapRun $run, private int $at)
    {
    }

    public function frame(): float
    {
        return $this->at;
    }

    public function seconds(): float
    {
        return ($this->at - $this->run->shot->first) * $this->run->shot->frameTime();
    }

    public function limit(float $farthest): float
    {
        // What is kept is to serve whatever is made of it next.
        return $this->run->kept === null ? $farthest : INF;
    }

    public function place(string $prop): Placement
    {
        return $this->run->place($prop, $this->at);
    }

    public function shape(string $prop): string
    {
        return $this->run->shapeOf($prop, $this->at);
    }

    public function kept(string $of): ?array
    {
        return $this->run->kept?->recall($of);
    }

    public function keep(string $of, array $values): void
    {
        $this->run->kept?->keep($of, $values);
    }

    public function recall(string $of): ?array
    {
        return $this->run->parts->recall($of);
    }

    public function remember(string $of, array $values): void
    {
        $this->run->parts->keep($of, $values);
    }

    public function goOn(): void
    {
        $this->run->parts->goOn();
    }

    public function bodies(string $prop, string $what): array
    {
        return $this->run->bodiesOf($prop, $what, $this->at);
    }

    public function points(string $prop): Points
    {
        return $this->run->pointsOf($prop, MapRun::SURFACE);
    }

    public function pieces(string $prop): Points
    {
        return $this->run->pointsOf($prop, MapRun::PIECES);
    }

    public function surface(string $prop): Body
    {
        return $this->run->body($prop, 'points of a map', $this->at);
    }

    public function map(string $map, Points $on): array
    {
        $spec = $this->run->map($map);

        return [$spec->prop, $this->run->weightsOn($spec, $spec->prop === $on->prop ? $on : $this->points($spec->prop), $this->at)];
    }

    public function propOf(string $map): string
    {
        return $this->run->map($map)->prop;
    }

    public function picture(string $asset): Picture
    {
        return $this->run->picture($asset);
    }

    public function named(string $prop, NamedFaces $by, string $name): Body
    {
        return $this->run->named($prop, $by, $name);
    }

    public function extent(string $prop): float
    {
        return $this->run->extent($prop);
    }
}
