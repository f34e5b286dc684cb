<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use Svg\Style;
use Svg\Surface\SurfaceInterface;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;

/** Follows what an SVG drawing draws and keeps its lines; colours, text and pictures leave no trace. */
final class SvgPen implements SurfaceInterface
{
    /** Straight parts of a curve. */
    private const PARTS = 24;

    private const MOST_POINTS = 150_000;

    private int $count = 0;

    /** @var array{float, float, float, float, float, float} */
    private array $matrix = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];

    /** @var list<array{float, float, float, float, float, float}> */
    private array $saved = [];

    /** @var list<Polyline> */
    private array $lines = [];

    /** @var list<array{float, float}> */
    private array $points = [];

    /** @var array{float, float} */
    private array $at = [0.0, 0.0];

    private ?Style $style = null;

    /** @return list<Polyline> */
    public function lines(): array
    {
        $this->end(false);

        return $this->lines;
    }

    public function save()
    {
        $this->saved[] = $this->matrix;
    }

    public function restore()
    {
        $this->end(false);
        $this->matrix = array_pop($this->saved) ?? $this->matrix;
    }

    public function scale($x, $y)
    {
        $this->transform($x, 0, 0, $y, 0, 0);
    }

    public function rotate($angle)
    {
        $a = deg2rad((float) $angle);
        $this->transform(cos($a), sin($a), -sin($a), cos($a), 0, 0);
    }

    public function translate($x, $y)
    {
        $this->transform(1, 0, 0, 1, $x, $y);
    }

    public function transform($a, $b, $c, $d, $e, $f)
    {
        [$m0, $m1, $m2, $m3, $m4, $m5] = $this->matrix;
        $this->matrix = [
            $m0 * $a + $m2 * $b, $m1 * $a + $m3 * $b,
            $m0 * $c + $m2 * $d, $m1 * $c + $m3 * $d,
            $m0 * $e + $m2 * $f + $m4, $m1 * $e + $m3 * $f + $m5,
        ];
    }

    public function beginPath()
    {
        $this->end(false);
    }

    public function closePath()
    {
        $this->end(true);
    }

    public function endPath()
    {
        $this->end(false);
    }

    public function fill()
    {
        $this->end(false);
    }

    public function stroke(bool $close = false)
    {
        $this->end($close);
    }

    public function fillStroke(bool $close = false)
    {
        $this->end($close);
    }

    public function clip()
    {
        $this->points = [];
    }

    public function moveTo($x, $y)
    {
        $this->end(false);
        $this->put((float) $x, (float) $y);
    }

    public function lineTo($x, $y)
    {
        $this->put((float) $x, (float) $y);
    }

    public function quadraticCurveTo($cpx, $cpy, $x, $y)
    {
        [$u, $v] = $this->at;
        $this->bezierCurveTo($u + 2 / 3 * ($cpx - $u), $v + 2 / 3 * ($cpy - $v), $x + 2 / 3 * ($cpx - $x), $y + 2 / 3 * ($cpy - $y), $x, $y);
    }

    public function bezierCurveTo($cp1x, $cp1y, $cp2x, $cp2y, $x, $y)
    {
        [$u, $v] = $this->at;
        for ($i = 1; $i <= self::PARTS; $i++) {
            $t = $i / self::PARTS;
            $s = 1.0 - $t;
            $this->put(
                $s * $s * $s * $u + 3 * $s * $s * $t * $cp1x + 3 * $s * $t * $t * $cp2x + $t * $t * $t * $x,
                $s * $s * $s * $v + 3 * $s * $s * $t * $cp1y + 3 * $s * $t * $t * $cp2y + $t * $t * $t * $y,
            );
        }
    }

    public function arcTo($x1, $y1, $x2, $y2, $radius)
    {
        $this->lineTo($x1, $y1);
        $this->lineTo($x2, $y2);
    }

    public function circle($x, $y, $radius)
    {
        $this->ellipse($x, $y, $radius, $radius, 0, 0, 360, false);
    }

    public function arc($x, $y, $radius, $startAngle, $endAngle, $anticlockwise = false)
    {
        $this->ellipse($x, $y, $radius, $radius, 0, $startAngle, $endAngle, $anticlockwise);
    }

    public function ellipse($x, $y, $radiusX, $radiusY, $rotation, $startAngle, $endAngle, $anticlockwise)
    {
        $this->end(false);
        for ($i = 0; $i < 4 * self::PARTS; $i++) {
            $a = M_PI * $i / (2 * self::PARTS);
            $this->put($x + $radiusX * cos($a), $y + $radiusY * sin($a));
        }
        $this->end(true);
    }

    public function rect($x, $y, $w, $h, $rx = 0, $ry = 0)
    {
        $this->end(false);
        foreach ([[0, 0], [1, 0], [1, 1], [0, 1]] as [$i, $j]) {
            $this->put($x + $i * $w, $y + $j * $h);
        }
        $this->end(true);
    }

    public function fillRect($x, $y, $w, $h)
    {
        $this->rect($x, $y, $w, $h);
    }

    public function strokeRect($x, $y, $w, $h)
    {
        $this->rect($x, $y, $w, $h);
    }

    public function fillText($text, $x, $y, $maxWidth = null)
    {
    }

    public function strokeText($text, $x, $y, $maxWidth = null)
    {
    }

    public function measureText($text)
    {
        return 0;
    }

    public function drawImage($image, $sx, $sy, $sw = null, $sh = null, $dx = null, $dy = null, $dw = null, $dh = null)
    {
    }

    public function setStyle(Style $style)
    {
        $this->style = $style;
    }

    public function getStyle()
    {
        return $this->style ??= new Style;
    }

    public function setFont($family, $style, $weight)
    {
    }

    private function put(float $x, float $y): void
    {
        $this->at = [$x, $y];
        [$a, $b, $c, $d, $e, $f] = $this->matrix;
        $p = [$a * $x + $c * $y + $e, $b * $x + $d * $y + $f];
        if (! is_finite($p[0]) || ! is_finite($p[1])) {
            return;
        }
        $last = $this->points[count($this->points) - 1] ?? null;
        if ($last === null || abs($last[0] - $p[0]) > 1e-9 || abs($last[1] - $p[1]) > 1e-9) {
            $this->points[] = $p;
            if (++$this->count > self::MOST_POINTS) {
                throw Problem::inFile('The drawing has more than '.number_format(self::MOST_POINTS).' points.', 'Simplify it first.');
            }
        }
    }

    private function end(bool $closed): void
    {
        $points = $this->points;
        $this->points = [];
        $n = count($points);
        if ($n > 2 && abs($points[0][0] - $points[$n - 1][0]) < 1e-6 && abs($points[0][1] - $points[$n - 1][1]) < 1e-6) {
            $closed = true;
            array_pop($points);
        }
        if (count($points) > 1) {
            $this->lines[] = new Polyline($points, $closed && count($points) > 2);
        }
    }
}
