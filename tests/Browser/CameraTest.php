<?php

declare(strict_types=1);

namespace Tests\Browser;

/** The shot's camera: put where the artist looks from, looked through with a plate behind, and moved by dragging. */
final class CameraTest extends BrowserTestCase
{
    public function test_a_camera_is_added_looked_through_with_a_plate_moved_and_keyed(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('shed')]);
        $a->keys('0');
        $a->waitsForPicture();
        $before = $a->picture();
        $a->presses('Add a camera from this view');
        $a->until(static fn (): bool => $a->document()['camera'] !== null);
        $a->sees('Stop looking through it');
        $a->until(static fn (): bool => $a->js('return document.querySelector("[data-through]") !== null'));
        // Its frame has the shape of its picture: 16 by 9.
        [$w, $h] = $a->js('const r=document.querySelector("[data-through] div").getBoundingClientRect();return [r.width,r.height]');
        self::assertEqualsWithDelta(16 / 9, $w / $h, 0.02);

        $bare = $a->picture();
        self::assertNotSame($before, $bare);
        $files = [];
        // As strong as colours get, and as light.
        $colours = [7 => [253, 0, 0], 8 => [160, 250, 254], 10 => [30, 60, 160]];
        foreach ($colours as $number => $colour) {
            $image = imagecreatetruecolor(160, 90);
            assert($image !== false);
            imagefill($image, 0, 0, (int) imagecolorallocate($image, ...$colour));
            imagepng($image, $files[] = sys_get_temp_dir()."/yard-plate.$number.png");
        }
        $a->bringsIn(implode("\n", $files), 'Plate files');
        $a->sees('3 pictures');
        $a->sees('missing from the plate: 9');
        $a->until(static fn (): bool => $a->picture() !== $bare);
        // Behind the shed, in the upper left of the frame, it looks as the picture does.
        $this->seesColour([253, 0, 0]);
        $a->keys("\u{E014}");
        $a->until(fn (): bool => abs($this->colourAt(0.1, 0.1)[0] - 160) < 9);
        $this->seesColour([160, 250, 254]);
        // Drawn finely, with light and corners, it is the same.
        $a->js('localStorage.setItem("picture", "fine"); location.reload()');
        try {
            $a->sees('Camera');
            $a->presses('Camera');
            $a->until(static fn (): bool => $a->js('return document.querySelector("[data-through]") !== null'));
            $a->until(fn (): bool => abs($this->colourAt(0.1, 0.1)[0] - 253) < 9);
            $this->seesColour([253, 0, 0]);
        } finally {
            $a->js('localStorage.setItem("picture", "plain"); location.reload()');
        }
        $a->sees('Camera');
        $a->keys('0');
        $a->presses('Camera');
        $a->keys("\u{E014}");
        $a->until(static fn (): bool => $a->frameDrawn() === 1);

        $camera = $a->document()['camera'];
        $a->drags([[-220, -90], [-160, -80], [-130, -80]]);
        $a->until(static fn (): bool => $a->document()['camera']['position'] !== $camera['position']);
        self::assertEqualsWithDelta($camera['target'], $a->document()['camera']['target'], 1e-4, 'it turns about what it looks at');
        $a->clicks('[aria-label="Key Focal length at frame 1"]');
        $a->until(static fn (): bool => is_array($a->document()['camera']['focal']));
        $a->sees('focal length');
        $a->types('Focal length', '85');
        $a->until(static fn (): bool => ($a->document()['camera']['focal']['keys'][0]['value'] ?? 0) === 85);
        $a->presses('Stop looking through it');
        $a->until(static fn (): bool => $a->js('return document.querySelector("[data-through]") === null'));
        $this->assertNoErrors();
    }

    /** @param  list<int>  $want */
    private function seesColour(array $want): void
    {
        $colour = $this->colourAt(0.1, 0.1);
        foreach ($want as $k => $value) {
            self::assertEqualsWithDelta($value, $colour[$k], 1, 'seen '.implode(' ', $colour));
        }
    }

    /** @return array{int, int, int} the colour at a place of the frame, as shares of its width and height */
    private function colourAt(float $x, float $y): array
    {
        usleep(300_000);

        return $this->artist->js(<<<'JS'
            const [x, y] = arguments;
            const canvas = document.querySelector('#picture canvas');
            const frame = document.querySelector('[data-through] div').getBoundingClientRect();
            const all = canvas.getBoundingClientRect();
            const copy = document.createElement('canvas');
            copy.width = canvas.width;
            copy.height = canvas.height;
            const g = copy.getContext('2d');
            g.drawImage(canvas, 0, 0);
            const k = canvas.width / all.width;
            return [...g.getImageData(Math.round(k * (frame.left - all.left + x * frame.width)), Math.round(k * (frame.top - all.top + y * frame.height)), 1, 1).data].slice(0, 3);
            JS, $x, $y);
    }

    public function test_it_is_lined_up_from_six_points_pressed_on_in_the_picture(): void
    {
        $a = $this->artist;
        $rough = ['position' => [1.3, 1.1, 1.6], 'target' => [0, 0.3, 0], 'focal' => 30, 'film' => 36, 'shape' => [1920, 1080]];
        $a->opensShot([Setting::box('block'), ['op' => 'add', 'path' => '/camera', 'value' => $rough]]);
        $a->keys('0');
        $a->presses('Add points');
        $a->sees('Press on a corner of a prop in the picture.');
        $a->picture();
        foreach ([[-45, 5], [45, 10], [0, -50], [5, 50], [-25, -28], [28, -20]] as $k => $place) {
            $a->pressesAt('[data-lining] .cursor-crosshair', $place);
            $a->until(static fn (): bool => count($a->document()['camera']['matches'] ?? []) === $k + 1, 'match '.($k + 1));
        }
        $a->presses('Add points');
        // A ring is dragged to where the place is on the plate.
        $before = $a->document()['camera']['matches'][5]['on'];
        $a->dragsOn('[aria-label^="Match 6 on the plate"]', [0, 0], [24, 0]);
        $a->until(static fn (): bool => $a->document()['camera']['matches'][5]['on'][0] > $before[0] + 5, 'the ring to have gone to the right');
        self::assertEqualsWithDelta($before[1], $a->document()['camera']['matches'][5]['on'][1], 3.0);
        // Where a made-up camera sees them all: 3 m off, with 50 mm, level.
        $truth = [2.0, 0.9, 2.4];
        $on = array_map(static fn (array $m): array => self::seen($m['at'], $truth), $a->document()['camera']['matches']);
        $a->changes(array_map(static fn (int $k): array => ['op' => 'replace', 'path' => "/camera/matches/$k/on", 'value' => $on[$k]], range(0, 5)));
        $a->keys('0');
        $a->presses('Line up');
        $a->sees('left over');
        $camera = $a->document()['camera'];
        self::assertEqualsWithDelta($truth, $camera['position'], 0.01);
        self::assertEqualsWithDelta([50.0, 0.0], [$camera['focal'], $camera['roll']], 0.1);
        self::assertLessThan(0.1, (float) $a->js('return [...document.querySelectorAll("section [role=status] span")].find(s=>s.innerText.endsWith(" px")).innerText.replace(" px","")'));
        $this->assertNoErrors();
    }

    /**
     * Where a camera of 50 mm that looks at (0, 0.3, 0), level, sees a place of the block, which stands 0.3 m up.
     *
     * @param  array{float, float, float}  $p
     * @param  array{float, float, float}  $at
     * @return array{float, float} pixels
     */
    private static function seen(array $p, array $at): array
    {
        [$x, $y, $z] = [$p[0] - $at[0], $p[1] + 0.3 - $at[1], $p[2] - $at[2]];
        $round = atan2($at[0], $at[2]);
        $down = atan2($at[1] - 0.3, hypot($at[0], $at[2]));
        [$x, $z] = [$x * cos($round) - $z * sin($round), $x * sin($round) + $z * cos($round)];
        [$y, $z] = [$y * cos($down) - $z * sin($down), $y * sin($down) + $z * cos($down)];

        return [960.0 + 1920.0 * 50.0 / 36.0 * $x / -$z, 540.0 - 1920.0 * 50.0 / 36.0 * $y / -$z];
    }
}
