<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Vec3;

/** What the wind finds of a piece among others: faces that were outside before the prop was broken. */
final readonly class OpenFaces
{
    /** @param  list<Vec3>  $areas  m² along the outward normal, in the prop's axes */
    private function __construct(private array $areas)
    {
    }

    public static function of(Shard $shard): self
    {
        $m = $shard->mesh;
        $areas = [];
        foreach (array_chunk($m->faces, 3) as $f => [$a, $b, $c]) {
            if (($m->sides[$f] ?? Mesh::OUTER) === Mesh::INNER) {
                continue;
            }
            $u = new Vec3($m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]);
            $v = new Vec3($m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]);
            $areas[] = $u->cross($v)->times(0.5);
        }

        return new self($areas);
    }

    /**
     * What a wind presses on it: as much as it shows to it (F = ½ρC·A|u|u).
     *
     * @param  Vec3  $wind  m/s, in the prop's axes
     * @param  float  $half  ½ρC, kg/m³
     * @return Vec3 N
     */
    public function pressed(Vec3 $wind, float $half): Vec3
    {
        $speed = $wind->length();
        if ($speed <= 0.0) {
            return Vec3::zero();
        }
        $shown = 0.0;
        foreach ($this->areas as $area) {
            $shown += max(0.0, -$area->dot($wind)) / $speed;
        }

        return $wind->times($half * $shown * $speed);
    }
}
