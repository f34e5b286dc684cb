<?php

declare(strict_types=1);

namespace YardBreak\Core\Prepare;

use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\MassProperties;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\NearestOnSurface;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;

/**
 * Triangles of even edge length over the same surface (Botsch & Kobbelt 2004, "A remeshing approach to multiresolution
 * modeling"): long edges are split, short ones collapsed, edges flipped towards six at a point, points moved
 * to the middle of their neighbours along the surface and back onto it. Creases, borders and tips stay where they are, and
 * the volume is kept.
 */
final class Remesh implements Step
{
    public const MOST_FACES = 500_000;

    private const ROUNDS = 6;

    /** Shares of the wanted length: edges longer are split, shorter ones collapsed unless that makes one as long as the stretch. */
    private const LONG = 1.25;

    private const SHORT = 0.83;

    private const STRETCH = 4.0 / 3.0;

    /** The first rounds are rougher, so that the order of the old mesh does not stand in the way. */
    private const EARLY = 2;

    private const LONG_EARLY = 1.1;

    private const STRETCH_EARLY = 1.6;

    /** The last rounds put points back onto the surface. */
    private const PROJECTED = 3;

    /** Faces that enclose a sharper angle than this meet in a crease (cosine). */
    private const CREASE = 0.8;

    /** A crease that turns by a sharper angle than this has a corner there (cosine). */
    private const TURN = 0.8;

    /** A crease that turns by more than this over one of its edges keeps that edge, however short (cosine): small holes stay round. */
    private const ROUND_TURN = 0.5;

    /** Radians the angles round a point lack or have over to a full turn, from which it is a corner: the tip of a cone. */
    private const TIP = 0.5;

    /** Share of the wanted length by which the middle of an edge may lie off the old surface, or the edge is halved there; and rounds of that at most. */
    private const OFF = 0.17;

    private const CLOSER = 3;

    /** Rounds in which points on bent places move outwards by what chords lost. */
    private const REGAINED = 3;

    /** Heights over the neighbours by which they do so at most. */
    private const MOST_REGAINED = 1.0;

    public static function label(): string
    {
        return 'Remesh';
    }

    public static function meaning(): string
    {
        return 'Even triangles, as fine as wanted';
    }

    public static function options(): array
    {
        return [
            new Option('faces', 'Faces', 'About how many; 0 where the edge length decides.', Whole::class, 20000, 0, self::MOST_FACES),
            new Option('edge', 'Edge length', 'Wanted length of edges; 0 where the number of faces decides.', Number::class, 0.0, 0, 1000, 'm'),
        ];
    }

    public static function apply(Mesh $mesh, array $values): Mesh
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($mesh);
        $area = 0.0;
        foreach ($nx as $f => $v) {
            $area += 0.5 * sqrt($v * $v + $ny[$f] ** 2 + $nz[$f] ** 2);
        }
        $even = 0.25 * sqrt(3.0);
        $edge = (float) $values['edge'];
        if ($edge <= 0.0) {
            if ($values['faces'] < 4) {
                throw Problem::inValue('faces', 'Say how many faces are wanted, or how long edges are to be.', 'Set one of the two.');
            }
            $edge = sqrt($area / ($even * $values['faces']));
        } elseif ($area / ($even * $edge * $edge) > self::MOST_FACES) {
            throw Problem::outOfRange(
                'edge',
                'The number of faces',
                (int) ($area / ($even * $edge * $edge)),
                'at most '.self::MOST_FACES.'; take longer edges',
            );
        }

