<?php

declare(strict_types=1);

namespace YardBreak\Core\Geometry;

use YardBreak\Core\Problem;

/** A drawing of lines in a plane, y up, about its own middle. */
final readonly class Outline
{
    public const MOST_LINES = 4000;

    public const MOST_POINTS = 60000;

    /**
     * @param  list<Polyline>  $lines
     * @param  bool  $inMetres  else its longer side is 1
     * @param  array{float, float}|null  $frame  width and height of the picture it was traced in, about the same middle
     */
    public function __construct(public array $lines, public bool $inMetres = false, public ?array $frame = null)
    {
    }

    /**
     * @param  array<mixed>  $value  as in a document: `lines`, each with `points`, `closed` and perhaps a `name`, and `unit` "m" where in metres
     *
     * @throws Problem with the path of what is wrong
     */
    public static function of(array $value): self
    {
        $lines = [];
        $count = 0;
        $given = $value['lines'] ?? null;
        if (! is_array($given) || count($given) > self::MOST_LINES) {
            throw Problem::inValue(
                'lines',
                is_array($given) ? 'There are more than '.self::MOST_LINES.' lines.' : 'A drawing is a list of lines.',
                'Draw fewer lines.',
            );
        }
        foreach (array_values($given) as $i => $line) {
            $points = [];
            foreach (
                is_array($line) && is_array($line['points'] ?? null) ? $line['points'] : throw Problem::inValue("lines[$i]",
                    'A line is a list of points.',
                    'Draw it again.',
                ) as $k => $p) {
                if (! self::isPair($p) || abs($p[0]) > 1e5 || abs($p[1]) > 1e5) {
                    throw Problem::inValue("lines[$i].points[$k]", 'A point is two numbers.', 'Correct it, or draw the line again.');
                }
                $points[] = [(float) $p[0], (float) $p[1]];
            }
            $count += count($points);
            if ($count > self::MOST_POINTS) {
                throw Problem::inValue('lines', 'There are more than '.self::MOST_POINTS.' points.', 'Simplify the drawing.');
            }
            if (count($points) > 1) {
                $lines[] = new Polyline($points, (bool) ($line['closed'] ?? false), is_string($line['name'] ?? null) ? mb_substr($line['name'], 0, 40) : '');
            }
        }

        $frame = $value['frame'] ?? null;
        if ($frame !== null && (! self::isPair($frame) || min($frame) <= 0.0)) {
            throw Problem::inValue('frame', 'The frame of a drawing is a width and a height.', 'Read the drawing again.');
        }

        return new self($lines, ($value['unit'] ?? '') === 'm', $frame === null ? null : [(float) $frame[0], (float) $frame[1]]);
    }

    /** @phpstan-assert-if-true array{int|float, int|float} $value */
    private static function isPair(mixed $value): bool
    {
        return is_array($value)
            && array_is_list($value)
            && count($value) === 2
            && (is_int($value[0]) || is_float($value[0]))
            && (is_int($value[1]) || is_float($value[1]))
            && is_finite((float) $value[0])
            && is_finite((float) $value[1]);
    }

    /**
     * @return array{unit: string, lines: list<array{points: list<array{float, float}>, closed: bool, name?: string}>, frame?: array{float, float}} as in a
     * document
     */
    public function toArray(): array
    {
        $frame = $this->frame === null ? [] : ['frame' => [round($this->frame[0], 6), round($this->frame[1], 6)]];

        return $frame + ['unit' => $this->inMetres ? 'm' : 'box', 'lines' => array_map(static fn (Polyline $l): array => [
            'points' => array_map(static fn (array $p): array => [round($p[0], 6), round($p[1], 6)], $l->points), 'closed' => $l->closed,
        ] + ($l->name === '' ? [] : ['name' => $l->name]), $this->lines)];
    }

    /** The closed lines only. */
    public function closed(): self
    {
        return new self(array_values(array_filter($this->lines, static fn (Polyline $l): bool => $l->closed)), $this->inMetres, $this->frame);
    }

    public function placed(float $scale, float $turn = 0.0, float $u = 0.0, float $v = 0.0): self
    {
        return new self(
            array_map(static fn (Polyline $l): Polyline => $l->placed($scale, $turn, $u, $v), $this->lines),
            $this->inMetres,
            $this->frame === null ? null : [$scale * $this->frame[0], $scale * $this->frame[1]],
        );
    }

    /** @return array{float, float, float, float} least and most of both coordinates */
    public function box(): array
    {
        $u = $v = [];
        foreach ($this->lines as $line) {
            foreach ($line->points as [$a, $b]) {
                $u[] = $a;
                $v[] = $b;
            }
        }

        return $u === [] ? [0.0, 0.0, 0.0, 0.0] : [min($u), min($v), max($u), max($v)];
    }

    /** Moved about the middle of its own box, the longer side of which becomes 1. */
    public function fitted(): self
    {
        [$lowU, $lowV, $highU, $highV] = $this->box();
        $k = 1.0 / max(1e-300, $highU - $lowU, $highV - $lowV);

        return $this->placed($k, 0.0, -0.5 * $k * ($lowU + $highU), -0.5 * $k * ($lowV + $highV));
    }
}
