<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Jobs\Middleware\Beating;
use App\Models\Shot;
use App\Storage\YardFiles;
use YardBreak\Core\Problem;
use YardBreak\Core\Progress;

/** Where a background break is, kept in a file for whoever asks; it ends when the shot no longer wants it. */
final class ShardProgress implements Progress
{
    private const EVERY = 0.2;

    private float $last = 0.0;

    public function __construct(private readonly string $shotId, private readonly string $propId, private readonly string $key)
    {
    }

    public static function name(string $key): string
    {
        return 'shards/progress/'.$key;
    }

    /** @return float share done, 0…1 */
    public static function of(string $key): float
    {
        $path = YardFiles::path(self::name($key));

        return is_file($path) ? (float) file_get_contents($path) : 0.0;
    }

    public function report(float $share): void
    {
        Beating::gotOn();
        if (microtime(true) - $this->last < self::EVERY) {
            return;
        }
        $this->last = microtime(true);
        YardFiles::write(self::name($this->key), (string) round($share, 3));
        foreach (Shot::query()->find($this->shotId)?->spec()->props ?? [] as $prop) {
            if ($prop->id === $this->propId && $prop->shardKey() === $this->key) {
                return;
            }
        }
        throw Problem::cancelled();
    }

    public function end(): void
    {
        @unlink(YardFiles::path(self::name($this->key)));
    }
}
