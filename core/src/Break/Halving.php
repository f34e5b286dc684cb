<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Break\Cut\Piece;
use YardBreak\Core\Break\Cut\Shards;
use YardBreak\Core\Break\Cut\Sheet;
use YardBreak\Core\Break\Cut\SheetCutter;
use YardBreak\Core\Break\Cut\UnitFrame;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Geometry\Noise;
use YardBreak\Core\Geometry\Vec3;
use YardBreak\Core\Kinds\Choice;
use YardBreak\Core\Kinds\Number;
use YardBreak\Core\Kinds\Whole;
use YardBreak\Core\Option;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;
use YardBreak\Core\SeededRandom;

/** Cuts in two, and the halves again: thick chunks with flat, bowed or rough walls. */
final class Halving implements FirstLook, Pattern
{
    /** Share of the work done, about, when all is cut and only the pieces' meshes are to be made. */
    private const CUT = 0.8;

    /** Passes that take no longer than a moment, and those shown first where there are more. */
    private const BRIEF = 7;

    private const FIRST = 5;

    /** Tries a cut has, and those among them that keep its form; the rest are flat, and lie anyhow. */
    private const TRIES = 24;

    private const FORMED = 8;

    /** Shares of a piece's extent: the relief at full roughness, its longest wave, and the edges that carry it. */
    private const HEIGHT = 0.2;

    private const WAVE = 0.6;

    private const STEP = 0.13;

    private function __construct(
        private readonly int $passes,
        private readonly string $cut,
        private readonly float $roughness,
        private readonly string $direction,
        private readonly string $order,
        private readonly float $uneven,
        private readonly int $seed,
    ) {
    }

    public static function label(): string
    {
        return 'Halving';
    }

    public static function meaning(): string
    {
        return 'Cut in two, and the halves again';
    }

    public static function options(): array
    {
        return [
            new Option('passes', 'Passes', 'Each doubles the pieces: 6 give 64.', Whole::class, 5, 1, 12),
            new Option('cut', 'Cuts', 'Straight or bent.', Choice::class, 'flat', choices: ['flat', 'bowed']),
            new Option('roughness', 'Roughness', 'Relief of the broken faces, from none to craggy.', Number::class, 0.0, 0, 1),
            new Option(
                'direction',
                'Direction',
                'Across the longest way, anyhow, or square to an axis.',
                Choice::class,
                'longest',
                choices: ['longest', 'random', 'x', 'y', 'z'],
            ),
            new Option('order', 'What is cut', 'Every piece in each pass, or always the largest.', Choice::class, 'all', choices: ['all', 'largest']),
            new Option('uneven', 'Uneven halves', 'How far from the middle a cut may lie.', Number::class, 0.3, 0, 0.9),
            new Option('seed', 'Seed', 'Another number gives another break of the same kind.', Whole::class, 1, 0, 999999),
        ];
    }

    public static function of(array $values): self
    {
        return new self($values['passes'], $values['cut'], $values['roughness'], $values['direction'], $values['order'], $values['uneven'], $values['seed']);
    }

    /** The first passes alone: the same cuts, before the finer ones. */
    public static function firstLook(array $values): ?array
    {
        return ($values['passes'] ?? 0) > self::BRIEF ? ['passes' => self::FIRST] + $values : null;
    }

    public function break(Mesh $solid, Progress $progress): array
    {
        $frame = new UnitFrame($solid);
        $random = new SeededRandom($this->seed);
        // Where a rough wall has crossed another, all is cut again, less rough.
        foreach ([1.0, 0.6, 0.3, 0.0] as $form) {
            try {
                $cutter = new SheetCutter($frame->unit);

                return Shards::of($cutter->cut($this->pieces($cutter, $random, $form, $progress)), $frame, $progress, self::CUT);
            } catch (\UnexpectedValueException) {
                continue;
            }
        }
        throw Problem::inMesh(
            'This mesh could not be halved into closed pieces: its surface crosses or overlaps itself.',
            'Rebuild it on the Props stage, or choose another seed.',
        );
    }

    /**
     * @param  float  $form  0…1, how much of their relief the cuts keep
     * @return list<Piece>
     */
    private function pieces(SheetCutter $cutter, SeededRandom $random, float $form, Progress $progress): array
    {
        $noise = new Noise($random);
        $pieces = [$cutter->whole()];
        $volumes = [1.0];
        $wanted = 2 ** $this->passes;
        while (count($pieces) < $wanted) {
            // Every piece of the pass before, or the largest of all.
            $turn = $this->order === 'all' ? array_keys($pieces) : [(int) array_search(max($volumes), $volumes, true)];
            foreach ($turn as $k) {
                $progress->report(self::CUT * count($pieces) / $wanted);
                [$pieces[$k], $other] = $this->halves($cutter, $pieces[$k], $random, $noise, $form);
                $volumes[$k] = $cutter->volume($pieces[$k]);
                $pieces[] = $other;
                $volumes[] = $cutter->volume($other);
            }
        }

        return $pieces;
    }

    /** @return array{Piece, Piece} */
    private function halves(SheetCutter $cutter, Piece $piece, SeededRandom $random, Noise $noise, float $form): array
    {
        [$low, $high] = $cutter->box($piece);
        $size = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        $extent = max($size);
        for ($try = 0; $try < self::TRIES; $try++) {
            // Where a try failed, the next lies elsewhere and is less rough.
            $calm = $form * max(0.0, 1.0 - $try / self::FORMED);
            $normal = $this->normal($size, $random, $try < self::FORMED ? $this->direction : 'random');
            $reach = 0.5 * (abs($normal->x) * $size[0] + abs($normal->y) * $size[1] + abs($normal->z) * $size[2]);
            $off = $reach * $this->uneven * $random->between(-1.0, 1.0);
            $through = new Vec3(0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2]));
            $sheet = new Sheet(
                $normal,
                $through->plus($normal->times($off + 1e-7 * $random->between(-1.0, 1.0))),
                self::HEIGHT * $this->roughness * $extent * $calm,
                self::WAVE * $extent,
                self::STEP * $extent,
                $this->cut === 'bowed' ? 0.5 * $random->between(-1.0, 1.0) / $extent * $calm : 0.0,
                $this->roughness > 0.0 ? $noise : null,
            );
            try {
                [$behind, $before] = $cutter->split($piece, $sheet);
            } catch (\UnexpectedValueException) {
                continue;
            }
            if ($behind !== null && $before !== null && $cutter->volume($behind) > 0.0 && $cutter->volume($before) > 0.0) {
                return [$behind, $before];
            }
        }

        throw new \UnexpectedValueException('piece that cannot be halved');
    }

    /** @param  list<float>  $size */
    private function normal(array $size, SeededRandom $random, string $direction): Vec3
    {
        $axis = match ($direction) {
            'x' => 0,
            'y' => 1,
            'z' => 2,
            'longest' => (int) array_search(max($size), $size, true),
            default => -1,
        };
        $lean = $axis < 0 ? 1.0 : ($direction === 'longest' ? 0.35 : 0.04);
        do {
            $n = [$lean * $random->between(-1.0, 1.0), $lean * $random->between(-1.0, 1.0), $lean * $random->between(-1.0, 1.0)];
            if ($axis >= 0) {
                $n[$axis] = 1.0;
            }
            $v = new Vec3($n[0], $n[1], $n[2]);
        } while ($v->length() < 0.1 || ($axis < 0 && $v->length() > 1.0));

        return $v->unit();
    }
}
