<?php

declare(strict_types=1);

namespace Tests\Feature;

/** bin/start itself, in a folder of its own, and what becomes of it when something it runs is killed. */
final class StartTest extends YardTestCase
{
    private const PORT = 8189;

    /** @var resource|null */
    private $start = null;

    private string $root = '';

    protected function setUp(): void
    {
        parent::setUp();
        $this->root = $this->folder.'/yard';
        mkdir($this->root.'/.run', recursive: true);
        // What is installed and built is used from where it is; what runs and is kept is its own.
        foreach (array_diff(scandir($real = dirname(__DIR__, 2)) ?: [], ['.', '..', '.run', '.git', 'storage', 'bin']) as $name) {
            symlink("$real/$name", "$this->root/$name");
        }
        // Built through links it would be another page, and a new link looks like a change.
        exec("cd $this->root && rm vite.config.ts package.json && cp -p $real/vite.config.ts $real/package.json .");
        exec("cd $real && bash -c '. bin/setup.sh && build_page'");
        exec("cp -r $real/bin $this->root && cp -rP $real/.run/debian $this->root/.run 2>/dev/null; touch $this->root/.run/composer $this->root/.run/npm");
        self::assertTrue(is_dir($this->root.'/.run/debian') || trim((string) shell_exec('command -v nginx')) !== '');
    }

    protected function tearDown(): void
    {
        $this->stop();
        foreach ($this->running() as $pid) {
            exec('kill -KILL '.$pid.' 2>/dev/null');
        }
        parent::tearDown();
    }

    public function test_whatever_is_killed_is_running_again_within_seconds_or_ends_everything(): void
    {
        $this->starts();
        $address = fn (): bool => @file_get_contents('http://127.0.0.1:'.self::PORT.'/up') === 'up';
        foreach (['the front\'s master' => 'front.conf', 'the back\'s master' => 'php -S', 'a worker' => 'queue:work'] as $what => $mark) {
            [$pid] = $this->running($mark);
            exec('kill -KILL '.$pid);
            $this->within(15.0, fn (): bool => $address() && array_diff($this->running($mark), [$pid]) !== [] && ! in_array($pid, $this->running($mark), true), $what.' is there again');
            // Nothing is left of what the killed one had started.
            $this->within(15.0, fn (): bool => count($this->running('nginx:')) === 2 && count($this->running('php -S')) === 7 && count($this->running('queue:work')) === 2, $what.' has left nothing: '.implode(' ', $this->running()));
        }
        // What keeps one of them running is killed itself.
        exec('kill -KILL '.trim((string) strtok((string) file_get_contents($this->root.'/.run/children'), "\n")));
        $this->within(20.0, fn (): bool => $this->running() === [], 'all has ended');
        self::assertStringContainsString('could not be kept running', (string) file_get_contents($this->folder.'/start.log'));
        // And all of it at once, so that nobody can clean up after it: the next start does.
        $this->starts();
        $pid = proc_get_status($this->start ?? throw new \LogicException)['pid'];
        exec('kill -KILL '.$pid);
        usleep(300_000);
        $left = $this->running();
        self::assertNotSame([], $left);
        $this->starts();
        self::assertSame([], array_intersect($left, $this->running()));
        $this->stop();
        $this->within(15.0, fn (): bool => $this->running() === [], 'all has stopped');
    }

    public function test_stopping_waits_for_no_job(): void
    {
        $id = $this->newShot();
        config(['queue.default' => 'database']);
        $this->edit($id, 0, [['op' => 'add', 'path' => '/props/-', 'value' => self::box(6000)]])->assertOk();
        $this->starts();
        $this->get("/api/shots/$id/props/box/picture")->assertStatus(202);
        $this->within(20.0, fn (): bool => (glob($this->folder.'/files/shards/progress/*') ?: []) !== [], 'a worker is at it');
        $from = microtime(true);
        $this->stop();
        $this->within(15.0, fn (): bool => $this->running() === [], 'all has stopped');
        self::assertLessThan(15.0, microtime(true) - $from, 'a job of minutes');
    }

    private function starts(): void
    {
        $this->stop();
        // Opened twice, each writes at the end: neither over what the other said.
        @unlink($this->folder.'/start.log');
        $log = ['file', $this->folder.'/start.log', 'a'];
        $this->start = proc_open(['bash', 'bin/start', '--port='.self::PORT, '--workers=2'], [['file', '/dev/null', 'r'], $log, $log], $pipes, $this->root,
            ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'YARD_CACHE' => $this->folder.'/cache', 'QUEUE_CONNECTION' => 'database', 'PATH' => (string) getenv('PATH'), 'HOME' => (string) getenv('HOME')]) ?: null;
        $this->within(60.0, fn (): bool => str_contains((string) file_get_contents($this->folder.'/start.log'), 'is ready'), 'it starts');
    }

    private function stop(): void
    {
        if ($this->start !== null) {
            proc_terminate($this->start);
            proc_close($this->start);
            $this->start = null;
        }
    }

    /** @return list<int> processes that work in its folder */
    private function running(string $mark = ''): array
    {
        $out = [];
        foreach (glob('/proc/[0-9]*') ?: [] as $process) {
            $in = (string) @readlink($process.'/cwd');
            $words = strtr((string) @file_get_contents($process.'/cmdline'), "\0", ' ');
            if (str_starts_with($in, $this->root) && $words !== '' && ($mark === '' || str_contains($words, $mark))) {
                $out[] = (int) basename($process);
            }
        }

        return $out;
    }

    /** @param  \Closure(): bool  $so */
    private function within(float $seconds, \Closure $so, string $what): void
    {
        for ($end = microtime(true) + $seconds; ! $so(); usleep(50_000)) {
            if (microtime(true) > $end) {
                self::fail("Not within $seconds s: $what. It said: ".file_get_contents($this->folder.'/start.log').file_get_contents($this->root.'/.run/server.log'));
            }
        }
        self::assertTrue(true);
    }
}
