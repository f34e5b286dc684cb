<?php

declare(strict_types=1);

namespace YardBreak\Core\Break\Plan;

use YardBreak\Core\Break\Cut\Relief;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Geometry\LinesKind;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Outline;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Direction;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Cuts the artist draws: each goes through all it crosses. */
final class Score implements Pattern
{
    private function __construct(
        private readonly Outline $lines,
        private readonly ?Vec3 $axis,
        private readonly float $reach,
        private readonly float $roughness,
        private readonly int $seed,
        private readonly bool $partOfMore = false,
    ) {
    }

    public static function label(): string
    {
        return 'Score';
    }

    public static function meaning(): string
    {
        return 'Cuts drawn by hand';
    }

    public static function options(): array
    {
        return [
            new Option(
                'lines',
                'Lines',
                'Drawn in the picture, or from an SVG drawing laid over the prop.',
                LinesKind::class,
                ['unit' => 'm', 'lines' => []],
                0,
                1,
            ),
            new Option('reach', 'Carry on', 'Open ends go on this far, so that lines meet and reach the edge.', Number::class, 0.02, 0, 100, 'm', share: 0.02),
            new Option('roughness', 'Roughness', 'Relief of the cut faces.', Number::class, 0.0, 0, 1),
            new Option('axis', 'Through', 'Direction the cuts go; through the thinnest way without one.', Direction::class, null, -1, 1),
            new Option('seed', 'Seed', 'Another number gives another relief.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self(Outline::of($values['lines']), Vec3::orNull($values['axis']), $values['reach'], $values['roughness'], $values['seed']);
    }

    /** The same for one piece of a prop: lines that lie beside it go through others. */
    public function forPiece(): self
    {
        return new self($this->lines, $this->axis, $this->reach, $this->roughness, $this->seed, true);
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $basis = Basis::along($this->axis ?? Basis::thinnest($frame->half));
        [$halfU, $halfV] = $basis->halves($frame->half);
        $placed = $this->lines->inMetres
            ? $this->lines->placed(1.0 / $frame->scale, 0.0, -$basis->u->dot($frame->centre) / $frame->scale, -$basis->v->dot($frame->centre) / $frame->scale)
            : $this->lines->placed(2.0 * max($halfU, $halfV));
        $this->requireOnProp($placed, $halfU, $halfV);
        $reach = $this->reach / $frame->scale;
        $relief = $this->roughness > 0.0
            ? Relief::of($this->roughness, min(2.0 * min($frame->half->x, $frame->half->y, $frame->half->z), 0.2), new SeededRandom($this->seed))
            : null;
        $names = [];
        foreach ($placed->lines as $i => $line) {
            $names[] = $line->name === '' || in_array($line->name, $names, true) ? (string) ($i + 1) : $line->name;
        }
        $seams = new Seams($names);
        $shards = PlanCut::shards($frame, $basis, function (float $jitter) use ($placed, $reach, $names, &$seams): Plan {
            $seams = new Seams($names);
            $drawing = new Drawing(new SeededRandom($this->seed), $jitter);
            foreach ($placed->lines as $line) {
                $drawing->line(self::carriedOn($line, $reach), $line->closed);
            }

            return new Plan($drawing->map, seams: [$seams, $drawing->lineOfEdge()]);
        }, $progress, $relief);
        if ($placed->lines !== [] && count($shards) < 2) {
            throw Problem::offTheProp(
                'lines',
                'The lines part nothing: each of them ends inside the prop.',
                'Draw them from edge to edge, close them, or let their ends carry on farther.',
            );
        }

        return $seams->named($shards, $basis);
    }

    private function requireOnProp(Outline $placed, float $halfU, float $halfV): void
    {
        foreach ($this->partOfMore ? [] : $placed->lines as $i => $line) {
            [$lowU, $lowV, $highU, $highV] = (new Outline([$line]))->box();
            if ($lowU > $halfU || $highU < -$halfU || $lowV > $halfV || $highV < -$halfV) {
                throw Problem::offTheProp('lines.lines['.$i.']', 'Line '.($i + 1).' lies outside the prop.', 'Draw it over the prop, or remove it.');
            }
        }
    }

    /** @return list<array{float, float}> with its open ends longer by the reach */
    private static function carriedOn(Polyline $line, float $reach): array
    {
        $points = $line->points;
        if ($line->closed || $reach <= 0.0) {
            return $points;
        }
        $further = static function (array $from, array $end) use ($reach): array {
            $l = max(1e-12, hypot($end[0] - $from[0], $end[1] - $from[1]));

            return [$end[0] + $reach / $l * ($end[0] - $from[0]), $end[1] + $reach / $l * ($end[1] - $from[1])];
        };
        $n = count($points);
        $first = $further($points[1], $points[0]);
        $points[$n - 1] = $further($points[$n - 2], $points[$n - 1]);
        $points[0] = $first;

        return $points;
    }
}
