<?php

declare(strict_types=1);

namespace YardBreak\Core\Cloth;

use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Motion\PackReader;
use YardBreak\Core\Motion\PackWriter;

/** What of a prop moves as one sheet: all of it, or, where it is in many pieces, some of them, which the others do not meet. */
final class Swatch
{
    /** Pieces of a prop from which on they are taken some at a time. */
    public const MANY = 48;

    /** How many at a time. */
    public const SOME = 32;

    /** Times as fast as it was a point of a small piece may be after a sub-step; times what acts on it from outside that it gains; and m/s. */
    private const FASTER = 1.1;

    private const OUTSIDE = 1.5;

    private const SLOW = 0.05;

    /** s within which what lies on something loses its speed to the air under it (common practice: what looks right). */
    private const BRAKED = 0.2;

    /** s of keeping still after which it rests. */
    private const RESTS_AFTER = 0.5;

    public readonly Touches $touches;

    /** Whether it is some of many pieces. */
    public readonly bool $loose;

    /** @var list<int> piece, by point */
    public readonly array $pieceOf;

    /** @var array<int, int> by number of a piece: one of its points */
    public readonly array $pieces;

    /** @var list<float>|null times its rest length, by point, as it is */
    public ?array $grown = null;

    /** s that it has kept still. */
    private float $still = 0.0;

    /**
     * @param  int  $prop  number
     * @param  int  $from  the first of its vertices among those of all pieces of the prop
     * @param  Cards|null  $cards  where it is some of many pieces: what moves for them
     * @param  list<float>  $differences  by stitch: what it has of the strength of all
     */
    public function __construct(public readonly int $prop, public readonly Sheet $sheet, public readonly int $from, private readonly ?Cards $cards, public readonly array $differences = [])
    {
        $this->loose = $cards !== null;
        $this->pieceOf = $sheet->weave->pieceOf;
        $this->pieces = array_flip($this->pieceOf);
        $this->touches = new Touches($sheet, $cards === null);
    }

    /**
     * The weights of a map on its points.
     *
     * @param  list<float>  $all  by vertex of all pieces of the prop
     * @return list<float>
     */
    public function weights(array $all): array
    {
        if ($this->cards !== null) {
            return array_map(fn (int $vertex): float => $all[$this->from + $vertex], $this->cards->nearest);
        }

        return $this->sheet->weave->byPoint($all, $this->from);
    }

    /**
     * Where the points of its pieces are.
     *
     * @param  float  $back  s before the moment reached
     * @return string packed float32, three a point
     */
    public function points(float $back): string
    {
        $sheet = $this->sheet;
        $was = static fn (array $at, array $goes): array => $back === 0.0 ? $at : array_map(static fn (float $a, float $v): float => $a - $back * $v, $at, $goes);
        [$x, $y, $z] = [$was($sheet->x, $sheet->vx), $was($sheet->y, $sheet->vy), $was($sheet->z, $sheet->vz)];
        if ($this->cards !== null) {
            return $this->cards->carried($x, $y, $z);
        }
        $out = '';
        foreach ($sheet->weave->pointOf as $i) {
            $out .= pack('g3', $x[$i], $y[$i], $z[$i]);
        }

        return $out;
    }

    /**
     * How fast its points may be after a sub-step: a little faster than the fastest of their piece was, and what acts on them from outside.
     *
     * @return list<float> m/s, by point; none where it is one sheet
     */
    public function limits(Pull $pull, float $h): array
    {
        if (! $this->loose) {
            return [];
        }
        $sheet = $this->sheet;
        $most = [];
        foreach ($this->pieceOf as $i => $piece) {
            $v = sqrt($sheet->vx[$i] ** 2 + $sheet->vy[$i] ** 2 + $sheet->vz[$i] ** 2);
            $a = sqrt($pull->fx[$i] ** 2 + $pull->fy[$i] ** 2 + $pull->fz[$i] ** 2) / $sheet->mass[$i];
            $most[$piece] = max($most[$piece] ?? 0.0, self::FASTER * $v + self::OUTSIDE * $h * $a + self::SLOW);
        }

        return array_map(static fn (int $piece): float => $most[$piece], $this->pieceOf);
    }

    /**
     * What flies has its weight all through a sub-step, not all at its start: first-order steps would fall too far by half a step's gain. What lies on
     * something is braked by the air it lies on.
     *
     * @param  Vec3  $gravity  m/s²
     */
    public function even(Pull $pull, float $h, Vec3 $gravity): void
    {
        if (! $this->loose) {
            return;
        }
        $lies = [];
        foreach ($pull->touch as $at) {
            $lies[$this->pieceOf[$at->points[0]]] = true;
        }
        foreach ($this->pieceOf as $i => $piece) {
            if (isset($lies[$piece])) {
                $this->sheet->brake($i, max(0.0, 1.0 - $h / self::BRAKED));
            }
        }
        $this->sheet->shift(array_keys(array_filter($this->pieceOf, static fn (int $piece): bool => ! isset($lies[$piece]))), $gravity->times(-0.5 * $h));
    }

    /** Whether it lies still for so long that it is left where it is. */
    public function rests(): bool
    {
        return $this->still >= self::RESTS_AFTER;
    }

    public function wake(): void
    {
        $this->still = 0.0;
    }

    /** @param  bool  $still  whether it kept still meanwhile */
    public function passed(float $seconds, bool $still): void
    {
        $this->still = $still ? $this->still + $seconds : 0.0;
        if ($this->rests()) {
            $this->sheet->stop();
        }
    }

    public function pack(PackWriter $out): void
    {
        $out->float($this->still);
        $this->sheet->pack($out);
    }

    public function unpack(PackReader $in): void
    {
        $this->still = $in->float();
        $this->sheet->unpack($in);
    }
}
