<?php

declare(strict_types=1);

namespace YardBreak\Core\Rigid\Mortar;

use YardBreak\Core\Break\Joint;
use YardBreak\Core\Break\Together;
use YardBreak\Core\Geometry\Vec3;

/**
 * The bonds between the pieces of a prop, each over the section two of them share, with what it can bear and whether it still
 * does. In the prop's own coordinates.
 */
final class Bonds
{
    /** m², a section smaller than this share of the mean one holds nothing: pieces that meet at an edge. */
    private const SLIVER = 1e-4;

    /** @var list<Joint> what each holds */
    public readonly array $joints;

    /** @var list<int> a piece */
    public readonly array $one;

    /** @var list<int> the other */
    public readonly array $other;

    /** @var list<float> m² */
    public readonly array $area;

    /** @var list<Vec3> */
    public readonly array $middle;

    /** @var list<Vec3> from the one to the other */
    public readonly array $normal;

    /** @var list<float> metres between the middles of the two, through the section */
    public readonly array $length;

    /** @var list<array{float, float, float, float, float, float}> second moments, ∫ r rᵀ dA: xx, yy, zz, xy, yz, zx */
    public readonly array $spread;

    /** @var list<array{Vec3, Vec3, float, float, float}> half the sides of a rectangle of like area and second moments, 1/m³ by which a moment about the second and about the first is a stress at the edge, and likewise one about the normal */
    private readonly array $edges;

    /** @var array<int, list<int>> bonds by piece */
    public readonly array $of;

    /** @var array<int, true> those that are broken */
    public array $broken = [];

    /**
     * @param  list<Joint>  $joints
     */
    public function __construct(array $joints)
    {
        $mean = $joints === [] ? 0.0 : array_sum(array_column($joints, 'area')) / count($joints);
        $this->joints = $joints = array_values(array_filter($joints, static fn (Joint $j): bool => $j->area > self::SLIVER * $mean && $j->length > 0.0));
        $this->one = array_column($joints, 'one');
        $this->other = array_column($joints, 'other');
        $this->area = array_column($joints, 'area');
        $this->middle = array_column($joints, 'middle');
        $this->normal = array_column($joints, 'normal');
        $this->length = array_column($joints, 'length');
        $this->spread = array_column($joints, 'spread');
        $this->edges = array_map(self::edgesOf(...), $joints);
        $of = [];
        foreach ($this->one as $k => $one) {
            $of[$one][] = $k;
            $of[$this->other[$k]][] = $k;
        }
        $this->of = $of;
    }

    public function count(): int
    {
        return count($this->one);
    }

    /**
     * Which of some pieces hang together by bonds that hold, in the order of their first.
     *
     * @param  list<int>  $pieces
     * @return list<non-empty-list<int>> each in order
     */
    public function together(array $pieces): array
    {
        return Together::parts($pieces, function (int $piece): array {
            $out = [];
            foreach ($this->of[$piece] ?? [] as $bond) {
                if (! isset($this->broken[$bond])) {
                    $out[] = $this->one[$bond] === $piece ? $this->other[$bond] : $this->one[$bond];
                }
            }

            return $out;
        });
    }

    /**
     * What a bond bears, as stresses over its section: by plain bending theory, a rectangle of like area and second moments
     * standing for it (σ = N/A + M·c/I, τ = V/A; common practice).
     *
     * @param  Vec3  $force  N with which the other piece draws the one
     * @param  Vec3  $moment  N·m about its middle, likewise
     * @return array{float, float, float} N/m²: the greatest tension, the shear, and the mean pressure, each 0 or more
     */
    public function stress(int $bond, Vec3 $force, Vec3 $moment): array
    {
        $n = $this->normal[$bond];
        $a = $this->area[$bond];
        [$u, $v, $alongU, $alongV, $about] = $this->edges[$bond];
        $draw = $force->dot($n);
        $mean = $draw / $a;
        $bend = abs($moment->dot($v->unit())) * $alongU + abs($moment->dot($u->unit())) * $alongV;

        return [
            max(0.0, $mean + $bend),
            $force->minus($n->times($draw))->length() / $a + abs($moment->dot($n)) * $about,
            max(0.0, -$mean),
        ];
    }

    /** @return array{Vec3, Vec3} half the sides of a rectangle that stands for its section, m */
    public function halves(int $bond): array
    {
        return [$this->edges[$bond][0], $this->edges[$bond][1]];
    }

    /** N/m² at the edge of a bond, at most, from 1 N·m about any axis of its section. */
    public function bending(int $bond): float
    {
        return max($this->edges[$bond][2], $this->edges[$bond][3]);
    }

    /** @return array{Vec3, Vec3, float, float, float} */
    private static function edgesOf(Joint $j): array
    {
        [$u, $v] = $j->halves();
        [$cu, $cv] = [$u->length(), $v->length()];
        $iu = $j->area * $cu * $cu / 3.0;
        $iv = $j->area * $cv * $cv / 3.0;

        return [$u, $v, $cu / $iu, $cv / $iv, max($cu, $cv) / ($iu + $iv)];
    }
}
