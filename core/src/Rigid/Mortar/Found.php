<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/** What was found of the loads on a cluster: as long as they are nearly the same, they need not be looked at again. */
final readonly class Found
{
    /** Loads that differ by a share strain by no more than so many times that share. */
    private const SWAY = 2.0;

    /**
     * @param  float  $strain  the greatest, of what a bond bears
     * @param  list<float>  $loads  six numbers a piece
     * @param  string  $places  what bore it
     * @param  Vec3|null  $gravity  where nothing but that was on it
     */
    private function __construct(private float $strain, private array $loads, private string $places, public ?Vec3 $gravity)
    {
    }

    public static function nothing(): self
    {
        return new self(0.0, [], '', null);
    }

    public static function of(Cluster $cluster, float $strain, string $places, ?Vec3 $gravity): self
    {
        return new self($strain, array_merge(...array_values($cluster->loads)), $places, $gravity);
    }

    /**
     * Whether nothing can break by the loads that are on a cluster now.
     *
     * @param  array{float, float}  $weakest  the strain that 1 N, and 1 N·m, may make at most, wherever they act
     */
    public function isEnough(Cluster $cluster, string $places, array $weakest): bool
    {
        $now = array_merge(...array_values($cluster->loads));
        $same = count($this->loads) === count($now) && $this->places === $places;
        $force = $moment = $whole = 0.0;
        for ($i = 0, $n = count($now); $i < $n; $i += 6) {
            for ($k = 0; $k < 6; $k++) {
                $by = abs($now[$i + $k] - ($same ? $this->loads[$i + $k] : 0.0));
                if ($k < 3) {
                    $force += $by;
                    $whole += $same ? abs($this->loads[$i + $k]) : 0.0;
                } else {
                    $moment += $by;
                }
            }
        }
        if ($same && $whole > 0.0 && $this->strain * (1.0 + self::SWAY * $force / $whole) < 1.0) {
            return true;
        }

        // All of it on the weakest bond by the longest arm; loads in balance pass any section by half at most.
        return ($same ? $this->strain : 0.0) + 0.5 * ($force * $weakest[0] + $moment * $weakest[1]) < 1.0;
    }

    public function pack(PackWriter $out): void
    {
        $out->floats([$this->strain, ...$this->loads]);
        $out->text($this->places);
        $out->floats($this->gravity?->toArray() ?? []);
    }

    public static function unpack(PackReader $in): self
    {
        $loads = $in->floats();
        $strain = (float) array_shift($loads);
        $places = $in->text();
        $gravity = $in->floats();

        return new self($strain, $loads, $places, $gravity === [] ? null : Vec3::of($gravity));
    }
}