        return (new self($mesh, $edge))->remeshed();
    }

    /** @var list<float> */
    private array $x;

    /** @var list<float> */
    private array $y;

    /** @var list<float> */
    private array $z;

    /** @var list<int> */
    private array $faces;

    /** @var array<int, true> creases, by edge */
    private array $crease = [];

    /** @var array<int, true> points that stay where they are */
    private array $corner = [];

    private ?NearestOnLines $lines = null;

    private function __construct(private readonly Mesh $source, private readonly float $edge)
    {
        $this->x = $source->x;
        $this->y = $source->y;
        $this->z = $source->z;
        $this->faces = $source->faces;
        $this->findCreases();
        $this->findCorners();
    }

    private function remeshed(): Mesh
    {
        $surface = new NearestOnSurface($this->source, 2.0 * $this->edge);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $early = $round < self::EARLY;
            $this->split(($early ? self::LONG_EARLY : self::LONG) * $this->edge);
            $this->collapse(self::SHORT * $this->edge, ($early ? self::STRETCH_EARLY : self::STRETCH) * $this->edge);
            $this->flip();
            $this->smooth();
            $this->smooth();
            if ($round >= self::ROUNDS - self::PROJECTED) {
                $this->project($surface);
            }
        }
        for ($round = 0; $round < self::CLOSER && $this->follow($surface); $round++) {
            $this->flip();
        }
        $this->regain();

        return new Mesh($this->x, $this->y, $this->z, $this->faces);
    }

    private function findCreases(): void
    {
        [$nx, $ny, $nz] = FaceNormals::perFace($this->source);
        $at = [];
        foreach ($this->faces as $i => $p) {
            $q = $this->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $at[$p < $q ? $p << 31 | $q : $q << 31 | $p][] = intdiv($i, 3);
        }
        foreach ($at as $edge => $beside) {
            if (count($beside) !== 2) {
                $this->crease[$edge] = true;

                continue;
            }
            [$f, $g] = $beside;
            $dot = $nx[$f] * $nx[$g] + $ny[$f] * $ny[$g] + $nz[$f] * $nz[$g];
            $ll = sqrt(($nx[$f] ** 2 + $ny[$f] ** 2 + $nz[$f] ** 2) * ($nx[$g] ** 2 + $ny[$g] ** 2 + $nz[$g] ** 2));
            if ($dot < self::CREASE * $ll) {
                $this->crease[$edge] = true;
            }
        }
    }

    /** Corners of creases, and tips no crease leads to; and the lines of the creases, to draw points onto them. */
    private function findCorners(): void
    {
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $angle = array_fill(0, count($x), 0.0);
        for ($i = 0, $n = count($this->faces); $i < $n; $i++) {
            $p = $this->faces[$i];
            $q = $this->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $r = $this->faces[$i % 3 === 0 ? $i + 2 : $i - 1];
            $angle[$p] += acos(self::cosine([$x[$q] - $x[$p], $y[$q] - $y[$p], $z[$q] - $z[$p]], [$x[$r] - $x[$p], $y[$r] - $y[$p], $z[$r] - $z[$p]]));
        }
        $beside = $lines = [];
        foreach ($this->crease as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $beside[$p][] = $q;
            $beside[$q][] = $p;
            $lines[] = [$x[$p], $y[$p], $z[$p], $x[$q], $y[$q], $z[$q]];
        }
        foreach ($angle as $p => $sum) {
            $ends = $beside[$p] ?? [];
            if (count($ends) === 2) {
                [$a, $b] = $ends;
                if (self::cosine([$x[$p] - $x[$a], $y[$p] - $y[$a], $z[$p] - $z[$a]], [$x[$b] - $x[$p], $y[$b] - $y[$p], $z[$b] - $z[$p]]) < self::TURN) {
                    $this->corner[$p] = true;
                }
            } elseif ($ends === [] && $sum > 0.0 && abs(2.0 * M_PI - $sum) > self::TIP) {
                $this->corner[$p] = true;
            }
        }
        $this->lines = $lines === [] ? null : new NearestOnLines($lines, $this->edge);
    }

    /**
     * @param  array{float, float, float}  $u
     * @param  array{float, float, float}  $v
     */
    private static function cosine(array $u, array $v): float
    {
        $l = sqrt(($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2) * ($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2));

        return $l > 0.0 ? max(-1.0, min(1.0, ($u[0] * $v[0] + $u[1] * $v[1] + $u[2] * $v[2]) / $l)) : 1.0;
    }

    /** Halves edges longer than the limit, until there are none. */
    private function split(float $most): void
    {
        $most *= $most;
        for ($round = 0; $round < 12; $round++) {
            $x = $this->x;
            $y = $this->y;
            $z = $this->z;
            $faces = $this->faces;
            $this->x = $this->y = $this->z = $this->faces = [];
            $middle = [];
            for ($i = 0, $n = count($faces); $i < $n; $i++) {
                $p = $faces[$i];
                $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
                $a = $x[$p] - $x[$q];
                $b = $y[$p] - $y[$q];
                $c = $z[$p] - $z[$q];
                if ($a * $a + $b * $b + $c * $c > $most) {
                    $key = $p < $q ? $p << 31 | $q : $q << 31 | $p;
                    if (! isset($middle[$key])) {
                        $m = $middle[$key] = count($x);
                        $x[] = 0.5 * ($x[$p] + $x[$q]);
                        $y[] = 0.5 * ($y[$p] + $y[$q]);
                        $z[] = 0.5 * ($z[$p] + $z[$q]);
                        if (isset($this->crease[$key])) {
                            unset($this->crease[$key]);
                            $this->crease[$p < $m ? $p << 31 | $m : $m << 31 | $p] = true;
                            $this->crease[$q < $m ? $q << 31 | $m : $m << 31 | $q] = true;
                        }
                    }
                }
            }
            $out = $middle === [] ? $faces : self::divided($faces, $middle, $x, $y, $z);
            $this->x = $x;
            $this->y = $y;
            $this->z = $z;
            $this->faces = $out;
            if ($middle === []) {
                return;
            }
        }
    }

    /**
     * @param  list<int>  $faces
     * @param  array<int, int>  $middle  point by halved edge
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @return list<int>
     */
    private static function divided(array $faces, array $middle, array $x, array $y, array $z): array
    {
        $out = [];
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ab = $middle[$a < $b ? $a << 31 | $b : $b << 31 | $a] ?? -1;
            $bc = $middle[$b < $c ? $b << 31 | $c : $c << 31 | $b] ?? -1;
            $ca = $middle[$c < $a ? $c << 31 | $a : $a << 31 | $c] ?? -1;
            $count = ($ab >= 0 ? 1 : 0) + ($bc >= 0 ? 1 : 0) + ($ca >= 0 ? 1 : 0);
            if ($count === 0) {
                $out[] = $a;
                $out[] = $b;
                $out[] = $c;

                continue;
            }
            if ($count === 3) {
                array_push($out, $a, $ab, $ca, $ab, $b, $bc, $ca, $bc, $c, $ab, $bc, $ca);

                continue;
            }
            // Turned so that the first edge is halved, and the second with it where two are.
            if ($bc >= 0 && ($count === 1 || $ca >= 0)) {
                [$a, $b, $c, $ab, $bc] = [$b, $c, $a, $bc, $ca];
            } elseif ($ca >= 0 && ($count === 1 || $ab >= 0)) {
                [$a, $b, $c, $ab, $bc] = [$c, $a, $b, $ca, $ab];
            }
            if ($count === 1) {
                array_push($out, $a, $ab, $c, $ab, $b, $c);
            } else {
                $one = ($x[$a] - $x[$bc]) ** 2 + ($y[$a] - $y[$bc]) ** 2 + ($z[$a] - $z[$bc]) ** 2;
                $other = ($x[$ab] - $x[$c]) ** 2 + ($y[$ab] - $y[$c]) ** 2 + ($z[$ab] - $z[$c]) ** 2;
                $one < $other ? array_push($out, $ab, $b, $bc, $a, $ab, $bc, $a, $bc, $c) : array_push($out, $ab, $b, $bc, $a, $ab, $c, $ab, $bc, $c);
            }
        }

        return $out;
    }

    /** @return list<int> how many creases end at each point */
    private function creasesAt(): array
    {
        $at = array_fill(0, count($this->x), 0);
        foreach ($this->crease as $edge => $_) {
            $at[$edge >> 31]++;
            $at[$edge & 0x7FFFFFFF]++;
        }
        // As where three creases meet.
        foreach ($this->corner as $p => $_) {
            $at[$p] = max(3, $at[$p]);
        }

        return $at;
    }

    /** Draws the ends of edges shorter than the limit together, where no edge becomes too long and no face turns over. */
    private function collapse(float $least, float $most): void
    {
        $least *= $least;
        $most *= $most;
        $creases = $this->creasesAt();
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $faces = $this->faces;
        $this->x = $this->y = $this->z = $this->faces = [];
        $around = array_fill(0, count($x), []);
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            $around[$faces[$i]][] = $i - $i % 3;
        }
        $gone = [];
        for ($i = 0; $i < $n; $i++) {
            if (isset($gone[$i - $i % 3])) {
                continue;
            }
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $a = $x[$p] - $x[$q];
            $b = $y[$p] - $y[$q];
            $c = $z[$p] - $z[$q];
            if ($a * $a + $b * $b + $c * $c >= $least) {
                continue;
            }
            $key = $p < $q ? $p << 31 | $q : $q << 31 | $p;
            $onCrease = isset($this->crease[$key]);
            // Once is enough for an edge that two faces share; one at a border has only this side.
            if ($p > $q && ! $onCrease) {
                continue;
            }
            // The point with fewer ties goes; a point of a crease goes only along it, a corner never.
            if ($creases[$p] > 0 && ($creases[$q] === 0 || $creases[$p] !== 2)) {
                [$p, $q] = [$q, $p];
            }
            if ($creases[$p] > 0 && (! $onCrease || $creases[$p] !== 2)) {
                continue;
            }
            $free = $creases[$q] === 0 || ($onCrease && $creases[$q] === 2);
            $tx = $free ? 0.5 * ($x[$p] + $x[$q]) : $x[$q];
            $ty = $free ? 0.5 * ($y[$p] + $y[$q]) : $y[$q];
            $tz = $free ? 0.5 * ($z[$p] + $z[$q]) : $z[$q];
            $shared = 0;
            $sound = true;
            for ($side = 0; $side < 2; $side++) {
                $own = $side === 0 ? $p : $q;
                $other = $side === 0 ? $q : $p;
                foreach ($around[$own] as $f) {
                    $u = $faces[$f];
                    $v = $faces[$f + 1];
                    $w = $faces[$f + 2];
                    if ($u === $other || $v === $other || $w === $other) {
                        $shared++;

                        continue;
                    }
                    // The two corners that stay.
                    if ($u === $own) {
                        $s = $v;
                        $t = $w;
                    } elseif ($v === $own) {
                        $s = $w;
                        $t = $u;
                    } else {
                        $s = $u;
                        $t = $v;
                    }
                    $ax = $x[$t] - $x[$s];
                    $ay = $y[$t] - $y[$s];
                    $az = $z[$t] - $z[$s];
                    $bx = $x[$own] - $x[$s];
                    $by = $y[$own] - $y[$s];
                    $bz = $z[$own] - $z[$s];
                    $cx = $tx - $x[$s];
                    $cy = $ty - $y[$s];
                    $cz = $tz - $z[$s];
                    if ($cx * $cx + $cy * $cy + $cz * $cz > $most) {
                        $sound = false;
                        break 2;
                    }
                    $nx = $ay * $bz - $az * $by;
                    $ny = $az * $bx - $ax * $bz;
                    $nz = $ax * $by - $ay * $bx;
                    $mx = $ay * $cz - $az * $cy;
                    $my = $az * $cx - $ax * $cz;
                    $mz = $ax * $cy - $ay * $cx;
                    $dot = $nx * $mx + $ny * $my + $nz * $mz;
                    if ($dot <= 0.0 || $dot * $dot < 0.3 * ($nx * $nx + $ny * $ny + $nz * $nz) * ($mx * $mx + $my * $my + $mz * $mz)) {
                        $sound = false;
                        break 2;
                    }
                }
            }
            if (! $sound) {
                continue;
            }
            $shared = intdiv($shared, 2);
            $ringP = $ringQ = [];
            foreach ($around[$p] as $f) {
                $ringP[$faces[$f]] = $ringP[$faces[$f + 1]] = $ringP[$faces[$f + 2]] = true;
            }
            foreach ($around[$q] as $f) {
                $ringQ[$faces[$f]] = $ringQ[$faces[$f + 1]] = $ringQ[$faces[$f + 2]] = true;
            }
            // Faces besides those at the edge would fold onto each other.
            if (count(array_intersect_key($ringP, $ringQ)) !== $shared + 2 || count($ringP) < 5 && count($ringQ) < 5) {
                continue;
            }
            if ($onCrease && $this->bends($p, $q, $ringP, $ringQ, $x, $y, $z)) {
                continue;
            }
            $moved = [];
            foreach ($around[$p] as $f) {
                if ($faces[$f] === $q || $faces[$f + 1] === $q || $faces[$f + 2] === $q) {
                    $gone[$f] = true;
                    for ($k = $f; $k < $f + 3; $k++) {
                        if ($faces[$k] !== $p) {
                            array_splice($around[$faces[$k]], (int) array_search($f, $around[$faces[$k]], true), 1);
                        }
                    }
                } else {
                    $moved[] = $f;
                }
            }
            if ($creases[$p] > 0) {
                unset($this->crease[$key]);
                foreach ($ringP as $v => $_) {
                    $old = $p < $v ? $p << 31 | $v : $v << 31 | $p;
                    if ($v !== $q && isset($this->crease[$old])) {
                        unset($this->crease[$old]);
                        $this->crease[$q < $v ? $q << 31 | $v : $v << 31 | $q] = true;
                    }
                }
            }
            foreach ($moved as $f) {
                for ($k = $f; $k < $f + 3; $k++) {
                    if ($faces[$k] === $p) {
                        $faces[$k] = $q;
                    }
                }
                $around[$q][] = $f;
            }
            $around[$p] = [];
            $x[$q] = $tx;
            $y[$q] = $ty;
            $z[$q] = $tz;
        }
        $this->keep($faces, $gone, $x, $y, $z);
    }

    /**
     * Whether a crease turns too sharply from before one point to after the next for the two to become one.
     *
     * @param  array<int, true>  $ringP  points beside the one, and itself
     * @param  array<int, true>  $ringQ
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private function bends(int $p, int $q, array $ringP, array $ringQ, array $x, array $y, array $z): bool
    {
        $a = $b = -1;
        foreach ($ringP as $v => $_) {
            if ($v !== $q && isset($this->crease[$p < $v ? $p << 31 | $v : $v << 31 | $p])) {
                $a = $v;
            }
        }
        foreach ($ringQ as $v => $_) {
            if ($v !== $p && isset($this->crease[$q < $v ? $q << 31 | $v : $v << 31 | $q])) {
                $b = $v;
            }
        }

        return $a >= 0
            && $b >= 0
            && self::cosine([$x[$p] - $x[$a], $y[$p] - $y[$a], $z[$p] - $z[$a]], [$x[$b] - $x[$q], $y[$b] - $y[$q], $z[$b] - $z[$q]]) < self::ROUND_TURN;
    }

    /**
     * @param  list<int>  $faces
     * @param  array<int, true>  $gone  by first corner
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     */
    private function keep(array $faces, array $gone, array $x, array $y, array $z): void
    {
        $new = array_fill(0, count($x), -1);
        $out = $nx = $ny = $nz = [];
        for ($i = 0, $n = count($faces); $i < $n; $i++) {
            if ($i % 3 === 0 && isset($gone[$i])) {
                $i += 2;

                continue;
            }
            $p = $faces[$i];
            if ($new[$p] < 0) {
                $new[$p] = count($nx);
                $nx[] = $x[$p];
                $ny[] = $y[$p];
                $nz[] = $z[$p];
            }
            $out[] = $new[$p];
        }
        $crease = [];
        foreach ($this->crease as $edge => $_) {
            $p = $new[$edge >> 31];
            $q = $new[$edge & 0x7FFFFFFF];
            $crease[$p < $q ? $p << 31 | $q : $q << 31 | $p] = true;
        }
        $this->crease = $crease;
        $corner = [];
        foreach ($this->corner as $p => $_) {
            $corner[$new[$p]] = true;
        }
        unset($corner[-1]);
        $this->corner = $corner;
        $this->faces = $out;
        $this->x = $nx;
        $this->y = $ny;
        $this->z = $nz;
    }

    /** Flips edges where that brings the points at hand nearer to six edges each, four at a crease. */
    private function flip(): void
    {
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $faces = $this->faces;
        $this->faces = [];
        $creases = $this->creasesAt();
        $n = count($faces);
        $valence = array_fill(0, count($x), 0);
        $at = [];
        for ($i = 0; $i < $n; $i++) {
            $valence[$faces[$i]]++;
            $at[$faces[$i] << 31 | $faces[$i % 3 === 2 ? $i - 2 : $i + 1]] = $i;
        }
        $wanted = array_map(static fn (int $k): int => $k === 0 ? 6 : ($k === 2 ? 6 : 0), $creases);
        for ($i = 0; $i < $n; $i++) {
            $p = $faces[$i];
            $q = $faces[$i % 3 === 2 ? $i - 2 : $i + 1];
            $j = $at[$q << 31 | $p] ?? -1;
            if ($p > $q || $j < 0 || isset($this->crease[$p << 31 | $q])) {
                continue;
            }
            $r = $faces[$i % 3 === 0 ? $i + 2 : $i - 1];
            $s = $faces[$j % 3 === 0 ? $j + 2 : $j - 1];
            if ($r === $s || isset($at[$r << 31 | $s]) || isset($at[$s << 31 | $r])) {
                continue;
            }
            $gain = 0;
            foreach ([[$p, -1], [$q, -1], [$r, 1], [$s, 1]] as [$v, $d]) {
                if ($wanted[$v] > 0) {
                    $k = $valence[$v] - $wanted[$v];
                    $gain += $k * $k - ($k + $d) * ($k + $d);
                }
            }
            if ($gain <= 0) {
                continue;
            }
            // Both new faces must look the way the old ones did together.
            $ax = $x[$q] - $x[$p];
            $ay = $y[$q] - $y[$p];
            $az = $z[$q] - $z[$p];
            $rx = $x[$r] - $x[$p];
            $ry = $y[$r] - $y[$p];
            $rz = $z[$r] - $z[$p];
            $sx = $x[$s] - $x[$p];
            $sy = $y[$s] - $y[$p];
            $sz = $z[$s] - $z[$p];
            $mx = $ay * $rz - $az * $ry + $sy * $az - $sz * $ay;
            $my = $az * $rx - $ax * $rz + $sz * $ax - $sx * $az;
            $mz = $ax * $ry - $ay * $rx + $sx * $ay - $sy * $ax;
            $m2 = $mx * $mx + $my * $my + $mz * $mz;
            // r p s
            $ux = $sy * $rz - $sz * $ry;
            $uy = $sz * $rx - $sx * $rz;
            $uz = $sx * $ry - $sy * $rx;
            $one = $ux * $mx + $uy * $my + $uz * $mz;
            // s q r
            $vx = ($ry - $ay) * ($sz - $az) - ($rz - $az) * ($sy - $ay);
            $vy = ($rz - $az) * ($sx - $ax) - ($rx - $ax) * ($sz - $az);
            $vz = ($rx - $ax) * ($sy - $ay) - ($ry - $ay) * ($sx - $ax);
            $other = $vx * $mx + $vy * $my + $vz * $mz;
            if (
                $one <= 0.0
                || $other <= 0.0
                || $one * $one < 0.7 * $m2 * ($ux * $ux + $uy * $uy + $uz * $uz)
                || $other * $other < 0.7 * $m2 * ($vx * $vx + $vy * $vy + $vz * $vz)
            ) {
                continue;
            }
            $f = $i - $i % 3;
            $g = $j - $j % 3;
            unset($at[$p << 31 | $q], $at[$q << 31 | $p]);
            $faces[$f] = $r;
            $faces[$f + 1] = $p;
            $faces[$f + 2] = $s;
            $faces[$g] = $s;
            $faces[$g + 1] = $q;
            $faces[$g + 2] = $r;
            $at[$r << 31 | $p] = $f;
            $at[$p << 31 | $s] = $f + 1;
            $at[$s << 31 | $r] = $f + 2;
            $at[$s << 31 | $q] = $g;
            $at[$q << 31 | $r] = $g + 1;
            $at[$r << 31 | $s] = $g + 2;
            $valence[$p]--;
            $valence[$q]--;
            $valence[$r]++;
            $valence[$s]++;
        }
        $this->faces = $faces;
    }

    /** Moves points to the middle of their neighbours, along the surface; those of a crease along the crease. */
    private function smooth(): void
    {
        $creases = $this->creasesAt();
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $faces = $this->faces;
        $count = count($x);
        $sx = $sy = $sz = $nx = $ny = $nz = array_fill(0, $count, 0.0);
        $sum = array_fill(0, $count, 0.0);
        for ($i = 0, $n = count($faces); $i < $n; $i += 3) {
            $a = $faces[$i];
            $b = $faces[$i + 1];
            $c = $faces[$i + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $mx = $uy * $vz - $uz * $vy;
            $my = $uz * $vx - $ux * $vz;
            $mz = $ux * $vy - $uy * $vx;
            // Middles of faces, weighed by area, even out the faces as well as the edges.
            $w = sqrt($mx * $mx + $my * $my + $mz * $mz);
            $cx = $w * ($x[$a] + $x[$b] + $x[$c]) / 3.0;
            $cy = $w * ($y[$a] + $y[$b] + $y[$c]) / 3.0;
            $cz = $w * ($z[$a] + $z[$b] + $z[$c]) / 3.0;
            $sx[$a] += $cx;
            $sy[$a] += $cy;
            $sz[$a] += $cz;
            $sum[$a] += $w;
            $nx[$a] += $mx;
            $ny[$a] += $my;
            $nz[$a] += $mz;
            $sx[$b] += $cx;
            $sy[$b] += $cy;
            $sz[$b] += $cz;
            $sum[$b] += $w;
            $nx[$b] += $mx;
            $ny[$b] += $my;
            $nz[$b] += $mz;
            $sx[$c] += $cx;
            $sy[$c] += $cy;
            $sz[$c] += $cz;
            $sum[$c] += $w;
            $nx[$c] += $mx;
            $ny[$c] += $my;
            $nz[$c] += $mz;
        }
        $beside = [];
        foreach ($this->crease as $edge => $_) {
            $p = $edge >> 31;
            $q = $edge & 0x7FFFFFFF;
            $beside[$p][] = $q;
            $beside[$q][] = $p;
        }
        $ox = $x;
        $oy = $y;
        $oz = $z;
        for ($p = 0; $p < $count; $p++) {
            if ($creases[$p] === 2) {
                [$a, $b] = $beside[$p];
                $x[$p] = 0.5 * $ox[$p] + 0.25 * ($ox[$a] + $ox[$b]);
                $y[$p] = 0.5 * $oy[$p] + 0.25 * ($oy[$a] + $oy[$b]);
                $z[$p] = 0.5 * $oz[$p] + 0.25 * ($oz[$a] + $oz[$b]);

                continue;
            }
            if ($creases[$p] > 0 || $sum[$p] <= 0.0) {
                continue;
            }
            $dx = $sx[$p] / $sum[$p] - $x[$p];
            $dy = $sy[$p] / $sum[$p] - $y[$p];
            $dz = $sz[$p] / $sum[$p] - $z[$p];
            $l = $nx[$p] * $nx[$p] + $ny[$p] * $ny[$p] + $nz[$p] * $nz[$p];
            $d = $l > 0.0 ? ($dx * $nx[$p] + $dy * $ny[$p] + $dz * $nz[$p]) / $l : 0.0;
            $x[$p] += $dx - $d * $nx[$p];
            $y[$p] += $dy - $d * $ny[$p];
            $z[$p] += $dz - $d * $nz[$p];
        }
        $this->x = $x;
        $this->y = $y;
        $this->z = $z;
    }

    private function project(NearestOnSurface $surface): void
    {
        $creases = $this->creasesAt();
        [$this->x, $this->y, $this->z] = $surface->drawn($this->x, $this->y, $this->z, array_map(static fn (int $k): bool => $k === 0, $creases));
        foreach ($creases as $p => $k) {
            if ($k === 2 && $this->lines !== null) {
                [$this->x[$p], $this->y[$p], $this->z[$p]] = $this->lines->to($this->x[$p], $this->y[$p], $this->z[$p]);
            }
        }
    }

    /**
     * Halves edges that leave the old surface, their middles on it: a ridge between two points is not lost.
     *
     * @return bool whether there were any
     */
    private function follow(NearestOnSurface $surface): bool
    {
        $x = $y = $z = $edges = [];
        foreach ($this->faces as $c => $p) {
            $q = $this->faces[$c % 3 === 2 ? $c - 2 : $c + 1];
            if ($p < $q && ! isset($this->crease[$p << 31 | $q])) {
                $edges[] = $p << 31 | $q;
                $x[] = 0.5 * ($this->x[$p] + $this->x[$q]);
                $y[] = 0.5 * ($this->y[$p] + $this->y[$q]);
                $z[] = 0.5 * ($this->z[$p] + $this->z[$q]);
            }
        }
        [$nx, $ny, $nz] = $surface->drawn($x, $y, $z);
        $far = (self::OFF * $this->edge) ** 2;
        $wanted = [];
        foreach ($edges as $k => $edge) {
            if (($nx[$k] - $x[$k]) ** 2 + ($ny[$k] - $y[$k]) ** 2 + ($nz[$k] - $z[$k]) ** 2 > $far) {
                $wanted[$edge] = true;
            }
        }
        $wanted += $this->longestOfFar($surface, $far);
        $middle = [];
        foreach ($edges as $k => $edge) {
            if (isset($wanted[$edge])) {
                $middle[$edge] = count($this->x);
                $this->x[] = $nx[$k];
                $this->y[] = $ny[$k];
                $this->z[] = $nz[$k];
            }
        }
        if ($middle === []) {
            return false;
        }
        $this->faces = self::divided($this->faces, $middle, $this->x, $this->y, $this->z);

        return true;
    }

    /** @return array<int, true> the longest edge of each face whose middle lies farther off the old surface, squared, than this */
    private function longestOfFar(NearestOnSurface $surface, float $far): array
    {
        $x = $y = $z = [];
        for ($i = 0, $n = count($this->faces); $i < $n; $i += 3) {
            [$a, $b, $c] = [$this->faces[$i], $this->faces[$i + 1], $this->faces[$i + 2]];
            $x[] = ($this->x[$a] + $this->x[$b] + $this->x[$c]) / 3.0;
            $y[] = ($this->y[$a] + $this->y[$b] + $this->y[$c]) / 3.0;
            $z[] = ($this->z[$a] + $this->z[$b] + $this->z[$c]) / 3.0;
        }
        [$nx, $ny, $nz] = $surface->drawn($x, $y, $z);
        $out = [];
        foreach ($nx as $f => $v) {
            if (($v - $x[$f]) ** 2 + ($ny[$f] - $y[$f]) ** 2 + ($nz[$f] - $z[$f]) ** 2 <= $far) {
                continue;
            }
            $longest = 0.0;
            $edge = 0;
            for ($i = 3 * $f; $i < 3 * $f + 3; $i++) {
                $p = $this->faces[$i];
                $q = $this->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
                $d = ($this->x[$p] - $this->x[$q]) ** 2 + ($this->y[$p] - $this->y[$q]) ** 2 + ($this->z[$p] - $this->z[$q]) ** 2;
                if ($d > $longest) {
                    $longest = $d;
                    $edge = $p < $q ? $p << 31 | $q : $q << 31 | $p;
                }
            }
            $out[$edge] = true;
        }

        return $out;
    }

    /**
     * Faces between points of a bent surface are chords and lose what bulges over them. Every point moves on by how far
     * it stands over its neighbours, times one number for all that brings the volume back; flats and creases stay.
     */
    private function regain(): void
    {
        $wanted = MassProperties::of($this->source)->volume;
        $creases = $this->creasesAt();
        $count = count($this->x);
        for ($round = 0; $round < self::REGAINED; $round++) {
            $lost = $wanted - MassProperties::ofFaces($this->x, $this->y, $this->z, $this->faces)->volume;
            [$fx, $fy, $fz] = FaceNormals::perFace(new Mesh($this->x, $this->y, $this->z, $this->faces));
            $sx = $sy = $sz = $nx = $ny = $nz = $around = array_fill(0, $count, 0.0);
            foreach ($this->faces as $c => $p) {
                $q = $this->faces[$c % 3 === 2 ? $c - 2 : $c + 1];
                $sx[$p] += $this->x[$q];
                $sy[$p] += $this->y[$q];
                $sz[$p] += $this->z[$q];
                $around[$p]++;
                $f = intdiv($c, 3);
                $nx[$p] += $fx[$f];
                $ny[$p] += $fy[$f];
                $nz[$p] += $fz[$f];
            }
            // Volume a step along the sum of area normals gives: a sixth of its square.
            $height = [];
            $gain = 0.0;
            for ($p = 0; $p < $count; $p++) {
                $l = $nx[$p] * $nx[$p] + $ny[$p] * $ny[$p] + $nz[$p] * $nz[$p];
                $height[] = $creases[$p] > 0 || $around[$p] === 0.0 || $l <= 0.0
                    ? 0.0
                    : (($this->x[$p] - $sx[$p] / $around[$p]) * $nx[$p] + ($this->y[$p] - $sy[$p] / $around[$p]) * $ny[$p] + ($this->z[$p] - $sz[$p] / $around[$p]) * $nz[$p]) / $l;
                $gain += $height[$p] * $l / 6.0;
            }
            if (abs($gain) < 1e-12 * abs($wanted) || abs($lost) > self::MOST_REGAINED * abs($gain)) {
                return;
            }
            $k = $lost / $gain;
            foreach ($height as $p => $h) {
                $this->x[$p] += $k * $h * $nx[$p];
                $this->y[$p] += $k * $h * $ny[$p];
                $this->z[$p] += $k * $h * $nz[$p];
            }
        }
    }
}
