<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\Shard;
use YardBreak\Core\Cloth\ClothMover;
use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Cloth\Swatch;
use YardBreak\Core\Geometry\Aabb;
use YardBreak\Core\Geometry\FaceNormals;
use YardBreak\Core\Geometry\Mesh;
use YardBreak\Core\Quantity;
use YardBreak\Core\Shot\PropSpec;

/** What can be said of cloth before it is baked: how heavy it is, how small it folds against how fine it is, how far it sags, and what many pieces cost. */
final class ClothFigures
{
    /** m/s². */
    private const G = 9.80665;

    /** Times its bending length that a fold is wide, about (common practice). */
    private const FOLD = 2.0;

    /** s a frame that a thousand cards of four points take while they fly, on the machine this was measured on. */
    private const THOUSAND = 0.07;

    /**
     * @param  list<Shard>  $shards
     * @param  float  $frameTime  s
     * @return array{words: list<string>, coarse: bool} and whether its faces are too large for its folds
     */
    public static function of(PropSpec $prop, array $shards, ClothSettings $settings, float $frameTime): array
    {
        $area = array_sum(array_map(static fn (Shard $s): float => array_sum(FaceNormals::areas($s->mesh)), $shards));
        $words = ['It weighs '.Quantity::show($area * $settings->weight, 'kg').': '.Quantity::show($area, 'm²').' of '.Quantity::show($settings->weight, 'kg/m²').'.'];
        if ($settings->seam === null && count($shards) > Swatch::MANY) {
            $points = ($settings->cells + 1) ** 2;
            $words[] = sprintf(
                '%s pieces fly as cards of %d points, about %s a frame while all do; what is held or lies still costs next to nothing. They do not meet each other.',
                number_format(count($shards)), $points, Quantity::show(self::THOUSAND * count($shards) / 1000.0 * $points / 4.0, 's', 1),
            );

            return ['words' => $words, 'coarse' => false];
        }
        // Peirce 1930: the length at which it bends under its own weight.
        $fold = self::FOLD * ($settings->bend / ($settings->weight * self::G)) ** (1.0 / 3.0);
        [$edge, $longest] = self::edges($shards);
        $coarse = $fold < $edge;
        $words[] = sprintf('It folds down to about %s; its faces are %s wide%s.', Quantity::show($fold, 'm', 1), Quantity::show($edge, 'm', 1), $coarse ? ': too wide to show that' : '');
        if ($settings->meetsItself) {
            $words[] = sprintf(
                'Where it comes upon cloth faster than %s it takes more sub-steps by itself, up to %d of a frame at %s.',
                Quantity::show(ClothMover::fastest($settings->steps, $longest, $settings->closely, $frameTime), 'm/s', 2), ClothMover::MOST_STEPS, Quantity::show(ClothMover::fastest(ClothMover::MOST_STEPS, $longest, $settings->closely, $frameTime), 'm/s', 2),
            );
        }
        if ($settings->hold !== '') {
            $long = max(Aabb::around(...array_map(static fn (Shard $s): Mesh => $s->mesh, $shards))->size()->toArray());
            // A taut strip hangs as a parabola: its sag δ makes it 8/3·(δ/L)² longer, by its tension wL²/8δ.
            $sag = $long * (3.0 * $settings->weight * self::G * $long / (64.0 * $settings->stretch)) ** (1.0 / 3.0);
            $words[] = 'Held flat at two ends '.Quantity::show($long, 'm').' apart it would sag by '.Quantity::show($sag, 'm', 2).'.';
        }

        return ['words' => $words, 'coarse' => $coarse];
    }

    /**
     * @param  list<Shard>  $shards
     * @return array{float, float} m, of its edges on the mean, and of the longest
     */
    private static function edges(array $shards): array
    {
        $sum = $longest = 0.0;
        $count = 0;
        foreach ($shards as $shard) {
            $m = $shard->mesh;
            for ($i = 0, $n = count($m->faces); $i < $n; $i++) {
                $p = $m->faces[$i];
                $q = $m->faces[$i % 3 === 2 ? $i - 2 : $i + 1];
                $long = sqrt(($m->x[$p] - $m->x[$q]) ** 2 + ($m->y[$p] - $m->y[$q]) ** 2 + ($m->z[$p] - $m->z[$q]) ** 2);
                $sum += $long;
                $longest = max($longest, $long);
                $count++;
            }
        }

        return [$sum / max(1, $count), $longest];
    }
}
