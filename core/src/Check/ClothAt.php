<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Cloth\Filling;
use YardBreak\Core\Cloth\Stitches;
use YardBreak\Core\Cloth\Stretch;
use YardBreak\Core\Cloth\Weave;
use YardBreak\Core\Motion\StreamKind;
use YardBreak\Core\Problem;
use YardBreak\Core\Shot\MapRun;

/** What baked cloth bears at a frame, place by place: by how much it is drawn, and what presses it outwards from within. */
final readonly class ClothAt
{
    /**
     * @param  list<float>  $x  m, where its points are
     * @param  list<float>  $y
     * @param  list<float>  $z
     * @param  \Closure(string): list<float>  $weights  of a map there, by point
     */
    private function __construct(private Weave $weave, private ClothSettings $settings, private float $frame, private array $x, private array $y, private array $z, private \Closure $weights)
    {
    }

    /**
     * @param  array<int, string>  $streams  of the prop at that frame, by kind
     *
     * @throws Problem where it is no cloth, or the frame does not fit it
     */
    public static function of(MapRun $maps, string $prop, int $frame, array $streams): self
    {
        $spec = $maps->prop($prop);
        $settings = $spec->motion->settings;
        $points = array_values(unpack('g*', $streams[StreamKind::Points->value] ?? '') ?: []);
        if (! $settings instanceof ClothSettings || $points === []) {
            throw Problem::inValue('prop', $spec->name.' is no cloth at that frame, so nothing of it is drawn.', 'Choose a prop that moves as cloth.');
        }
        $weave = Weave::ofPieces($maps->shards($prop), $settings->seam !== null);
        if (count($points) !== 3 * count($weave->pointOf)) {
            throw Problem::damaged('A baked frame is too short.');
        }
        $x = $y = $z = array_fill(0, $weave->count(), 0.0);
        foreach ($weave->pointOf as $v => $p) {
            [$x[$p], $y[$p], $z[$p]] = [$points[3 * $v], $points[3 * $v + 1], $points[3 * $v + 2]];
        }

        return new self($weave, $settings, (float) $frame, $x, $y, $z, static fn (string $map): array => $weave->byPoint($maps->onSkin($map, $frame, false)));
    }

    /**
     * @return array{shares: list<float>, worst: float, mean: float, at: array{float, float, float}, gives: float} of what it gives before it is taut, by point of
     *   its pieces, 1 for all of it; the most and the mean of all, as shares of length; where in the scene it is drawn most; and by how much it gives
     */
    public function stretch(): array
    {
        $weave = $this->weave;
        $byFace = Stretch::of($weave, $this->x, $this->y, $this->z, $this->settings->grown($this->frame, $weave->count(), $this->weights));
        $face = $byFace === [] ? 0 : Stretch::most($weave, $byFace);
        $byPoint = Stretch::atPoints($weave, $byFace);

        return [
            'shares' => array_map(fn (int $p): float => min(1.0, $byPoint[$p] / $this->settings->limit), $weave->pointOf),
            'worst' => $byFace[$face] ?? 0.0,
            'mean' => array_sum(array_map(static fn (float $s, float $area): float => $s * $area, $byFace, $weave->areas)) / array_sum($weave->areas),
            'at' => $this->middle(array_slice($weave->faces, 3 * $face, 3)),
            'gives' => $this->settings->limit,
        ];
    }

    /**
     * What presses it from within: wind and what it lies on are not of it.
     *
     * @return array{shares: list<float>, most: float, least: float, at: array{float, float, float}}|null of the greatest pressure outwards or inwards, by point of
     *   its pieces, 1 for all of it; Pa outwards, the most and the least of all; where in the scene it is greatest; null for what is not puffed up
     */
    public function pressure(): ?array
    {
        if (! $this->settings->puffs()) {
            return null;
        }
        $filling = $this->settings->filling($this->frame);
        $byPoint = $filling === null ? $this->given() : $this->kept($filling);
        $sizes = array_map(abs(...), $byPoint);
        $greatest = max($sizes);

        return [
            'shares' => array_map(static fn (int $p): float => $greatest > 0.0 ? $sizes[$p] / $greatest : 0.0, $this->weave->pointOf),
            'most' => max($byPoint),
            'least' => min($byPoint),
            'at' => $this->middle([(int) array_search($greatest, $sizes, true)]),
        ];
    }

    /** @return non-empty-list<float> Pa by point, of a pressure that is what it is whatever its size */
    private function given(): array
    {
        $pressure = $this->settings->pressure->at($this->frame);
        $map = $this->settings->pressureMap;

        return array_map(static fn (float $share): float => $pressure * $share, $map === '' ? array_fill(0, $this->weave->count(), 1.0) : ($this->weights)($map)) ?: [0.0];
    }

    /** @return non-empty-list<float> Pa by point, of what fills its parts; none where a seam gapes by more than it bears */
    private function kept(Filling $filling): array
    {
        $weave = $this->weave;
        $stitches = new Stitches($weave);
        $seam = $this->settings->seam;
        if ($seam !== null) {
            $bears = $seam->bears($weave, $seam->differences(count($weave->stitches)), $this->frame, $seam->map === '' ? null : ($this->weights)($seam->map));
            $stitches->tear($this->x, $this->y, $this->z, $this->settings->stretch, $bears);
        }
        $made = Filling::volumes($weave, $stitches->parts, $weave->x, $weave->y, $weave->z)[0];
        $pressures = [];
        foreach (Filling::volumes($weave, $stitches->parts, $this->x, $this->y, $this->z)[0] as $part => $volume) {
            $pressures[] = $stitches->keeps($part) ? $filling->at($volume, $made[$part])[0] : 0.0;
        }

        return array_map(static fn (int $part): float => $pressures[$part], $stitches->parts) ?: [0.0];
    }

    /**
     * @param  non-empty-list<int>|list<int>  $points
     * @return array{float, float, float} m
     */
    private function middle(array $points): array
    {
        $mean = static fn (array $axis): float => array_sum(array_map(static fn (int $p): float => $axis[$p], $points)) / max(1, count($points));

        return [$mean($this->x), $mean($this->y), $mean($this->z)];
    }
}
