<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\ReadFilm;
use App\Storage\Film;
use App\Storage\Reading;
use App\Storage\YardFiles;
use PHPUnit\Framework\Attributes\DataProvider;
use YardBreak\Core\Problem;

final class PlateTest extends YardTestCase
{
    use RealWorkers;

    protected function tearDown(): void
    {
        $this->killAll();
        parent::tearDown();
    }

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
        self::assertSame([], glob($this->folder.'/files/incoming/*[!n]') ?: [], 'nothing but what came of it stays');
        foreach (['this is no film', substr((string) file_get_contents($this->folder.'/film.mp4'), 0, 300)] as $spoilt) {
            $said = $this->upload('plates/film?name=shed.mp4', $spoilt);
            $said = $said->getStatusCode() === 202 ? $this->get('/api/assets/reading/'.$said->json('reading')) : $said;
            self::assertStringContainsString('no film', $said->assertStatus(422)->json('problem.message'));
            self::assertStringContainsString('numbered pictures', $said->json('problem.remedy'));
        }
    }

    /** @return array<string, array{string}> lists of other files, under the names of films */
    public static function lists(): array
    {
        return [
            'a playlist without an end' => ["#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:{other}\n"],
            'a playlist with an end' => ["#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:{other}\n#EXT-X-ENDLIST\n"],
            'a list of parts' => ["ffconcat version 1.0\nfile '{other}'\n"],
            'a manifest' => ['<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011" type="static" mediaPresentationDuration="PT1S"><Period><AdaptationSet mimeType="video/mp4"><Representation id="a" bandwidth="1"><BaseURL>file:{other}</BaseURL><SegmentBase/></Representation></AdaptationSet></Period></MPD>'],
            'a playlist behind the mark of a film' => ["\0\0\0\x08ftyp#EXTM3U\n#EXTINF:1,\nfile:{other}\n"],
            'a playlist behind the mark of another' => ["\x1A\x45\xDF\xA3\n#EXTM3U\n#EXTINF:1,\nfile:{other}\n"],
        ];
    }

    #[DataProvider('lists')]
    public function test_what_points_to_other_files_is_no_film_whatever_its_name(string $list): void
    {
        self::film($this->folder.'/other.mp4', 'testsrc=size=48x28:rate=24', 5);
        $from = microtime(true);
        foreach (['mp4', 'mov', 'mkv', 'm3u8'] as $as) {
            $said = $this->upload('plates/film?name=a.'.$as, str_replace('{other}', $this->folder.'/other.mp4', $list));
            $said = $said->getStatusCode() === 202 ? $this->get('/api/assets/reading/'.$said->json('reading')) : $said;
            self::assertStringContainsString('no film', $said->assertStatus(422)->json('problem.message'));
        }
        self::assertLessThan(20.0, microtime(true) - $from);
        self::assertSame([], glob($this->folder.'/files/assets/*') ?: [], 'nothing of the other file was taken in');
    }

    public function test_a_film_says_what_it_is_before_it_is_read_and_one_too_large_or_too_long_is_refused_at_once(): void
    {
        foreach (['8192x8192' => ['color=black:size=8192x8192:rate=24', 2, '8,192 × 8,192 pixels'], 'long' => ['color=black:size=16x16:rate=240', 5200, '5,200 frames']] as [$source, $frames, $words]) {
            self::film($path = $this->folder.'/large.mp4', $source, $frames);
            $from = microtime(true);
            $key = $this->upload('plates/film?name=large.mp4', (string) file_get_contents($path))->assertStatus(202)->json('reading');
            self::assertStringContainsString($words, $this->get("/api/assets/reading/$key")->assertStatus(422)->json('problem.message'));
            self::assertLessThan(5.0, microtime(true) - $from);
        }
        self::film($path, 'testsrc=size=2560x640:rate=25', 6);
        $film = Film::at($path, 'wide.mp4');
        self::assertSame('2560 × 640 pixels, 25 frames a second, 6 frames', $film->said());
        $key = $this->upload('plates/film?name=wide.mp4', (string) file_get_contents($path))->json('reading');
        $plate = $this->get("/api/assets/reading/$key")->assertCreated()->json('plate');
        self::assertSame([1920, 480, 6], [$plate['width'], $plate['height'], count($plate['frames'])], 'kept as large as it is drawn');
    }

    public function test_a_film_that_is_called_off_ends_at_once_with_all_it_had_started(): void
    {
        self::film($path = $this->folder.'/long.mp4', 'testsrc=size=3840x2160:rate=24', 60);
        copy($path, YardFiles::path('incoming/0123456789abcdef'));
        $reading = new Reading('0123456789abcdef');
        $count = 0;
        $from = microtime(true);
        try {
            Film::at($reading->path(), 'long.mp4')->pictures(static function (int $there) use (&$count, $reading): bool {
                $count = $there;
                if ($there >= 1) {
                    $reading->callOff();
                }

                return $reading->isWanted();
            });
            self::fail('It was not called off.');
        } catch (Problem $e) {
            self::assertSame('cancelled', $e->kind);
        }
        self::assertLessThan(60, $count, 'long before its end');
        self::assertLessThan(20.0, microtime(true) - $from);
        self::assertSame([], glob($this->folder.'/files/incoming/*') ?: []);
        self::assertSame('', trim((string) shell_exec('pgrep -f '.escapeshellarg('[f]fmpeg.*'.$this->folder))));
        copy($path, $reading->path());
        $this->get("/api/assets/reading/{$reading->key}")->assertStatus(202);
        $this->send('DELETE', "assets/reading/{$reading->key}")->assertNoContent();
        $this->get("/api/assets/reading/{$reading->key}")->assertNotFound();
    }

    public function test_a_worker_that_is_killed_takes_its_film_reader_with_it(): void
    {
        self::film($path = $this->folder.'/long.mp4', 'testsrc=size=3840x2160:rate=24', 60);
        copy($path, YardFiles::path('incoming/0123456789abcdef'));
        config(['queue.default' => 'database']);
        ReadFilm::dispatch('0123456789abcdef', 'long.mp4');
        $worker = $this->worker();
        $reader = fn (): string => trim((string) shell_exec('pgrep -f '.escapeshellarg('^[^ ]*[f]fmpeg .*'.$this->folder)));
        $this->until(static fn (): bool => $reader() !== '', 60);
        $this->kill($worker);
        usleep(500_000);
        self::assertSame('', $reader());
        $lock = YardFiles::lock('films');
        self::assertTrue(flock($lock, LOCK_EX | LOCK_NB), 'and it holds up no other film');
    }

    public function test_a_film_may_be_as_large_as_uploads_may_and_is_called_one_where_it_is_larger(): void
    {
        config(['yard.largest_upload' => 3000, 'yard.largest_change' => 1000]);
        self::assertSame(422, $this->upload('plates/film?name=a.mp4', str_repeat('x', 2000))->getStatusCode(), 'it is taken in, and then looked at');
        foreach (['plates/film?name=a.mp4' => 'film', 'pictures?name=a.png' => 'picture', 'assets?name=a.stl' => 'mesh'] as $to => $word) {
            self::assertStringContainsString($word, $this->upload($to, str_repeat('x', 4000))->assertStatus(413)->json('problem.remedy'));
        }
    }

    /** Made by the very tool that reads it: what counts is what becomes of it. */
    private static function film(string $path, string $source, int $frames): void
    {
        exec('ffmpeg -y -v error -f lavfi -i '.escapeshellarg($source).' -frames:v '.$frames.' -c:v mjpeg -pix_fmt yuvj420p -q:v 9 '.escapeshellarg($path).' 2>&1', $out, $code);
        self::assertSame(0, $code, implode("\n", $out));
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
