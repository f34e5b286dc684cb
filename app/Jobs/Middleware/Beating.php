<?php

declare(strict_types=1);

namespace App\Jobs\Middleware;

use App\Jobs\LastsLong;
use App\Storage\YardFiles;
use Closure;
use Illuminate\Support\Facades\DB;
use YardBreak\Core\Problem;

/**
 * For jobs that may last. While one runs its claim is renewed every second, so that the queue can give the job of a
 * worker that died to another within seconds, however long a job may last. A job that uses up its memory, or gets
 * nowhere for minutes, is failed at once, in words.
 */
final class Beating
{
    private const EVERY = 1;

    /** Seconds after which a job that has got no further is given up. */
    public const STUCK = 300;

    /** Kinds of problems it ends jobs with. */
    public const KINDS = ['memory', 'stuck'];

    private static ?LastsLong $running = null;

    private static float $gotOn = 0.0;

    private static bool $watched = false;

    public function handle(LastsLong $job, Closure $next): void
    {
        if (self::$running?->lock() !== null && self::$running->lock() === $job->lock()) {
            // Without a queue a slice runs the next one itself.
            $next($job);

            return;
        }
        self::$running = $job;
        self::gotOn();
        $this->watchMemory();
        $lock = null;
        try {
            $this->beat($job->claim());
            $lock = $this->alone($job->lock());
            $next($job);
        } finally {
            self::$running = null;
            if (function_exists('pcntl_alarm')) {
                pcntl_alarm(0);
            }
            if ($lock !== null) {
                fclose($lock);
            }
        }
    }

    /** Whoever works tells that it gets on. */
    public static function gotOn(): void
    {
        self::$gotOn = microtime(true);
    }

    /**
     * Waits until nobody else is at the same thing: somebody alive may have been slow to renew its claim.
     *
     * @return resource|null
     */
    private function alone(?string $name)
    {
        if ($name === null) {
            return null;
        }
        $lock = YardFiles::lock($name);
        while (! flock($lock, LOCK_EX | LOCK_NB)) {
            usleep(100_000);
            self::gotOn();
        }

        return $lock;
    }

    private function beat(?int $claim): void
    {
        if ($claim === null || ! function_exists('pcntl_alarm')) {
            return;
        }
        pcntl_async_signals(true);
        pcntl_signal(SIGALRM, static function () use ($claim): void {
            if (self::$running === null) {
                return;
            }
            pcntl_alarm(self::EVERY);
            if (microtime(true) - self::$gotOn > self::STUCK) {
                throw new Problem('stuck', 'This got no further for '.intdiv(self::STUCK, 60).' minutes, so it was stopped.', '', 'Lower the number of pieces or the detail, then try again.');
            }
            try {
                DB::table('jobs')->where('id', $claim)->update(['reserved_at' => time()]);
            } catch (\PDOException) {
                // The database is busy; the next beat will do.
            }
        });
        pcntl_alarm(self::EVERY);
    }

    private function watchMemory(): void
    {
        if (self::$watched) {
            return;
        }
        self::$watched = true;
        register_shutdown_function(static function (): void {
            $error = error_get_last();
            $job = self::$running;
            if ($job === null || $error === null || ! str_contains($error['message'], 'Allowed memory size')) {
                return;
            }
            $limit = (string) ini_get('memory_limit');
            ini_set('memory_limit', '-1');
            $job->giveUp(new Problem('memory', 'This takes more memory than the '.$limit.'B a worker may use.', '', 'Lower the number of pieces or the detail, then try again.'));
        });
    }
}
