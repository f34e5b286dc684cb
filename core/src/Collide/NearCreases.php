<?php

declare(strict_types=1);

namespace YardBreak\Core\Collide;

/** Corners and convex edges of what stands and moves, as they lie in the scene, and how they go. */
final class NearCreases
{
    /** @var list<float> m, corners */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];

    /** @var list<float> unit: which way the surface looks there */
    public array $nx = [];

    /** @var list<float> */
    public array $ny = [];

    /** @var list<float> */
    public array $nz = [];

    /** @var list<float> m/s */
    public array $vx = [];

    /** @var list<float> */
    public array $vy = [];

    /** @var list<float> */
    public array $vz = [];

    /** @var list<int> flat: prop and piece of each corner */
    public array $of = [];

    /** @var list<int> flat: corners at the ends of edges */
    public array $edges = [];

    /** @var list<float> unit: which way the surface looks along each edge */
    public array $ex = [];

    /** @var list<float> */
    public array $ey = [];

    /** @var list<float> */
    public array $ez = [];
}
