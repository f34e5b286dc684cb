<?php

declare(strict_types=1);

namespace YardBreak\Core\Trial;

use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Quantity;

/** What came of a bake, in the figures by which bakes are told apart. */
final readonly class Outcome
{
    /** Share of what moved that lies within what is called its spread: one piece that rolled away says little. */
    private const MOST = 0.9;

    /** Times by which figures must differ to be spoken of. */
    private const TELLS = 1.05;

    /**
     * @param  int|null  $rests  the first frame from which nothing moves any more; null where something does at its end, or nothing ever did
     * @param  bool  $moved  whether physics moved anything
     * @param  float|null  $spread  m on the ground, round where it began, within which nine tenths of what moves by itself ends up; null where nothing does
     * @param  float  $energy  J, the most that moved at one time
     * @param  float  $overlap  m, the deepest
     * @param  float  $seconds  of computing
     */
    public function __construct(public ?int $rests, public bool $moved, public ?float $spread, public float $energy, public float $overlap, public float $seconds, public int $pieces)
    {
    }

    /**
     * @param  non-empty-list<array<string, mixed>>  $figures  of its frames, in their order
     * @param  array<int, array<int, string>>  $first  streams of its first frame by prop and kind
     * @param  array<int, array<int, string>>  $last  of its last
     * @param  float  $seconds  that it took in all
     */
    public static function of(array $figures, array $first, array $last, float $seconds, int $pieces): self
    {
        $moving = array_map(static fn (array $f): int => (int) $f['moving'], $figures);
        $busy = array_keys(array_filter($moving));
        $end = $busy === [] ? -1 : end($busy);

        return new self(
            $busy === [] || $end === count($figures) - 1 ? null : (int) $figures[$end + 1]['frame'], $busy !== [], self::spread($first, $last),
            (float) max(array_column($figures, 'energy')), (float) max(array_column($figures, 'overlap')), $seconds, $pieces,
        );
    }

    /**
     * @param  array<int, array<int, string>>  $first
     * @param  array<int, array<int, string>>  $last
     */
    private static function spread(array $first, array $last): ?float
    {
        $from = $to = [];
        foreach ($last as $prop => $streams) {
            [$before, $after] = [self::places($first[$prop] ?? []), self::places($streams)];
            foreach (count($before) === count($after) ? $after : [] as $k => [$x, $z, $held]) {
                if (! $held) {
                    $from[] = $before[$k];
                    $to[] = [$x, $z];
                }
            }
        }
        if ($to === []) {
            return null;
        }
        $n = count($to);
        [$mx, $mz] = [array_sum(array_column($from, 0)) / $n, array_sum(array_column($from, 1)) / $n];
        $far = array_map(static fn (array $p): float => hypot($p[0] - $mx, $p[1] - $mz), $to);
        sort($far);

        return $far[min($n - 1, (int) ceil(self::MOST * $n) - 1)];
    }

    /**
     * @param  array<int, string>  $streams  of a prop
     * @return list<array{float, float, bool}> m, x and z of its pieces or points, and whether each follows its prop
     */
    private static function places(array $streams): array
    {
        $out = [];
        $points = $streams[StreamKind::Points->value] ?? '';
        [$bytes, $stride] = $points !== '' ? [$points, 3] : [$streams[StreamKind::Poses->value] ?? '', 8];
        $all = array_values(unpack('g*', $bytes) ?: []);
        for ($k = 0, $n = count($all); $k + $stride <= $n; $k += $stride) {
            $out[] = [$all[$k], $all[$k + 2], $stride === 8 && $all[$k + 3] === 0.0];
        }

        return $out;
    }

    /**
     * What is different of another bake of the same shot.
     *
     * @return list<string> in words, what matters most first
     */
    public function against(self $before): array
    {
        $out = [];
        if ($this->moved !== $before->moved) {
            $out[] = $this->moved ? 'something moves now' : 'nothing moves any more';
        } elseif (($this->rests === null) !== ($before->rests === null)) {
            $out[] = $this->rests === null ? 'does not come to rest by its end' : 'comes to rest, at frame '.$this->rests;
        } elseif ($this->rests !== null && $this->rests !== $before->rests) {
            $by = abs($this->rests - $before->rests);
            $out[] = 'rests '.$by.' frame'.($by === 1 ? '' : 's').($this->rests > $before->rests ? ' later' : ' earlier');
        }
        if ($this->spread !== null && $before->spread !== null && self::differ($this->spread, $before->spread)) {
            $out[] = 'spreads '.Quantity::show(abs($this->spread - $before->spread), 'm', 2).($this->spread > $before->spread ? ' farther' : ' less far');
        }
        if (self::differ($this->energy, $before->energy)) {
            $out[] = 'moves with '.($before->energy > 0.0 ? self::times($this->energy / $before->energy).' the energy' : Quantity::show($this->energy, 'J', 2));
        }
        if (self::differ($this->overlap, $before->overlap) && max($this->overlap, $before->overlap) >= 1e-4) {
            $out[] = 'overlaps by '.Quantity::show($this->overlap, 'm', 2).' at most, not '.Quantity::show($before->overlap, 'm', 2);
        }
        if ($this->pieces !== $before->pieces) {
            $by = abs($this->pieces - $before->pieces);
            $out[] = number_format($by).' '.($this->pieces > $before->pieces ? 'more' : 'fewer').' piece'.($by === 1 ? '' : 's');
        }

        return $out;
    }

    private static function differ(float $one, float $other): bool
    {
        [$less, $more] = [min($one, $other), max($one, $other)];

        return $more > 1e-9 && $more > self::TELLS * $less;
    }

    private static function times(float $share): string
    {
        return $share >= 10.0 ? number_format($share).' times' : ($share >= 2.0 ? sprintf('%.1f times', $share) : round(100.0 * $share).' % of');
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @param  array<string, mixed>  $kept  as `toArray` gave it */
    public static function fromArray(array $kept): self
    {
        return new self($kept['rests'], $kept['moved'], $kept['spread'] === null ? null : (float) $kept['spread'], (float) $kept['energy'], (float) $kept['overlap'], (float) $kept['seconds'], (int) $kept['pieces']);
    }
}
