<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid;

use YardBreak\Core\Collide\Solid;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;

/** Pieces of a prop that move as one body until they part from it, together or some at a time. */
final class Assembly
{
    /** Centre of mass of what is still together, in the prop's coordinates; null where nothing is. */
    private ?Vec3 $centre;

    /** @var array<int, true> pieces still in it */
    private array $in;

    /**
     * @param  int  $body  the one they move as
     * @param  list<Solid>  $solids  of the prop, all of them
     * @param  list<int>  $bodies  of the pieces once they are by themselves
     * @param  list<list<int>>  $colliders  of each piece
     */
    public function __construct(
        public readonly int $body,
        private readonly array $solids,
        private readonly array $bodies,
        private readonly array $colliders,
        private readonly float $density,
    ) {
        $this->in = array_fill_keys(array_keys($solids), true);
        $this->centre = $solids === [] ? null : Solid::together($solids)->centroid;
    }

    public function has(int $piece): bool
    {
        return isset($this->in[$piece]);
    }

    /** Where a piece in it is now. */
    public function placeOf(World $w, int $piece): Vec3
    {
        return (new Vec3($w->px[$this->body], $w->py[$this->body], $w->pz[$this->body]))->plus($this->arm($w, $piece));
    }

    public function turn(World $w): Quaternion
    {
        return new Quaternion($w->qx[$this->body], $w->qy[$this->body], $w->qz[$this->body], $w->qw[$this->body]);
    }

    /**
     * Lets some of its pieces go, moving on as they did within it.
     *
     * @param  list<int>  $pieces
     * @return list<int> those that were in it
     */
    public function part(World $w, array $pieces): array
    {
        $out = [];
        $turn = $this->turn($w);
        $velocity = new Vec3($w->vx[$this->body], $w->vy[$this->body], $w->vz[$this->body]);
        $spin = new Vec3($w->wx[$this->body], $w->wy[$this->body], $w->wz[$this->body]);
        foreach ($pieces as $piece) {
            if (! isset($this->in[$piece]) || $this->centre === null) {
                continue;
            }
            $arm = $this->arm($w, $piece);
            $body = $this->bodies[$piece];
            $w->place($body, $this->placeOf($w, $piece), $turn);
            $this->hand($w, $piece);
            $w->release($body, $velocity->plus($spin->cross($arm)), $spin);
            unset($this->in[$piece]);
            $out[] = $piece;
        }
        $this->close($w, $out);

        return $out;
    }

    /**
     * The same, of pieces that left it before: only who carries what is set, for the state of the bodies is known.
     *
     * @param  list<int>  $pieces
     */
    public function parted(World $w, array $pieces): void
    {
        foreach ($pieces as $piece) {
            $this->hand($w, $piece);
            unset($this->in[$piece]);
        }
        $this->close($w, $pieces);
    }

    private function arm(World $w, int $piece): Vec3
    {
        return $this->centre === null ? Vec3::zero() : $this->turn($w)->turn($this->solids[$piece]->centre->minus($this->centre));
    }

    private function hand(World $w, int $piece): void
    {
        $offset = $this->centre === null ? Vec3::zero() : $this->solids[$piece]->centre->minus($this->centre);
        foreach ($this->colliders[$piece] as $collider) {
            $w->colliders->handOver($collider, $this->bodies[$piece], $offset->times(-1.0));
        }
    }

    /** @param  list<int>  $gone */
    private function close(World $w, array $gone): void
    {
        if ($gone === [] || $this->centre === null) {
            return;
        }
        if ($this->in === []) {
            $w->state[$this->body] = World::ABSENT;
            unset($w->waiting[$this->body]);
            $this->centre = null;

            return;
        }
        $left = Solid::together(array_values(array_intersect_key($this->solids, $this->in)));
        $shift = $left->centroid->minus($this->centre);
        $d = $this->density;
        $w->recast($this->body, $shift, $left->volume * $d, array_map(static fn (float $v): float => $v * $d, $left->inertia));
        foreach ($this->in as $piece => $_) {
            foreach ($this->colliders[$piece] as $collider) {
                $w->colliders->handOver($collider, $this->body, $shift->times(-1.0));
            }
        }
        $this->centre = $left->centroid;
    }
}
