<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Format\OutlineReader;
use YardBreak\Core\Geometry\Polyline;
use YardBreak\Core\Problem;

final class OutlineReaderTest extends TestCase
{
    private string $path = '';

    protected function tearDown(): void
    {
        @unlink($this->path);
    }

    public function test_svg_shapes_come_with_their_transforms_y_up_and_the_frame_as_one(): void
    {
        $outline = OutlineReader::read($this->file('svg', '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" viewBox="0 0 200 100">
            <g transform="translate(20 10)"><rect x="0" y="0" width="40" height="20"/><circle cx="100" cy="40" r="30" fill="none" stroke="#000"/></g>
            <path d="M0,50 C50,0 150,100 200,50" fill="none" stroke="red"/></svg>'));
        [$rect, $circle, $wave] = $outline->lines;
        self::assertTrue($rect->closed && $circle->closed);
        self::assertFalse($wave->closed);
        // 40 × 20 of a drawing 200 wide; its upper left corner at 20, 10.
        self::assertEqualsWithDelta(0.2 * 0.1, abs($rect->area()), 1e-9);
        self::assertEqualsWithDelta([-0.5 + 0.1, 0.25 - 0.05], [min(array_column($rect->points, 0)), max(array_column($rect->points, 1))], 1e-9);
        self::assertEqualsWithDelta(M_PI * 0.15 ** 2, abs($circle->area()), 2e-4);
        self::assertEqualsWithDelta([[-0.5, 0.0], [0.5, 0.0]], [$wave->points[0], $wave->points[count($wave->points) - 1]], 1e-9);
    }

    /** SVG 2, 9.3.3: a letter may stand before many steps of its kind, and a move goes on as lines. A circle in 400 steps, both ways. */
    public function test_steps_without_a_letter_of_their_own_are_read_like_those_with_one(): void
    {
        $read = function (string $d): array {
            @unlink($this->path);

            return OutlineReader::read($this->file('svg', '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><path d="'.$d.'z"/></svg>'))->lines;
        };
        $steps = static fn (int $count, float $wide, float $high, float $x, float $y): array => array_map(
            static fn (int $k): string => sprintf('%.4F %.4F', $x + $wide * cos(2 * M_PI * $k / $count), $y + $high * sin(2 * M_PI * $k / $count)),
            range(0, $count - 1),
        );
        $round = $steps(400, 80, 40, 100, 50);
        $long = $read('M'.implode(' ', $round));
        self::assertEquals($read('M'.implode('L', $round)), $long);
        self::assertEqualsWithDelta(M_PI * 0.4 * 0.2, abs($long[0]->area()), 1e-3);
        $small = $steps(200, 1, 1, 0, 0);
        self::assertEquals($read('m90,50l'.implode('l', $small)), $read('m90,50 '.implode(' ', $small)));
    }

    public function test_shapes_in_a_picture_are_traced_with_their_holes(): void
    {
        $outline = OutlineReader::read($this->picture(static function (\GdImage $image): void {
            imagefilledellipse($image, 100, 50, 80, 80, (int) imagecolorallocate($image, 20, 90, 30));
            imagefilledellipse($image, 100, 50, 30, 30, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        }));
        self::assertCount(2, $outline->lines);
        $areas = array_map(static fn (Polyline $l): float => $l->area() * 200 ** 2, $outline->lines);
        sort($areas);
        // The outside to the right of the rim: a hole runs clockwise. A pixel's width round the rim is open to choice.
        self::assertEqualsWithDelta(-M_PI * 15 ** 2, $areas[0], 2 * M_PI * 15);
        self::assertEqualsWithDelta(M_PI * 40 ** 2, $areas[1], 2 * M_PI * 40);
    }

    public function test_a_picture_without_transparency_is_divided_by_brightness(): void
    {
        $outline = OutlineReader::read($this->picture(static function (\GdImage $image): void {
            imagealphablending($image, true);
            imagefilledrectangle($image, 0, 0, 199, 99, (int) imagecolorallocate($image, 250, 250, 245));
            imagefilledrectangle($image, 50, 20, 149, 79, (int) imagecolorallocate($image, 30, 30, 30));
        }));
        self::assertCount(1, $outline->lines);
        self::assertEqualsWithDelta(100 * 60, $outline->lines[0]->area() * 200 ** 2, 170);
    }

    /** @return array<string, array{string, string, string}> ending, content, words */
    public static function refused(): array
    {
        return [
            'empty SVG' => ['svg', '', 'no SVG drawing'],
            'SVG that breaks off' => ['svg', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0', 'no SVG drawing'],
            'HTML' => ['svg', '<html><body/></html>', 'no SVG drawing'],
            'SVG without a line' => ['svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><text x="1" y="5">Fern</text></svg>', 'no line'],
            'text as PNG' => ['png', 'no picture at all', 'no PNG picture'],
            'PNG that breaks off' => ['png', "\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\0\x40\0\0\0\x40\x08\x06\0\0\0", 'damaged or cut off'],
            'another kind' => ['dxf', 'SECTION', 'is no drawing'],
        ];
    }

    #[DataProvider('refused')]
    public function test_what_is_no_drawing_is_refused_in_words(string $ending, string $content, string $words): void
    {
        $this->expectException(Problem::class);
        $this->expectExceptionMessage($words);
        OutlineReader::read($this->file($ending, $content));
    }

    public function test_a_clear_and_a_plain_picture_have_no_shape(): void
    {
        foreach ([
            static fn () => null,
            static fn (\GdImage $i) => imagefilledrectangle($i, 0, 0, 199, 99, (int) imagecolorallocate($i, 90, 90, 90)),
        ] as $paint) {
            try {
                OutlineReader::read($this->picture($paint));
                self::fail('a shape was found');
            } catch (Problem $e) {
                self::assertMatchesRegularExpression('/no shape/', $e->getMessage());
                self::assertStringContainsString('transparent', $e->remedy);
            }
        }
    }

    public function test_simplified_lines_stay_within_the_tolerance_and_lose_points(): void
    {
        $points = array_map(static fn (int $k): array => [cos(M_PI * $k / 200), sin(M_PI * $k / 200)], range(0, 399));
        $circle = new Polyline($points, true);
        $simple = $circle->simplified(0.01);
        self::assertLessThan(40, count($simple->points));
        // A chord that leaves the arc by h at most cuts off less than ⅔ of chord times h.
        self::assertEqualsWithDelta($circle->area(), $simple->area(), 2 * M_PI * 0.01);
    }

    public function test_crossings_are_found_where_they_are(): void
    {
        self::assertEqualsWithDelta([0.5, 0.5], (new Polyline([[0, 0], [1, 1], [1, 0], [0, 1]], true))->crossing(), 1e-12);
        self::assertNull((new Polyline([[0, 0], [1, 0], [1, 1], [0, 1]], true))->crossing());
    }

    private function file(string $ending, string $content): string
    {
        $this->path = sys_get_temp_dir().'/drawing-'.bin2hex(random_bytes(4)).'.'.$ending;
        file_put_contents($this->path, $content);

        return $this->path;
    }

    /** @param  \Closure(\GdImage): mixed  $paint */
    private function picture(\Closure $paint): string
    {
        $image = imagecreatetruecolor(200, 100);
        self::assertNotFalse($image);
        imagealphablending($image, false);
        imagesavealpha($image, true);
        imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        $paint($image);
        ob_start();
        imagepng($image);

        return $this->file('png', (string) ob_get_clean());
    }
}
