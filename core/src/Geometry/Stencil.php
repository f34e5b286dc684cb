<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** How values at points follow from values at others: each is a sum of so much of some of them. */
final readonly class Stencil
{
    /**
     * @param  list<int>  $first  by point: where its part of the lists begins; one entry more than points
     * @param  list<int>  $from
     * @param  list<float>  $share
     */
    public function __construct(public array $first, public array $from, public array $share)
    {
    }

    /**
     * Each point is one of the others.
     *
     * @param  list<int>  $of
     */
    public static function picking(array $of): self
    {
        return new self(range(0, count($of)), $of, array_fill(0, count($of), 1.0));
    }

    /**
     * One round of dividing every face into four: rounded by Loop's rule (Loop 1987, "Smooth subdivision surfaces based on triangles"), or with the form as
     * it is.
     *
     * @param  list<int>  $faces  flat triples
     * @param  int  $points  how many there are
     * @return array{self, list<int>} and the faces there are then: four for each, in order
     */
    public static function divided(array $faces, int $points, bool $round): array
    {
        $opposite = [];
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $opposite[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
        }
        $middle = $rim = $around = [];
        foreach ($opposite as $edge => $apexes) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $middle[$edge] = $points + count($middle);
            $around[$p][] = $q;
            $around[$q][] = $p;
            if (count($apexes) !== 2) {
                $rim[$p][] = $q;
                $rim[$q][] = $p;
            }
        }
        $first = [0];
        $from = $share = [];
        for ($p = 0; $p < $points; $p++) {
            $on = $round ? $rim[$p] ?? $around[$p] ?? [] : [];
            $n = count($on);
            $beta = $n === 0 ? 0.0 : (isset($rim[$p]) ? 1.0 / (4.0 * $n) : (0.625 - (0.375 + 0.25 * cos(2.0 * M_PI / $n)) ** 2) / $n);
            $from[] = $p;
            $share[] = 1.0 - $n * $beta;
            foreach ($on as $q) {
                $from[] = $q;
                $share[] = $beta;
            }
            $first[] = count($from);
        }
        foreach ($opposite as $edge => $apexes) {
            array_push($from, $edge >> 31, $edge & 0x7FFFFFFF);
            if ($round && count($apexes) === 2) {
                array_push($from, ...$apexes);
                array_push($share, 0.375, 0.375, 0.125, 0.125);
            } else {
                array_push($share, 0.5, 0.5);
            }
            $first[] = count($from);
        }
        $out = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ab = $middle[$a < $b ? $a << 31 | $b : $b << 31 | $a];
            $bc = $middle[$b < $c ? $b << 31 | $c : $c << 31 | $b];
            $ca = $middle[$c < $a ? $c << 31 | $a : $a << 31 | $c];
            array_push($out, $a, $ab, $ca, $ab, $b, $bc, $ca, $bc, $c, $ab, $bc, $ca);
        }

        return [new self($first, $from, $share), $out];
    }

    public function count(): int
    {
        return count($this->first) - 1;
    }

    /**
     * @param  list<float>  $values  of the points it is made from
     * @return list<float>
     */
    public function apply(array $values): array
    {
        $out = [];
        $from = $this->from;
        $share = $this->share;
        $k = 0;
        foreach ($this->first as $p => $_) {
            if ($p === 0) {
                continue;
            }
            $sum = 0.0;
            for ($end = $this->first[$p]; $k < $end; $k++) {
                $sum += $share[$k] * $values[$from[$k]];
            }
            $out[] = $sum;
        }

        return $out;
    }
}
