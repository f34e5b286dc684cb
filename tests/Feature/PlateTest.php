<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Storage\Film;

final class PlateTest extends YardTestCase
{
    public function test_pictures_are_kept_and_put_in_order_and_stay_when_the_yard_is_cleared(): void
    {
        $files = [];
        foreach ([12, 10] as $number) {
            $files[] = ['name' => "shed.$number.png", 'asset' => $this->upload("pictures?name=shed.$number.png", self::picture($number))->assertCreated()->json('asset')];
        }
        $made = $this->send('POST', 'plates/pictures', ['files' => $files])->assertOk()->json();
        self::assertSame([[10, 12], [11], 48, 27], [array_column($made['plate']['frames'], 'frame'), $made['missing'], $made['plate']['width'], $made['plate']['height']]);
        $id = $this->newShot();
        $this->edit($id, 0, [['op' => 'add', 'path' => '/plate', 'value' => $made['plate']]])->assertOk();
        $this->send('DELETE', 'space')->assertOk();
        foreach ($files as $file) {
            $this->get('/api/pictures/'.$file['asset'])->assertOk();
        }
        $this->send('POST', 'plates/pictures', ['files' => [['name' => 'x']]])->assertStatus(422);
        $this->send('POST', 'plates/pictures', ['files' => [['name' => 'x.1.png', 'asset' => '../../.env']]])->assertStatus(422);
    }

    public function test_a_film_is_taken_apart_and_what_is_none_is_refused_in_words(): void
    {
        self::assertTrue(Film::canBeRead(), 'bin/test installs ffmpeg');
        for ($k = 1; $k <= 7; $k++) {
            file_put_contents($this->folder.sprintf('/f%02d.png', $k), self::picture(20 * $k));
        }
        exec('ffmpeg -v error -framerate 24 -i '.escapeshellarg($this->folder.'/f%02d.png').' -pix_fmt yuv420p -vf scale=48:28 '.escapeshellarg($this->folder.'/film.mp4'), $out, $code);
        self::assertSame(0, $code);
        $key = $this->upload('plates/film?name=shed.mp4', (string) file_get_contents($this->folder.'/film.mp4'))->assertStatus(202)->json('reading');
        $made = $this->get("/api/assets/reading/$key")->assertCreated()->json();
        self::assertSame(['shed.mp4', 48, 28, 7, []], [$made['plate']['name'], $made['plate']['width'], $made['plate']['height'], count($made['plate']['frames']), $made['missing']]);
        $this->get('/api/pictures/'.$made['plate']['frames'][3]['asset'])->assertOk()->assertHeader('Content-Type', 'image/jpeg');
        $key = $this->upload('plates/film?name=shed.mp4', 'this is no film')->assertStatus(202)->json('reading');
        self::assertStringContainsString('no film', $this->get("/api/assets/reading/$key")->assertStatus(422)->json('problem.message'));
        self::assertStringContainsString('numbered pictures', $this->upload('plates/film?name=shed.exe', 'x')->assertStatus(422)->json('problem.remedy'));
        // A playlist that points elsewhere opens nothing but itself.
        $key = $this->upload('plates/film?name=list.mov', "#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n")->assertStatus(202)->json('reading');
        $this->get("/api/assets/reading/$key")->assertStatus(422);
    }

    public function test_where_films_cannot_be_read_that_is_said(): void
    {
        $path = (string) getenv('PATH');
        putenv('PATH=/nonexistent');
        try {
            $said = $this->upload('plates/film?name=shed.mp4', 'x')->assertStatus(422)->json('problem');
        } finally {
            putenv('PATH='.$path);
        }
        self::assertStringContainsString('ffmpeg is not installed', $said['message']);
        self::assertStringContainsString('numbered pictures', $said['remedy']);
    }

    private static function picture(int $grey): string
    {
        $image = imagecreatetruecolor(48, 27);
        assert($image !== false);
        imagefill($image, 0, 0, (int) imagecolorallocate($image, $grey % 256, $grey % 256, $grey % 256));
        ob_start();
        imagepng($image);

        return (string) ob_get_clean();
    }
}
