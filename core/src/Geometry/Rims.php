<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

/** The lines along which a surface ends, or is bent sharply, from corner to corner. */
final readonly class Rims
{
    /** Cosine of the angle between faces from which a surface is bent sharply: 40°. */
    private const SHARP = 0.766;

    /** Cosine of the turn from which a line has a corner: 35°. */
    private const TURNS = 0.819;

    /**
     * @param  list<list<int>>  $lines  points of each in order; of one that comes round to where it began the first is not repeated
     * @param  list<bool>  $closed  of each line
     * @param  list<int>  $corners  points where lines end or turn
     * @param  list<int>  $pointOf  by vertex of the mesh: its point, the first vertex in the same place
     */
    private function __construct(private Mesh $mesh, public array $lines, public array $closed, public array $corners, public array $pointOf)
    {
    }

    public static function of(Mesh $mesh): self
    {
        $pointOf = SamePlaces::of($mesh);
        $normals = [];
        $beside = [];
        for ($f = 0, $n = count($mesh->faces); $f < $n; $f += 3) {
            [$a, $b, $c] = [$pointOf[$mesh->faces[$f]], $pointOf[$mesh->faces[$f + 1]], $pointOf[$mesh->faces[$f + 2]]];
            $normal = self::at($mesh, $b)->minus(self::at($mesh, $a))->cross(self::at($mesh, $c)->minus(self::at($mesh, $a)));
            if ($a === $b || $b === $c || $c === $a || $normal->length() <= 0.0) {
                continue;
            }
            $normals[$f] = $normal->unit();
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $beside[min($p, $q) << 32 | max($p, $q)][] = $f;
            }
        }
        $next = [];
        foreach ($beside as $edge => $faces) {
            if (count($faces) === 2 && $normals[$faces[0]]->dot($normals[$faces[1]]) > self::SHARP) {
                continue;
            }
            [$p, $q] = [$edge >> 32, $edge & 0xFFFFFFFF];
            $next[$p][] = $q;
            $next[$q][] = $p;
        }
        ksort($next);
        $corners = array_keys(array_filter($next, static fn (array $ends, int $p): bool => self::isCorner($mesh, $p, $ends), ARRAY_FILTER_USE_BOTH));
        [$lines, $closed] = self::chained($next, array_fill_keys($corners, true));

        return new self($mesh, $lines, $closed, $corners, $pointOf);
    }

    /** @param  list<int>  $ends */
    private static function isCorner(Mesh $mesh, int $p, array $ends): bool
    {
        if (count($ends) !== 2) {
            return true;
        }
        $at = self::at($mesh, $p);

        return $at->minus(self::at($mesh, $ends[0]))->unit()->dot(self::at($mesh, $ends[1])->minus($at)->unit()) < self::TURNS;
    }

    /**
     * @param  array<int, list<int>>  $next  by point: those it is joined to
     * @param  array<int, true>  $corners
     * @return array{list<list<int>>, list<bool>}
     */
    private static function chained(array $next, array $corners): array
    {
        $lines = $closed = $gone = [];
        $follow = static function (int $from, int $to) use ($next, $corners, &$gone): array {
            $line = [$from];
            for (; ;) {
                $gone[min($from, $to) << 32 | max($from, $to)] = true;
                if ($to === $line[0]) {
                    return [$line, true];
                }
                $line[] = $to;
                if (isset($corners[$to])) {
                    return [$line, false];
                }
                [$from, $to] = [$to, $next[$to][0] === $from ? $next[$to][1] : $next[$to][0]];
            }
        };
        // From corners first; what is left has none.
        foreach ([array_intersect_key($next, $corners), $next] as $starts) {
            foreach ($starts as $from => $ends) {
                foreach ($ends as $to) {
                    if (! isset($gone[min($from, $to) << 32 | max($from, $to)])) {
                        [$lines[], $closed[]] = $follow($from, $to);
                    }
                }
            }
        }

        return [$lines, $closed];
    }

    private static function at(Mesh $mesh, int $p): Vec3
    {
        return new Vec3($mesh->x[$p], $mesh->y[$p], $mesh->z[$p]);
    }

    /** The point of the surface nearest to a place. */
    public function point(Vec3 $to): int
    {
        $best = INF;
        $out = 0;
        foreach ($this->mesh->x as $v => $x) {
            $d = ($x - $to->x) ** 2 + ($this->mesh->y[$v] - $to->y) ** 2 + ($this->mesh->z[$v] - $to->z) ** 2;
            if ($d < $best) {
                $best = $d;
                $out = $v;
            }
        }

        return $this->pointOf[$out] ?? 0;
    }

    /** @return list<int> points of the line nearest to a place; none where there is no line */
    public function line(Vec3 $to): array
    {
        $best = INF;
        $out = [];
        foreach ($this->lines as $k => $line) {
            $n = count($line);
            for ($i = $this->closed[$k] ? 0 : 1; $i < $n; $i++) {
                $from = self::at($this->mesh, $line[($i + $n - 1) % $n]);
                $way = self::at($this->mesh, $line[$i])->minus($from);
                $share = max(0.0, min(1.0, $to->minus($from)->dot($way) / max(1e-300, $way->dot($way))));
                $d = $to->minus($from->plus($way->times($share)))->length();
                if ($d < $best) {
                    $best = $d;
                    $out = $line;
                }
            }
        }

        return $out;
    }

    /**
     * Corners and lines as places, for whoever draws them. A line is known by its middle place.
     *
     * @return array{corners: list<array{float, float, float}>, lines: list<array{middle: array{float, float, float}, points: list<array{float, float, float}>, closed: bool}>}
     */
    public function places(): array
    {
        $place = fn (int $p): array => self::at($this->mesh, $p)->toArray();

        return [
            'corners' => array_map($place, $this->corners),
            'lines' => array_map(fn (array $line, bool $closed): array => ['middle' => $this->middle($line), 'points' => array_map($place, $line), 'closed' => $closed], $this->lines, $this->closed),
        ];
    }

    /**
     * Half way along it, where no other line is as near.
     *
     * @param  non-empty-list<int>  $line
     * @return array{float, float, float}
     */
    private function middle(array $line): array
    {
        $long = 0.0;
        $ways = [];
        for ($i = 1, $n = count($line); $i < $n; $i++) {
            $long += $ways[] = self::at($this->mesh, $line[$i])->minus(self::at($this->mesh, $line[$i - 1]))->length();
        }
        $left = 0.5 * $long;
        foreach ($ways as $i => $way) {
            if ($left <= $way) {
                $from = self::at($this->mesh, $line[$i]);

                return $from->plus(self::at($this->mesh, $line[$i + 1])->minus($from)->times($way > 0.0 ? $left / $way : 0.0))->toArray();
            }
            $left -= $way;
        }

        return self::at($this->mesh, $line[0])->toArray();
    }
}
