<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\ClothFigures;
use YardBreak\Core\Cloth\ClothSettings;
use YardBreak\Core\Tests\Bake\Trials;

/** What is said of cloth beforehand, by form. */
final class ClothFiguresTest extends TestCase
{
    /** Two metres by one of 0.25 kg/m²: 500 g. Bending 8·0.25·9.80665·10⁻⁶ N·m over its weight is a length of 2 cm, a fold of 4. Sag of 2 m at 1,000 N/m: 2·(3·0.25·9.80665·2/64,000)^⅓. */
    public function test_weight_folds_and_sag(): void
    {
        $told = self::told(24, ['bend' => 8e-6 * 0.25 * 9.80665, 'weight' => 0.25, 'stretch' => 1000, 'hold' => 'top']);
        self::assertSame('It weighs 500 g: 2 m² of 250 g/m².', str_replace('0.25 kg/m²', '250 g/m²', $told['words'][0]));
        self::assertStringStartsWith('It folds down to about 4 cm; its faces are ', $told['words'][1]);
        self::assertStringEndsWith(': too wide to show that.', $told['words'][1], 'of 8 cm');
        self::assertSame(sprintf('Held flat at two ends 2 m apart it would sag by %.0f cm.', 200.0 * (3.0 * 0.25 * 9.80665 * 2.0 / 64000.0) ** (1 / 3)), $told['words'][3]);
        // 0.45 of 1.2 edges in each of six sub-steps of 1/24 s; edges are √2 of 1/12 m.
        self::assertSame('Where it comes upon cloth faster than 9.2 m/s it takes more sub-steps by itself, up to 80 of a frame at 120 m/s.', $told['words'][2]);
        self::assertTrue($told['coarse']);
        $fine = self::told(80, ['bend' => 8e-6 * 0.25 * 9.80665, 'weight' => 0.25, 'stretch' => 1000]);
        self::assertCount(3, $fine['words']);
        self::assertFalse($fine['coarse']);
    }

    public function test_many_pieces_say_what_they_cost(): void
    {
        $told = self::told(20, [], ['pattern' => 'flakes', 'values' => ['by' => 'number', 'count' => 200, 'thickness' => 0, 'keep' => 'flakes', 'ragged' => 0]]);
        self::assertMatchesRegularExpression('/^\d+ pieces fly as cards of 9 points, about 0?\.?\d+ m?s a frame while all do/', $told['words'][1]);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>|null  $break
     * @return array{words: list<string>, coarse: bool}
     */
    private static function told(int $segments, array $values, ?array $break = null): array
    {
        $shot = Trials::ready(Trials::document([Trials::box('sheet', [0, 1, 0], [
            'source' => ['kind' => 'shape', 'shape' => 'sheet', 'values' => ['width' => 2, 'height' => 1, 'thickness' => $break === null ? 0 : 0.01, 'segments' => $segments]], 'break' => $break,
            'weights' => [['id' => 'top', 'name' => 'Top', 'sources' => [Trials::source('front', ['point' => [0, 0, 0], 'direction' => [0, 1, 0], 'full' => 0, 'none' => 1])]]],
            'motion' => ['kind' => 'cloth', 'values' => $values + ['fabric' => 'own']],
        ])]))->shot;
        $settings = $shot->props[0]->motion->settings;
        assert($settings instanceof ClothSettings);

        return ClothFigures::of($shot->props[0], Trials::made($shot)[0]['sheet'], $settings, 1.0 / 24.0);
    }
}
