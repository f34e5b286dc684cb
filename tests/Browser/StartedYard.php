<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;

/** The application started as bin/start starts it, on an empty yard of its own, and a browser before it. */
final class StartedYard
{
    public const PORT = 8197;

    private const DRIVER_PORT = 9597;

    public readonly RemoteWebDriver $browser;

    public readonly string $downloads;

    /** @var list<resource> */
    private array $processes = [];

    private readonly string $folder;

    public function __construct()
    {
        $root = dirname(__DIR__, 2);
        $this->folder = sys_get_temp_dir().'/yard-browser-'.bin2hex(random_bytes(5));
        $this->downloads = $this->folder.'/downloads';
        mkdir($this->downloads, recursive: true);
        touch($this->folder.'/yard.sqlite');
        $env = ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH'), 'HOME' => (string) getenv('HOME')];
        $this->run(['php', $root.'/artisan', 'migrate', '--force', '--quiet'], $env, true);
        $this->run(['php', '-d', 'opcache.jit=1235', '-S', '127.0.0.1:'.self::PORT, $root.'/vendor/laravel/framework/src/Illuminate/Foundation/resources/server.php'], $env + ['PHP_CLI_SERVER_WORKERS' => '4'], false, $root.'/public');
        $this->run(['php', $root.'/artisan', 'queue:work', '--quiet', '--sleep=0.1', '--timeout=55'], $env);
        $this->run(['chromedriver', '--port='.self::DRIVER_PORT, '--silent'], $env);
        self::until(static fn (): bool => @file_get_contents('http://127.0.0.1:'.self::PORT.'/up') !== false, 20);
        self::until(static fn (): bool => @fsockopen('127.0.0.1', self::DRIVER_PORT) !== false, 20);
        $options = new ChromeOptions;
        $options->setBinary('/usr/bin/chromium');
        $options->addArguments(['--headless=new', '--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--user-data-dir='.$this->folder.'/profile', '--window-size=1280,943']);
        $options->setExperimentalOption('prefs', ['download.default_directory' => $this->downloads, 'download.prompt_for_download' => false]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $capabilities->setCapability('goog:loggingPrefs', ['browser' => 'ALL']);
        $this->browser = RemoteWebDriver::create('http://127.0.0.1:'.self::DRIVER_PORT, $capabilities, 60000, 60000);
    }

    public function stop(): void
    {
        $this->browser->quit();
        foreach ($this->processes as $process) {
            $pid = proc_get_status($process)['pid'];
            exec('pkill -TERM -P '.$pid);
            proc_terminate($process);
            proc_close($process);
        }
        exec('rm -rf '.escapeshellarg($this->folder));
    }

    /** @param  \Closure(): bool  $done */
    public static function until(\Closure $done, float $seconds): void
    {
        for ($end = microtime(true) + $seconds; ! $done();) {
            if (microtime(true) > $end) {
                throw new \RuntimeException('Waited '.$seconds.' s in vain.');
            }
            usleep(50_000);
        }
    }

    /**
     * @param  list<string>  $command
     * @param  array<string, string>  $env
     */
    private function run(array $command, array $env, bool $wait = false, ?string $in = null): void
    {
        $process = proc_open($command, [['file', '/dev/null', 'r'], ['file', $this->folder.'/log', 'a'], ['file', $this->folder.'/log', 'a']], $pipes, $in ?? dirname(__DIR__, 2), $env);
        if ($process === false) {
            throw new \RuntimeException('Could not start '.$command[0]);
        }
        if ($wait) {
            $code = proc_close($process);
            if ($code !== 0) {
                throw new \RuntimeException(implode(' ', $command).' failed: '.file_get_contents($this->folder.'/log'));
            }

            return;
        }
        $this->processes[] = $process;
    }
}
