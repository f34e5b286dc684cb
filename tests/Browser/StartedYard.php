<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
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

    /** @var array<string, resource> */
    private array $processes = [];

    private readonly string $folder;

    /** @var array<string, string> */
    private readonly array $env;

    private static ?self $shared = null;

    public function __construct()
    {
        $this->folder = sys_get_temp_dir().'/yard-browser-'.bin2hex(random_bytes(5));
        $this->downloads = $this->folder.'/downloads';
        mkdir($this->downloads, recursive: true);
        touch($this->folder.'/yard.sqlite');
        $root = dirname(__DIR__, 2);
        $this->env = ['DB_DATABASE' => $this->folder.'/yard.sqlite', 'YARD_FILES' => $this->folder.'/files', 'PHP_INI_SCAN_DIR' => ':'.$root.'/php', 'PATH' => (string) getenv('PATH'), 'HOME' => (string) getenv('HOME')];
        foreach ([self::PORT, self::DRIVER_PORT] as $port) {
            if (@fsockopen('127.0.0.1', $port) !== false) {
                throw new \RuntimeException('Port '.$port.' is in use, perhaps by a run that was cut off. End that first.');
            }
        }
        $migrated = proc_close($this->run(['php', $root.'/artisan', 'migrate', '--force', '--quiet']));
        if ($migrated !== 0) {
            throw new \RuntimeException('The database could not be made: '.file_get_contents($this->folder.'/log'));
        }
        $this->setPass('');
        $this->startServer();
        $this->startWorker();
        $this->processes['driver'] = $this->run(['chromedriver', '--port='.self::DRIVER_PORT, '--silent']);
        self::until(static fn (): bool => @fsockopen('127.0.0.1', self::DRIVER_PORT) !== false, 20);
        $options = new ChromeOptions;
        $options->setBinary('/usr/bin/chromium');
        $options->addArguments(['--headless=new', '--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--user-data-dir='.$this->folder.'/profile', '--window-size=1280,943', '--ignore-certificate-errors']);
        $options->setExperimentalOption('prefs', ['download.default_directory' => $this->downloads, 'download.prompt_for_download' => false]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $capabilities->setCapability('goog:loggingPrefs', ['browser' => 'ALL']);
        $this->browser = RemoteWebDriver::create('http://127.0.0.1:'.self::DRIVER_PORT, $capabilities, 60000, 240000);
        $this->browser->manage()->timeouts()->setScriptTimeout(90);
        // Software draws it: pixels that need not be told apart are saved.
        (new ChromeDevToolsDriver($this->browser))->execute('Page.addScriptToEvaluateOnNewDocument', ['source' => 'if (localStorage.getItem("picture") === null) localStorage.setItem("picture", "plain")']);
    }

    /** One for all tests of a run: a browser takes seconds to start. */
    public static function shared(): self
    {
        if (self::$shared === null) {
            $yard = self::$shared = new self;
            register_shutdown_function(static fn () => $yard->stop());
        }

        return self::$shared;
    }

    public function startServer(): void
    {
        $root = dirname(__DIR__, 2);
        $this->processes['server'] = $this->run(['php', '-S', '127.0.0.1:'.self::PORT, 'index.php'], ['PHP_CLI_SERVER_WORKERS' => '4'], $root.'/public');
        self::until(static fn (): bool => @fsockopen('127.0.0.1', self::PORT) !== false, 20);
    }

    /** Sets the pass phrase, or takes it away. */
    public function setPass(string $pass): void
    {
        proc_close($this->run(['php', dirname(__DIR__, 2).'/artisan', 'yard:door'], ['YARD_PASS' => $pass]));
    }

    public function startWorker(): void
    {
        $this->processes['worker'] = $this->run(['php', dirname(__DIR__, 2).'/artisan', 'queue:work', 'workers', '--quiet', '--sleep=0.1', '--memory=700']);
    }

    /** Ends the server or the worker at once, as a power cut would. */
    public function kill(string $name): void
    {
        $pid = proc_get_status($this->processes[$name])['pid'];
        exec('pkill -KILL -P '.$pid);
        exec('kill -KILL '.$pid);
        proc_close($this->processes[$name]);
        unset($this->processes[$name]);
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
     * @param  array<string, string>  $more  of the environment
     * @return resource
     */
    private function run(array $command, array $more = [], ?string $in = null)
    {
        $log = ['file', $this->folder.'/log', 'a'];

        return proc_open($command, [['file', '/dev/null', 'r'], $log, $log], $pipes, $in ?? dirname(__DIR__, 2), $more + $this->env) ?: throw new \RuntimeException('Could not start '.$command[0]);
    }
}
