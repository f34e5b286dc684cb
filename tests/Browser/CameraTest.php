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
}
