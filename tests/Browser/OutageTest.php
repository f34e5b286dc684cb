<?php

declare(strict_types=1);

namespace Tests\Browser;

final class OutageTest extends BrowserTestCase
{
    protected function tearDown(): void
    {
        // The next test needs it, whatever became of this one.
        if (@fsockopen('127.0.0.1', StartedYard::PORT) === false) {
            $this->artist->yard->startServer();
        }
    }

    public function test_a_server_that_stops_in_the_middle_of_an_upload_is_named_and_nothing_is_lost(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->sees('Block');
        $file = sys_get_temp_dir().'/yard-'.bin2hex(random_bytes(4)).'.stl';
        $out = fopen($file, 'wb');
        self::assertIsResource($out);
        fwrite($out, str_pad('big', 80, "\0").pack('V', 2_400_000));
        for ($i = 0; $i < 120; $i++) {
            fwrite($out, str_repeat("\0", 1_000_000));
        }
        fclose($out);
        $a->keys('1');
        $a->clicks('[aria-label="Add a prop"]');
        $a->bringsIn($file);
        $a->sees('Reading yard-');
        $a->yard->kill('server');
        $a->sees('Yard Break does not answer');
        unlink($file);
        $a->yard->startServer();
        $a->browser->navigate()->refresh();
        $a->sees('Block');
        self::assertCount(1, $a->document()['props']);
        // And work goes on.
        $a->keys('1');
        $a->types('Width', '0.9');
        $a->sees('90 × 60 × 60 cm');
    }

    public function test_an_edit_the_server_does_not_get_is_kept_on_the_screen_and_not_called_saved(): void
    {
        $a = $this->artist;
        $a->opensShot([Setting::box('block')]);
        $a->keys('1');
        $a->sees('Built here');
        $a->yard->kill('server');
        $a->types('Width', '0.7');
        $a->sees('Yard Break does not answer');
        self::assertSame('0.7', $a->reads('Width'));
    }
}
