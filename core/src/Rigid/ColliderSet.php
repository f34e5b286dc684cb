<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\ContactSurface;
use YardBreak\Core\Collide\Hull;
use YardBreak\Core\Geometry\Vec3;

/**
 * The convex hulls of all bodies in shared packed arrays, with world copies that follow the bodies.
 * Corner numbers run through all colliders.
 */
final class ColliderSet
{
    /** @var list<int> */
    public array $body = [];

    /** @var list<float> */
    public array $friction = [];

    /** @var list<float> */
    public array $bounce = [];

    /** @var list<int> colliders of one group were one prop before it broke */
    public array $group = [];

    /** @var list<float> */
    public array $margin = [];

    /** @var list<float> radius of the corners, zero but for balls */
    public array $roundness = [];

    /** @var list<float> */
    public array $size = [];

    /** @var list<ContactSurface|null> true surfaces of those that have one; their corners are those of its box */
    public array $surface = [];

    /** @var list<float> share of their full size surfaces have */
    public array $scale = [];

    /** @var list<int> first corner, one entry more than colliders */
    public array $first = [0];

    /** @var list<float> corners, body axes, from the body's centre of mass */
    public array $lx = [];

    /** @var list<float> */
    public array $ly = [];

    /** @var list<float> */
    public array $lz = [];

    /** @var list<float> core corners likewise */
    public array $kx = [];

    /** @var list<float> */
    public array $ky = [];

    /** @var list<float> */
    public array $kz = [];

    /** @var list<float> core corners in the world */
    public array $cx = [];

    /** @var list<float> */
    public array $cy = [];

    /** @var list<float> */
    public array $cz = [];

    /** @var list<int> where each corner's list of neighbours starts, one entry more than corners */
    public array $nextTo = [0];

    /** @var list<int> */
    public array $neighbour = [];

    /** @var list<int> first face, one entry more than colliders */
    public array $firstFace = [0];

    /** @var list<float> face normals, body axes, flat triples */
    public array $faceNormal = [];

    /** @var list<bool> whether a face is a cut within its body, which nothing can touch */
    public array $faceInner = [];

    /** @var list<int> where each face's corner loop starts, one entry more than faces */
    public array $loopStart = [0];

    /** @var list<int> */
    public array $loop = [];

    /** @var list<float> bounding boxes in the world: x low, x high, y low, y high, z low, z high */
    public array $box = [];

    /** @var list<bool> whether the world copies are those of the body's present place */
    public array $fresh = [];

