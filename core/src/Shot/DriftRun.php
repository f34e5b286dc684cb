<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Drift\Drift;
use YardBreak\Core\Drift\Pieces;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;

/** Where the pieces of drifting props are, at any frame of a shot. */
final class DriftRun
{
    /** Raised when the same drift would take pieces elsewhere. */
    private const VERSION = 1;

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
        $where = function (string $id) use ($place, $frame): array {
            $other = $this->maps->shot->prop($id) ?? throw Problem::inValue('', 'The prop this drifts toward is not there, or is hidden.', 'Choose another prop.');

            return $place->inverse()->point($other->place->at($frame)->position)->toArray();
        };
        try {
            return Drift::stood($pieces, $drift->at($frame, $pieces, $this->maps->between($drift->map, MapRun::PIECES, $frame), $where), $place);
        } catch (Problem $e) {
            throw str_starts_with($e->path, 'props[') ? $e : $e->at('props['.$this->maps->shot->numberOf($prop).'].motion.drift');
        }
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
        [$spec, $drift] = $this->drifting($prop);
        $out = [];
        foreach ($this->maps->keys($drift->map, MapRun::PIECES) as $k => $weights) {
            $frame = $this->maps->shot->first + $k;
            $read = array_map(fn (string $id): ?Vec3 => $this->maps->shot->prop($id)?->place->at($frame)->position, $drift->reads($frame));
            $out[] = hash('xxh128', serialize([self::VERSION, $weights, $drift->key($frame), $spec->place->at($frame), $read]));
        }

        return $out;
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
