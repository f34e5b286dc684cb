<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;

/** What of props weight maps decide at any frame, without a bake: where drifting pieces are, what has appeared, and how surfaces look. */
final class Evaluation
{
    /** Raised when the same prop would look otherwise. */
    private const VERSION = 3;

    private readonly DriftRun $drifts;

    private readonly BlendRun $blends;

    public function __construct(private readonly MapRun $maps)
    {
        $this->drifts = new DriftRun($maps);
        $this->blends = new BlendRun($maps);
    }

    /** Whether anything of a prop is. */
    public static function needs(PropSpec $prop): bool
    {
        return $prop->motion->drift !== null || $prop->appears !== null || self::blends($prop) || Skin::has($prop);
    }

    /** Whether what a prop is at a frame depends on the frames before. */
    public function remembers(string $prop): bool
    {
        $spec = $this->maps->prop($prop);
        foreach ([...array_keys(self::maps($spec)), ...$spec->motion->drift === null ? [] : [$spec->motion->drift->map], ...self::blends($spec) ? [$spec->blend->map ?? ''] : []] as $map) {
            if ($this->maps->remembers((string) $map)) {
                return true;
            }
        }

        return false;
    }

    /**
     * What that depends on, frame by frame.
     *
     * @return list<string> 32 hexadecimal digits for each frame from the first to the last
     *
     * @throws Problem
     */
    public function keys(string $prop): array
    {
        $spec = $this->maps->prop($prop);
        $keys = $spec->motion->drift === null ? [] : [$this->drifts->keys($prop)];
        if (self::blends($spec)) {
            $keys[] = array_map(fn (int $frame): string => $this->blends->key($prop, $frame), range($this->maps->shot->first, $this->maps->shot->last));
        }
        foreach (self::maps($spec) as $map => $kind) {
            $keys[] = $this->maps->keys((string) $map, $kind);
        }
        $still = [self::VERSION, $spec->shardKey(), $spec->appears?->map, $spec->appears?->key(), array_keys(Skin::maps($spec))];
        $out = [];
        for ($k = 0; $k <= $this->maps->shot->last - $this->maps->shot->first; $k++) {
            $frame = $this->maps->shot->first + $k;
            $out[] = hash('xxh128', serialize([$still, array_column($keys, $k), $spec->relief?->depth->at($frame)]));
        }

        return $out;
    }

    /**
     * @return array<int, string> bytes by kind of stream: poses and sizes of what drifts, and the corners of its faces where they fly one by one; of what
     *   appears piece by piece the shares that have; the points of what blends; and the skin of what goes by maps
     *
     * @throws Problem
     */
    public function streams(string $prop, int $frame): array
    {
        $spec = $this->maps->prop($prop);
        $out = [];
        $shares = $this->shares($spec, $frame);
        if ($spec->motion->drift !== null) {
            [$poses, $sizes] = $this->drifts->at($prop, (float) $frame);
            $out[StreamKind::Poses->value] = self::floats($poses);
            $out[StreamKind::Sizes->value] = self::floats($sizes);
            if ($spec->motion->drift->byFace) {
                $out[StreamKind::Corners->value] = self::floats($this->drifts->corners($prop, $frame));
            }
        }
        if ($shares !== null) {
            $out[StreamKind::Shares->value] = self::floats($shares);
        }
        if (self::blends($spec)) {
            $out[StreamKind::Points->value] = $this->blended($spec, $frame);
        }
        if (Skin::has($spec)) {
            $out[StreamKind::Skin->value] = $this->skin($spec, $frame);
        }

        return $out;
    }

    /**
     * What of a baked frame weight maps decide beside: pieces that have not appeared have no size, and the skin.
     *
     * @param  array<int, array<int, string>>  $streams  by number of the prop and kind
     * @return array<int, array<int, string>>
     *
     * @throws Problem
     */
    public function onto(array $streams, int $frame): array
    {
        foreach ($this->maps->shot->props as $k => $spec) {
            $shares = $this->shares($spec, $frame);
            if ($shares !== null) {
                $sizes = array_values(unpack('g*', $streams[$k][StreamKind::Sizes->value] ?? '') ?: array_fill(0, count($shares), 1.0));
                $streams[$k][StreamKind::Sizes->value] = self::floats(self::times($sizes, $shares));
            }
            if ($spec->motion->drift?->byFace === true) {
                $streams[$k][StreamKind::Corners->value] = self::floats($this->drifts->corners($spec->id, $frame));
            }
            if (self::blends($spec)) {
                $streams[$k][StreamKind::Points->value] = $this->blended($spec, $frame);
            }
            if (Skin::has($spec)) {
                $streams[$k][StreamKind::Skin->value] = $this->skin($spec, $frame);
            }
        }

        return $streams;
    }

    /** Whether maps alone say where its points are: what physics moves by points only goes toward its blend. */
    private static function blends(PropSpec $prop): bool
    {
        return $prop->blend !== null && ! $prop->motion->letsGo();
    }

    private function blended(PropSpec $spec, int $frame): string
    {
        [$x, $y, $z] = $this->blends->at($spec->id, (float) $frame);
        $out = '';
        foreach ($x as $i => $at) {
            $out .= pack('g3', $at, $y[$i], $z[$i]);
        }

        return $out;
    }

    /** @return list<float>|null by piece: the share of its size that has appeared; null where the prop appears as a whole */
    private function shares(PropSpec $spec, int $frame): ?array
    {
        $appears = $spec->appears;

        return $appears === null || ! $appears->byPiece()
            ? null
            : array_map($appears->share(...), $this->maps->weightsAt($appears->map, MapRun::PIECES, $frame));
    }

    /**
     * @param  list<float>  $sizes
     * @param  list<float>  $shares
     * @return list<float>
     */
    private static function times(array $sizes, array $shares): array
    {
        return array_map(static fn (float $size, float $share): float => $size * $share, $sizes, $shares);
    }

    private function skin(PropSpec $spec, int $frame): string
    {
        $maps = Skin::maps($spec);
        $channels = [];
        foreach (['second', 'appears', 'relief'] as $what) {
            $channels[] = isset($maps[$what]) ? $this->maps->onSkin($maps[$what], $frame) : null;
        }
        [$second, $seen, $relief] = $channels;
        $appears = $spec->appears;
        $bytes = [];
        for ($i = 0, $n = count($second ?? $seen ?? $relief ?? []); $i < $n; $i++) {
            $bytes[] = $second === null ? 0 : (int) (255.0 * $second[$i] + 0.5);
            $bytes[] = $seen === null || $appears === null ? 255 : (int) (255.0 * $appears->share($seen[$i]) + 0.5);
            $bytes[] = $relief === null ? 0 : (int) (255.0 * $relief[$i] + 0.5);
        }
        $out = pack('g', $spec->relief?->depth->at($frame) ?? 0.0);
        foreach (array_chunk($bytes, 8190) as $chunk) {
            $out .= pack('C*', ...$chunk);
        }

        return $out;
    }

    /** @return array<string, 'points'|'pieces'> by id: the maps that are asked for, but for that of a drift */
    private static function maps(PropSpec $prop): array
    {
        $out = [];
        foreach (Skin::maps($prop) as $map) {
            $out[$map] = MapRun::SURFACE;
        }
        if ($prop->appears?->byPiece() === true) {
            $out[$prop->appears->map] = MapRun::PIECES;
        }

        return $out;
    }

    /** @param  list<float>  $values */
    private static function floats(array $values): string
    {
        $out = '';
        foreach (array_chunk($values, 8192) as $chunk) {
            $out .= pack('g*', ...$chunk);
        }

        return $out;
    }
}
