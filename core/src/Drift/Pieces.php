<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

/** What drifts, by middles in the prop's own coordinates: pieces, faces, or the corners of faces. */
final readonly class Pieces
{
    /**
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $volumes  m³; of faces their areas, one for those together
     * @param  list<string>  $names
     * @param  int  $together  so many that come one after the other share their chance and their turn in the order: the corners of a face
     */
    public function __construct(public array $x, public array $y, public array $z, public array $volumes, public array $names, public int $together = 1)
    {
    }

    public function count(): int
    {
        return count($this->x);
    }

    /** @return list<float> random numbers from −1 to 1, `width` each */
    public function chance(int $seed, int $width = 1): array
    {
        if ($this->together === 1) {
            return Chance::of($seed, $this->count(), $width);
        }
        $out = [];
        foreach (array_chunk(Chance::of($seed, intdiv($this->count(), $this->together), $width), $width) as $own) {
            for ($k = 0; $k < $this->together; $k++) {
                array_push($out, ...$own);
            }
        }

        return $out;
    }
}
