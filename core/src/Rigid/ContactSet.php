<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

/**
 * The contacts of one span: manifolds (pairs of bodies that touch, with one normal) and their points.
 * Body −1 is the ground.
 */
final class ContactSet
{
    /** @var list<int> */
    public array $a = [];

    /** @var list<int> */
    public array $b = [];

    /** @var list<int> the collider of a, and that of b; −1 for the ground */
    public array $colliderA = [];

    /** @var list<int> */
    public array $colliderB = [];

    /** @var list<int> the pair of colliders, as the key of the pair cache */
    public array $key = [];

    /** @var list<float> normal, from a to b */
    public array $nx = [];

    /** @var list<float> */
    public array $ny = [];

    /** @var list<float> */
    public array $nz = [];

    /** @var list<float> */
    public array $friction = [];

    /** @var list<float> */
    public array $bounce = [];

    /** @var list<int> first point of each manifold, one entry more than manifolds */
    public array $first = [0];

    /** @var list<float> point in the world */
    public array $x = [];

    /** @var list<float> */
    public array $y = [];

    /** @var list<float> */
    public array $z = [];

    /** @var list<float> gap at the start of the span, negative where the hulls overlap beyond what is forgiven */
    public array $gap = [];

    /** @var list<float> impulse along the normal, N·s; carried over between spans */
    public array $push = [];

    /** @var list<float> impulse with which what stands was shored in the last sub-step, one a manifold; none where nothing stands high; not carried over */
    public array $borne = [];

    /** @var list<float> friction impulse along the world axes, one a manifold; carried over */
    public array $rubX = [];

    /** @var list<float> */
    public array $rubY = [];

    /** @var list<float> */
    public array $rubZ = [];

    /** @var list<float> torsional friction impulse about the normal */
    public array $twist = [];

    /** @var array<int, list<float>> by manifold of what is to be weighed: N·s along its normal at each of its points over the whole span, then the friction in it along the world axes; not carried over */
    public array $whole = [];

    public function clear(): void
    {
        $this->a = $this->b = $this->colliderA = $this->colliderB = $this->key = $this->nx = $this->ny = $this->nz = $this->friction = $this->bounce = [];
        $this->first = [0];
        $this->x = $this->y = $this->z = $this->gap = $this->push = [];
        $this->rubX = $this->rubY = $this->rubZ = $this->twist = $this->borne = $this->whole = [];
    }

    /**
     * Metres, the most that anything overlaps beyond what is forgiven.
     *
     * @param  float  $nearer  metres by which the ground and true surfaces count as nearer than they are
     */
    public function deepest(float $nearer): float
    {
        $deepest = 0.0;
        foreach ($this->key as $m => $key) {
            $by = $key < 0 || $key >= SurfaceContacts::KEYS ? $nearer : 0.0;
            for ($k = $this->first[$m], $end = $this->first[$m + 1]; $k < $end; $k++) {
                $deepest = max($deepest, -$this->gap[$k] - $by);
            }
        }

        return $deepest;
    }

    /**
     * Leaves out contacts of bodies neither of which anything can be done to.
     *
     * @param  \Closure(int, int): bool  $stays  by the two bodies
     */
    public function keepOnly(\Closure $stays): void
    {
        $gone = [];
        foreach ($this->a as $m => $a) {
            if (! $stays($a, $this->b[$m])) {
                $gone[$m] = true;
            }
        }
        if ($gone === []) {
            return;
        }
        $all = clone $this;
        $this->clear();
        foreach ($all->a as $m => $a) {
            if (isset($gone[$m])) {
                continue;
            }
            foreach (['a', 'b', 'colliderA', 'colliderB', 'key', 'nx', 'ny', 'nz', 'friction', 'bounce', 'rubX', 'rubY', 'rubZ', 'twist'] as $list) {
                $this->$list[] = $all->$list[$m];
            }
            for ($k = $all->first[$m]; $k < $all->first[$m + 1]; $k++) {
                foreach (['x', 'y', 'z', 'gap', 'push'] as $list) {
                    $this->$list[] = $all->$list[$k];
                }
            }
            $this->first[] = count($this->x);
        }
    }
}
