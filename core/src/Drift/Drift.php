<?php

declare(strict_types=1);

namespace YardBreak\Core\Drift;

use YardBreak\Core\Geometry\Placement;
use YardBreak\Core\Geometry\Quaternion;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Problem;
use YardBreak\Core\SeededRandom;
use YardBreak\Core\Timing\Acts;
use YardBreak\Core\Timing\Cues;
use YardBreak\Core\Timing\Ease;
use YardBreak\Core\Timing\Values;

/** How the pieces of a prop drift by a weight map: none of it at 0, all of it at 1; or, assembling, the other way round. */
final readonly class Drift
{
    /**
     * @param  string  $map  id
     * @param  bool  $byFace  whether the faces fly one by one, not whole pieces
     * @param  float  $stretch  0: faces keep their form; 1: each corner goes by its own weight
     * @param  list<array{class-string<Move>, Values, string}>  $moves  what it is, its values, and its name
     * @param  array<string, array{list<float>, list<float>, float}>  $ends  by name of a piece that was placed by hand: metres and degrees off where it
     *   belongs, and its size
     */
    private function __construct(
        public string $map, public bool $byFace, public float $stretch, private Ease $ease, private mixed $easeSaid, public bool $assemble,
        private string $order, private float $stagger, private int $seed, public array $moves, private array $ends,
    ) {
    }

    /**
     * @param  array<string, mixed>  $d  as in the document, already of the schema's form
     *
     * @throws Problem
     */
    public static function of(array $d, Cues $cues): self
    {
        try {
            $ease = Ease::of($d['ease'] ?? 'smooth');
        } catch (Problem $e) {
            throw $e->at('ease');
        }
        $moves = [];
        foreach ($d['moves'] ?? [] as $k => $move) {
            $class = DriftCatalogue::MOVES[$move['move']]
                ?? throw Problem::inValue(
                    'moves['.$k.'].move',
                    'Pieces cannot drift by "'.$move['move'].'".',
                    'Choose one of: '.implode(', ', array_keys(DriftCatalogue::MOVES)).'.',
                );
            try {
                $moves[] = [$class, Values::of($class::options(), $move['values'], $cues), $move['move']];
            } catch (Problem $e) {
                throw $e->at('moves['.$k.'].values');
            }
        }
        if (($d['by'] ?? 'pieces') === 'faces' && ($d['handOver'] ?? false)) {
            throw Problem::inValue(
                'handOver',
                'Faces that fly one by one cannot be handed over to physics.',
                'Let whole pieces drift; a break into flakes makes a piece of every face.',
            );
        }
        $ends = [];
        foreach ($d['ends'] ?? [] as $end) {
            $ends[$end['piece']] = [array_map(floatval(...), $end['by']), array_map(floatval(...), $end['turn'] ?? [0, 0, 0]), (float) ($end['size'] ?? 1.0)];
        }

        return new self(
            $d['map'], ($d['by'] ?? 'pieces') === 'faces', (float) ($d['stretch'] ?? 0.0), $ease, $d['ease'] ?? 'smooth', $d['assemble'] ?? false,
            $d['order'] ?? 'none', (float) ($d['stagger'] ?? 0.0), $d['seed'] ?? 1, $moves, $ends,
        );
    }

    /**
     * How far pieces are from where they belong at a frame.
     *
     * @param  list<float>  $weights  by piece, 0…1
     * @param  callable(string): array{float, float, float}  $where  where another prop stands, in the coordinates of the pieces
     *
     * @throws Problem where values of a move do not fit each other
     */
    public function at(float $frame, Pieces $pieces, array $weights, callable $where): Flight
    {
        $flight = new Flight($pieces->count());
        $amounts = $this->amounts($pieces, $weights);
        foreach ($this->moves as $k => [$class, $values]) {
            try {
                $move = $class::of($values->at($frame));
            } catch (Problem $e) {
                throw $e->at('moves['.$k.'].values');
            }
            $move->add($pieces, $amounts, $move->reads() === '' ? null : $where($move->reads()), $flight);
        }
        if ($this->ends !== []) {
            foreach ($pieces->names as $i => $name) {
                if (isset($this->ends[$name])) {
                    [$by, $turn, $size] = $this->ends[$name];
                    [$flight->x[$i], $flight->y[$i], $flight->z[$i]] = [$amounts[$i] * $by[0], $amounts[$i] * $by[1], $amounts[$i] * $by[2]];
                    $k = $amounts[$i] * M_PI / 180.0;
                    [$flight->rx[$i], $flight->ry[$i], $flight->rz[$i]] = [$k * $turn[0], $k * $turn[1], $k * $turn[2]];
                    $flight->size[$i] = max(0.0, 1.0 + $amounts[$i] * ($size - 1.0));
                }
            }
        }

        return $flight;
    }

    /**
     * Where pieces stand: middles and turns as the scene has them, eight numbers a piece as in a stream of poses, and sizes.
     *
     * @return array{list<float>, list<float>}
     */
    public static function stood(Pieces $pieces, Flight $flight, Placement $place): array
    {
        return self::poses(
            $pieces->x,
            $pieces->y,
            $pieces->z,
            $flight->x,
            $flight->y,
            $flight->z,
            $flight->rx,
            $flight->ry,
            $flight->rz,
            $flight->size,
            $place->position->toArray(),
            [$place->turn->x, $place->turn->y, $place->turn->z, $place->turn->w],
            $place->size,
        );
    }

    /**
     * Where the corners of faces stand that fly one by one: x, y, z of each, as the scene has them.
     *
     * @param  array{list<float>, list<float>, list<float>}  $corners  in the prop's own coordinates, three a face
     * @param  list<float>  $weights  by corner, 0…1
     * @param  callable(string): array{float, float, float}  $where
     * @return list<float>
     *
     * @throws Problem
     */
    public function corners(float $frame, array $corners, array $weights, callable $where, Placement $place): array
    {
        [$x, $y, $z] = $corners;
        $mx = $my = $mz = $areas = $mean = [];
        for ($k = 0, $n = count($x); $k < $n; $k += 3) {
            $mx[] = ($x[$k] + $x[$k + 1] + $x[$k + 2]) / 3.0;
            $my[] = ($y[$k] + $y[$k + 1] + $y[$k + 2]) / 3.0;
            $mz[] = ($z[$k] + $z[$k + 1] + $z[$k + 2]) / 3.0;
            $mean[] = ($weights[$k] + $weights[$k + 1] + $weights[$k + 2]) / 3.0;
            $areas[] = (new Vec3($x[$k + 1] - $x[$k], $y[$k + 1] - $y[$k], $z[$k + 1] - $z[$k]))->cross(new Vec3(
                $x[$k + 2] - $x[$k],
                $y[$k + 2] - $y[$k],
                $z[$k + 2] - $z[$k],
            ))->length();
        }
        $whole = $this->stretch >= 1.0 ? null : $this->at($frame, new Pieces($mx, $my, $mz, $areas, []), $mean, $where);
        $own = $this->stretch <= 0.0 ? null : $this->at($frame, new Pieces($x, $y, $z, $areas, [], 3), $weights, $where);
        $out = [];
        for ($k = 0, $n = count($x); $k < $n; $k++) {
            $f = intdiv($k, 3);
            $p = Vec3::zero();
            if ($whole !== null) {
                $from = (new Vec3($x[$k] - $mx[$f], $y[$k] - $my[$f], $z[$k] - $mz[$f]))->times($whole->size[$f]);
                $r = new Vec3($whole->rx[$f], $whole->ry[$f], $whole->rz[$f]);
                $angle = $r->length();
                $turned = $angle > 0.0 ? Quaternion::aboutAxis($r->times(1.0 / $angle), $angle)->turn($from) : $from;
                $p = (new Vec3($mx[$f] + $whole->x[$f], $my[$f] + $whole->y[$f], $mz[$f] + $whole->z[$f]))->plus($turned);
            }
            if ($own !== null) {
                $p = $p->times(1.0 - $this->stretch)->plus((new Vec3(
                    $x[$k] + $own->x[$k],
                    $y[$k] + $own->y[$k],
                    $z[$k] + $own->z[$k],
                ))->times($whole === null ? 1.0 : $this->stretch));
            }
            // What is not moved at all stands exactly where it was.
            $q = $place->point(
                ($whole === null || $this->isHome($whole, $f))
                && ($own === null || $this->isHome($own, $k)) ? new Vec3($x[$k], $y[$k], $z[$k]) : $p
            );
            array_push($out, $q->x, $q->y, $q->z);
        }

        return $out;
    }

    private function isHome(Flight $flight, int $i): bool
    {
        return $flight->x[$i] === 0.0
            && $flight->y[$i] === 0.0
            && $flight->z[$i] === 0.0
            && $flight->rx[$i] === 0.0
            && $flight->ry[$i] === 0.0
            && $flight->rz[$i] === 0.0
            && $flight->size[$i] === 1.0;
    }

    /** @return list<string> ids of the props its moves look at, at a frame */
    public function reads(float $frame): array
    {
        $out = [];
        foreach ($this->moves as [, $values]) {
            $to = $values->still()['to'] ?? '';
            if (is_string($to) && $to !== '') {
                $out[] = $to;
            }
        }

        return $out;
    }

    /** @return list<mixed> all it depends on at a frame but the weights */
    public function key(float $frame): array
    {
        return [...$this->settled(), array_map(static fn (array $m): array => [$m[2], $m[1]->at($frame)], $this->moves), $this->ends];
    }

    /** @return list<mixed> what is the same at every frame */
    private function settled(): array
    {
        return [$this->byFace, $this->stretch, $this->easeSaid, $this->assemble, $this->order, $this->stagger, $this->seed];
    }

    /** @param  bool  $before  whether also what it was before the first frame counts */
    public function acts(Acts $acts, bool $before): void
    {
        $acts->always('drift', [$this->map, ...$this->settled(), array_column($this->moves, 2), $this->ends]);
        foreach ($this->moves as $k => [, $values]) {
            $values->acts($acts, 'drift '.($k + 1));
        }
        $acts->map($this->map, true, $before);
    }

    /**
     * How much each piece drifts: its weight eased, pieces one after the other where they are staggered.
     *
     * @param  list<float>  $weights
     * @return list<float>
     */
    private function amounts(Pieces $pieces, array $weights): array
    {
        $lag = $this->order === 'none' || $this->stagger <= 0.0 ? [] : $this->ranks($pieces);
        $stagger = $this->stagger;
        $out = [];
        foreach ($weights as $i => $w) {
            if ($lag !== []) {
                $w = max(0.0, min(1.0, $w * (1.0 + $stagger) - $stagger * $lag[$i]));
            }
            // Exactly none and exactly all, whatever the curve.
            $d = $w <= 0.0 ? 0.0 : ($w >= 1.0 ? 1.0 : $this->ease->at($w));
            $out[] = $this->assemble ? 1.0 - $d : $d;
        }

        return $out;
    }

    /** @return list<float> 0 for the first to go, 1 for the last */
    private function ranks(Pieces $pieces): array
    {
        $together = $pieces->together;
        $n = intdiv($pieces->count(), $together);
        $random = new SeededRandom($this->seed);
        $keys = [];
        for ($i = 0; $i < $n; $i++) {
            $keys[] = match ($this->order) {
                'near' => self::mean($pieces->x, $i, $together) ** 2 + self::mean($pieces->y, $i, $together) ** 2 + self::mean($pieces->z, $i, $together) ** 2,
                'small' => $pieces->volumes[$i],
                'large' => -$pieces->volumes[$i],
                default => $random->share(),
            };
        }
        asort($keys);
        $out = array_fill(0, $n, 0.0);
        foreach (array_keys($keys) as $rank => $i) {
            $out[$i] = $n > 1 ? $rank / ($n - 1) : 0.0;
        }

        return $together === 1 ? $out : array_map(static fn (int $k): float => $out[intdiv($k, $together)], range(0, $pieces->count() - 1));
    }

    /** @param  list<float>  $values */
    private static function mean(array $values, int $number, int $together): float
    {
        return $together === 1 ? $values[$number] : array_sum(array_slice($values, $number * $together, $together)) / $together;
    }

    /**
     * A loop as hot as this one stands alone, on local arrays.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  list<float>  $ox
     * @param  list<float>  $oy
     * @param  list<float>  $oz
     * @param  list<float>  $rx
     * @param  list<float>  $ry
     * @param  list<float>  $rz
     * @param  list<float>  $size
     * @param  array{float, float, float}  $at
     * @param  array{float, float, float, float}  $turn
     * @return array{list<float>, list<float>}
     */
    private static function poses(
        array $x, array $y, array $z, array $ox, array $oy, array $oz, array $rx, array $ry, array $rz, array $size, array $at, array $turn,
        float $scale,
    ): array {
        [$px, $py, $pz] = $at;
        [$qx, $qy, $qz, $qw] = $turn;
        $poses = $sizes = [];
        for ($i = 0, $n = count($x); $i < $n; $i++) {
            $a = $scale * ($x[$i] + $ox[$i]);
            $b = $scale * ($y[$i] + $oy[$i]);
            $c = $scale * ($z[$i] + $oz[$i]);
            // The turn of the prop: v + 2w(q × v) + 2q × (q × v).
            $ux = 2.0 * ($qy * $c - $qz * $b);
            $uy = 2.0 * ($qz * $a - $qx * $c);
            $uz = 2.0 * ($qx * $b - $qy * $a);
            $poses[] = $px + $a + $qw * $ux + $qy * $uz - $qz * $uy;
            $poses[] = $py + $b + $qw * $uy + $qz * $ux - $qx * $uz;
            $poses[] = $pz + $c + $qw * $uz + $qx * $uy - $qy * $ux;
            $poses[] = 0.0;
            $r = sqrt($rx[$i] * $rx[$i] + $ry[$i] * $ry[$i] + $rz[$i] * $rz[$i]);
            if ($r > 0.0) {
                $k = sin(0.5 * $r) / $r;
                $sx = $k * $rx[$i];
                $sy = $k * $ry[$i];
                $sz = $k * $rz[$i];
                $sw = cos(0.5 * $r);
                $poses[] = $qw * $sx + $qx * $sw + $qy * $sz - $qz * $sy;
                $poses[] = $qw * $sy - $qx * $sz + $qy * $sw + $qz * $sx;
                $poses[] = $qw * $sz + $qx * $sy - $qy * $sx + $qz * $sw;
                $poses[] = $qw * $sw - $qx * $sx - $qy * $sy - $qz * $sz;
            } else {
                $poses[] = $qx;
                $poses[] = $qy;
                $poses[] = $qz;
                $poses[] = $qw;
            }
            $sizes[] = $scale * $size[$i];
        }

        return [$poses, $sizes];
    }
}
