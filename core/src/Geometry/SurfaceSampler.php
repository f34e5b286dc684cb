<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\SeededRandom;

/** Random points of a surface, evenly by area, with the normals there. */
final class SurfaceSampler
{
    /** @var list<float> areas summed up, face by face */
    private array $sum = [];

    /** @var array{list<float>, list<float>, list<float>} */
    private array $normals;

    public function __construct(private readonly Mesh $mesh, private readonly SeededRandom $random)
    {
        $this->normals = FaceNormals::perFace($mesh);
        $total = 0.0;
        foreach ($this->normals[0] as $f => $nx) {
            $total += sqrt($nx * $nx + $this->normals[1][$f] ** 2 + $this->normals[2][$f] ** 2);
            $this->sum[] = $total;
        }
    }

    public function area(): float
    {
        return 0.5 * $this->sum[count($this->sum) - 1];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} point and unit normal */
    public function point(): array
    {
        $want = $this->random->share() * $this->sum[count($this->sum) - 1];
        $low = 0;
        $high = count($this->sum) - 1;
        while ($low < $high) {
            $mid = ($low + $high) >> 1;
            $this->sum[$mid] < $want ? $low = $mid + 1 : $high = $mid;
        }
        $u = $this->random->share();
        $v = $this->random->share();
        if ($u + $v > 1.0) {
            [$u, $v] = [1.0 - $u, 1.0 - $v];
        }
        $m = $this->mesh;
        $a = $m->faces[3 * $low];
        $b = $m->faces[3 * $low + 1];
        $c = $m->faces[3 * $low + 2];
        $w = 1.0 - $u - $v;
        $n = [$this->normals[0][$low], $this->normals[1][$low], $this->normals[2][$low]];
        $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);

        return [
            [
                $w * $m->x[$a] + $u * $m->x[$b] + $v * $m->x[$c],
                $w * $m->y[$a] + $u * $m->y[$b] + $v * $m->y[$c],
                $w * $m->z[$a] + $u * $m->z[$b] + $v * $m->z[$c],
            ],
            [$n[0] / $l, $n[1] / $l, $n[2] / $l],
        ];
    }
}