    public function add(int $body, Hull $hull, Vec3 $offset, float $friction, float $bounce, int $group): int
    {
        $id = count($this->body);
        $base = count($this->lx);
        $this->body[] = $body;
        $this->friction[] = $friction;
        $this->bounce[] = $bounce;
        $this->group[] = $group;
        $this->margin[] = $hull->margin;
        $this->size[] = $hull->size;
        $this->roundness[] = $hull->roundness;
        $this->fresh[] = false;
        $this->surface[] = null;
        $this->scale[] = 1.0;
        array_push($this->box, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        foreach ($hull->x as $i => $x) {
            $this->lx[] = $x + $offset->x;
            $this->ly[] = $hull->y[$i] + $offset->y;
            $this->lz[] = $hull->z[$i] + $offset->z;
            $this->kx[] = $hull->coreX[$i] + $offset->x;
            $this->ky[] = $hull->coreY[$i] + $offset->y;
            $this->kz[] = $hull->coreZ[$i] + $offset->z;
            $this->cx[] = $this->cy[] = $this->cz[] = 0.0;
            foreach ($hull->neighbours[$i] as $j) {
                $this->neighbour[] = $base + $j;
            }
            $this->nextTo[] = count($this->neighbour);
        }
        $this->first[] = count($this->lx);
        foreach ($hull->faces as $f => $loop) {
            array_push($this->faceNormal, ...$hull->normals[$f]);
            $this->faceInner[] = $hull->inner[$f] ?? false;
            foreach ($loop as $v) {
                $this->loop[] = $base + $v;
            }
            $this->loopStart[] = count($this->loop);
        }
        $this->firstFace[] = count($this->loopStart) - 1;

        return $id;
    }

    /** A body's true surface, about its middle. */
    public function addSurface(int $body, ContactSurface $surface, float $friction, float $bounce, int $group): int
    {
        $id = $this->add($body, Hull::boxAround($surface->box), Vec3::zero(), $friction, $bounce, $group);
        $this->surface[$id] = $surface;
        $this->size[$id] = $surface->size;

        return $id;
    }

    /** How it slides and bounces from now on. */
    public function surface(int $collider, float $friction, float $bounce): void
    {
        $this->friction[$collider] = $friction;
        $this->bounce[$collider] = $bounce;
    }

    /**
     * Makes a collider another size, about the centre of its body.
     *
     * @param  Hull|ContactSurface  $shape  what it was made of, at full size
     * @param  float  $scale  share of that
     */
    public function resize(int $collider, Hull|ContactSurface $shape, float $scale): void
    {
        $hull = $shape instanceof Hull ? $shape : Hull::boxAround($shape->box);
        $this->put($collider, $hull, Vec3::zero(), $scale);
        $this->scale[$collider] = $scale;
        $this->margin[$collider] = $scale * $hull->margin;
        $this->size[$collider] = $scale * $shape->size;
        $this->roundness[$collider] = $scale * $hull->roundness;
    }

    private function put(int $collider, Hull $hull, Vec3 $offset, float $scale): void
    {
        $at = $this->first[$collider];
        foreach ($hull->x as $i => $x) {
            $this->lx[$at + $i] = $scale * $x + $offset->x;
            $this->ly[$at + $i] = $scale * $hull->y[$i] + $offset->y;
            $this->lz[$at + $i] = $scale * $hull->z[$i] + $offset->z;
            $this->kx[$at + $i] = $scale * $hull->coreX[$i] + $offset->x;
            $this->ky[$at + $i] = $scale * $hull->coreY[$i] + $offset->y;
            $this->kz[$at + $i] = $scale * $hull->coreZ[$i] + $offset->z;
        }
        $this->fresh[$collider] = false;
    }

    /**
     * Gives a collider to a body.
     *
     * @param  Hull  $hull  what it was made of
     * @param  Vec3  $offset  of the hull's origin from the body's centre of mass, body axes
     */
    public function attach(int $collider, int $body, Hull $hull, Vec3 $offset): void
    {
        $this->body[$collider] = $body;
        $this->put($collider, $hull, $offset, 1.0);
    }

    /** Brings the world copies of everything that has moved up to date. */
    public function follow(World $w): void
    {
        $bodies = $this->body;
        $first = $this->first;
        $margin = $this->margin;
        $state = $w->state;
        $px = $w->px;
        $py = $w->py;
        $pz = $w->pz;
        $qx = $w->qx;
        $qy = $w->qy;
        $qz = $w->qz;
        $qw = $w->qw;
        $kx = $this->kx;
        $ky = $this->ky;
        $kz = $this->kz;
        $cx = $this->cx;
        $cy = $this->cy;
        $cz = $this->cz;
        $box = $this->box;
        $fresh = $this->fresh;
        $this->cx = $this->cy = $this->cz = $this->box = $this->fresh = [];
        for ($c = 0, $n = count($bodies); $c < $n; $c++) {
            $b = $bodies[$c];
            $s = $state[$b];
            if ($fresh[$c] && $s !== World::MOVING && $s !== World::KEYED && ! isset($w->shifted[$b])) {
                continue;
            }
            $x = $qx[$b];
            $y = $qy[$b];
            $z = $qz[$b];
            $v = $qw[$b];
            $m00 = 1.0 - 2.0 * ($y * $y + $z * $z);
            $m01 = 2.0 * ($x * $y - $z * $v);
            $m02 = 2.0 * ($x * $z + $y * $v);
            $m10 = 2.0 * ($x * $y + $z * $v);
            $m11 = 1.0 - 2.0 * ($x * $x + $z * $z);
            $m12 = 2.0 * ($y * $z - $x * $v);
            $m20 = 2.0 * ($x * $z - $y * $v);
            $m21 = 2.0 * ($y * $z + $x * $v);
            $m22 = 1.0 - 2.0 * ($x * $x + $y * $y);
            $ox = $px[$b];
            $oy = $py[$b];
            $oz = $pz[$b];
            $x0 = $y0 = $z0 = INF;
            $x1 = $y1 = $z1 = -INF;
            for ($k = $first[$c], $end = $first[$c + 1]; $k < $end; $k++) {
                $a = $kx[$k];
                $e = $ky[$k];
                $f = $kz[$k];
                $x = $m00 * $a + $m01 * $e + $m02 * $f + $ox;
                $y = $m10 * $a + $m11 * $e + $m12 * $f + $oy;
                $z = $m20 * $a + $m21 * $e + $m22 * $f + $oz;
                $cx[$k] = $x;
                $cy[$k] = $y;
                $cz[$k] = $z;
                if ($x < $x0) {
                    $x0 = $x;
                }
                if ($x > $x1) {
                    $x1 = $x;
                }
                if ($y < $y0) {
                    $y0 = $y;
                }
                if ($y > $y1) {
                    $y1 = $y;
                }
                if ($z < $z0) {
                    $z0 = $z;
                }
                if ($z > $z1) {
                    $z1 = $z;
                }
            }
            $m = $margin[$c];
            $k = 6 * $c;
            $box[$k] = $x0 - $m;
            $box[$k + 1] = $x1 + $m;
            $box[$k + 2] = $y0 - $m;
            $box[$k + 3] = $y1 + $m;
            $box[$k + 4] = $z0 - $m;
            $box[$k + 5] = $z1 + $m;
            $fresh[$c] = $s !== World::MOVING && $s !== World::KEYED;
        }
        $this->cx = $cx;
        $this->cy = $cy;
        $this->cz = $cz;
        $this->box = $box;
        $this->fresh = $fresh;
    }
}
