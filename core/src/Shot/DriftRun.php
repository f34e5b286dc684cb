<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Drift\Flight;
use YardBreak\Core\Drift\Pieces;
use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\Pose;
use YardBreak\Core\Problem;

/** Where the pieces of drifting props are, at any frame of a shot. */
final class DriftRun
{
    /** Raised when the same drift would take pieces elsewhere. */
    private const VERSION = 2;

    /** @var array<string, array{list<float>, list<float>, list<float>, list<int>}> by prop: x, y, z and number of the point of each corner */
    private array $corners = [];

    public function __construct(private readonly MapRun $maps)
    {
    }

    /**
     * @return array{list<float>, list<float>} eight numbers a piece as in a stream of poses, and the share of its full size each has
     *
     * @throws Problem
     */
    public function at(string $prop, float $frame): array
    {
        [$spec, $drift] = $this->drifting($prop);
        $on = $this->maps->pointsOf($prop, MapRun::PIECES);
        $pieces = new Pieces($on->x, $on->y, $on->z, $on->volumes, $on->names());
        $place = $spec->place->at($frame);
        if ($drift->byFace) {
            // The pieces themselves stay; only their faces fly.
            return Drift::stood($pieces, new Flight($pieces->count()), $place);
        }

        return $this->placed(
            $prop,
            fn (): array => Drift::stood(
                $pieces,
                $drift->at(
                    $frame,
                    $pieces,
                    $this->maps->weightsBetween($drift->map, MapRun::PIECES, $this->counted($drift, $frame)),
                    $this->where($place, $frame),
                ),
                $place,
            ),
        );
    }

    /**
     * Where the corners of faces are that fly one by one.
     *
     * @return list<float> x, y and z of each corner, three corners a face, the faces of one piece after those of the other
     *
     * @throws Problem
     */
    public function corners(string $prop, int $frame): array
    {
        [$spec, $drift] = $this->drifting($prop);
        [$x, $y, $z, $points] = $this->corners[$prop] ??= $this->cornersOf($prop);
        $at = $this->maps->onSkin($drift->map, (int) $this->counted($drift, $frame), false);
        $weights = array_map(static fn (int $p): float => $at[$p], $points);
        $place = $spec->place->at($frame);

        return $this->placed($prop, fn (): array => $drift->corners($frame, [$x, $y, $z], $weights, $this->where($place, $frame), $place));
    }

    /**
     * The moment whose weights count. Those of a frame come after the physics of that frame, so a drift that goes by it stays
     * one frame behind: what it pushes and what is seen of it are the same.
     */
    private function counted(Drift $drift, float $frame): float
    {
        return $this->maps->shot->goesByPhysics($drift->map) ? max((float) $this->maps->shot->first, $frame - 1.0) : $frame;
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>} x, y, z and number of the point of each corner */
    private function cornersOf(string $prop): array
    {
        $x = $y = $z = $points = [];
        $before = 0;
        foreach ($this->maps->shards($prop) as $shard) {
            foreach ($shard->mesh->faces as $v) {
                $x[] = $shard->mesh->x[$v];
                $y[] = $shard->mesh->y[$v];
                $z[] = $shard->mesh->z[$v];
                $points[] = $before + $v;
            }
            $before += $shard->mesh->vertexCount();
        }

        return [$x, $y, $z, $points];
    }

    /** @return \Closure(string): array{float, float, float} where another prop stands as one that stands there sees it */
    private function where(Placement $place, float $frame): \Closure
    {
        return function (string $id) use ($place, $frame): array {
            $other = $this->maps->shot->prop($id)
                ?? throw Problem::inValue('', 'The prop this drifts toward is not there, or is hidden.', 'Choose another prop.');

            return $place->inverse()->point($other->place->at($frame)->position)->toArray();
        };
    }

    /**
     * @template T
     *
     * @param  \Closure(): T  $run
     * @return T
     *
     * @throws Problem with its place in the document
     */
    private function placed(string $prop, \Closure $run): mixed
    {
        try {
            return $run();
        } catch (Problem $e) {
            throw str_starts_with($e->path, 'props[') ? $e : $e->at('props['.$this->maps->shot->numberOf($prop).'].motion.drift');
        }
    }

    /**
     * Where its pieces are.
     *
     * @return list<Placement> from the prop's own coordinates to the scene
     *
     * @throws Problem
     */
    public function places(string $prop, int $frame): array
    {
        [$poses, $sizes] = $this->at($prop, (float) $frame);
        $on = $this->maps->pointsOf($prop, MapRun::PIECES);

        return array_map(
            static fn (int $i): Placement => Pose::of($poses, $sizes, $i)->placement(new Vec3($on->x[$i], $on->y[$i], $on->z[$i])),
            array_keys($sizes),
        );
    }

    /**
     * What that depends on, frame by frame.
     *
     * @return list<string> 32 hexadecimal digits for each frame from the first to the last
     *
     * @throws Problem
     */
    public function keys(string $prop): array
    {
        return array_map(fn (int $frame): string => $this->key($prop, $frame), range($this->maps->shot->first, $this->maps->shot->last));
    }

    /** @throws Problem */
    public function key(string $prop, int $frame): string
    {
        [$spec, $drift] = $this->drifting($prop);
        $weights = $this->maps->keyAt($drift->map, $drift->byFace ? MapRun::SURFACE : MapRun::PIECES, (int) $this->counted($drift, $frame));
        $read = array_map(fn (string $id): ?Vec3 => $this->maps->shot->prop($id)?->place->at($frame)->position, $drift->reads($frame));

        return hash('xxh128', serialize([self::VERSION, $weights, $drift->key($frame), $spec->place->at($frame), $read]));
    }

    /**
     * @return array{PropSpec, Drift}
     *
     * @throws Problem where it does not drift
     */
    private function drifting(string $prop): array
    {
        $spec = $this->maps->prop($prop);

        return [$spec, $spec->motion->drift ?? throw Problem::inValue('motion.kind', $spec->name.' does not drift.', 'Choose Drift on the Motion stage.')];
    }
}
