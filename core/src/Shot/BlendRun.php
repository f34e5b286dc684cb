<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Problem;

/** Where the points of props are that blend into others, at any frame of a shot. */
final class BlendRun
{
    /** @var array<string, Mesh> by prop: all its points, one piece after the other, and by prop and target those of the other one */
    private array $meshes = [];

    public function __construct(private readonly MapRun $maps)
    {
    }

    /**
     * @return array{list<float>, list<float>, list<float>} points of all its pieces in the scene, one piece after the other
     *
     * @throws Problem where what it blends into is not there, or is not of the same mesh
     */
    public function at(string $prop, float $frame): array
    {
        [$spec, $blend] = $this->blending($prop);
        $states = [$this->own($spec)->placed($spec->place->at($frame))];
        foreach ($blend->to as $id) {
            $states[] = $this->other($spec, $id)->placed(($spec->tools[$id] ?? $spec)->place->at($frame));
        }
        $x = $y = $z = [];
        foreach ($this->weights($blend->map, $frame) as $i => $weight) {
            [$from, $share] = $blend->between($weight);
            [$a, $b] = [$states[$from], $states[$from + 1]];
            // Exactly the one, and exactly the other.
            if ($share <= 0.0 || $share >= 1.0) {
                $b = $share <= 0.0 ? $a : $b;
                [$x[], $y[], $z[]] = [$b->x[$i], $b->y[$i], $b->z[$i]];
            } else {
                $x[] = $a->x[$i] + $share * ($b->x[$i] - $a->x[$i]);
                $y[] = $a->y[$i] + $share * ($b->y[$i] - $a->y[$i]);
                $z[] = $a->z[$i] + $share * ($b->z[$i] - $a->z[$i]);
            }
        }

        return [$x, $y, $z];
    }

    /** What that depends on at a frame. */
    public function key(string $prop, int $frame): string
    {
        [$spec, $blend] = $this->blending($prop);
        $states = array_map(static fn (string $id): array => isset($spec->tools[$id]) ? [$spec->tools[$id]->meshKey(), $spec->tools[$id]->place->at($frame)] : [], $blend->to);

        return hash('xxh128', serialize([$blend->key(), $states, $spec->place->at($frame), $this->maps->keyAt($blend->map, MapRun::SURFACE, $frame)]));
    }

    /** @return list<float> by point */
    private function weights(string $map, float $frame): array
    {
        $before = (int) floor($frame);
        $weights = $this->maps->onSkin($map, $before, false);
        $share = $frame - $before;
        if ($share > 0.0) {
            foreach ($this->maps->onSkin($map, $before + 1, false) as $i => $then) {
                $weights[$i] += $share * ($then - $weights[$i]);
            }
        }

        return $weights;
    }

    private function own(PropSpec $spec): Mesh
    {
        return $this->meshes[$spec->id] ??= Mesh::merged(...array_map(static fn (Shard $s): Mesh => $s->mesh, $this->maps->shards($spec->id)));
    }

    private function other(PropSpec $spec, string $id): Mesh
    {
        $where = 'props['.$this->maps->shot->numberOf($spec->id).'].blend.to';
        $other = $spec->tools[$id] ?? throw Problem::inValue($where, 'What '.$spec->name.' blends into is no longer there.', 'Choose another prop.');
        $mesh = $this->meshes[$spec->id.' '.$id] ??= $this->maps->parts->mesh($other);
        if ($mesh->vertexCount() !== $this->own($spec)->vertexCount()) {
            throw Problem::inValue(
                $where,
                sprintf('%s has %d points and %s %d, so neither can blend into the other.', $spec->name, $this->own($spec)->vertexCount(), $other->name, $mesh->vertexCount()),
                'Blend it into a frame of its own that was kept, and leave its mesh as it was then.',
            );
        }

        return $mesh;
    }

    /**
     * @return array{PropSpec, Blend}
     *
     * @throws Problem where it does not blend
     */
    private function blending(string $prop): array
    {
        $spec = $this->maps->prop($prop);

        return [$spec, $spec->blend ?? throw Problem::inValue('blend', $spec->name.' does not blend.', 'Choose what it blends into on the Weights stage.')];
    }
}
