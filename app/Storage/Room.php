<?php

declare(strict_types=1);

namespace App\Storage;

use Closure;
use Illuminate\Database\QueryException;
use Throwable;
use YardBreak\Core\Problem;

/**
 * Room on the disk, and its end. A little is held in reserve beside the database, so that what makes room can be written
 * where nothing else can.
 */
final class Room
{
    /** Bytes held in reserve: what deleting a shot or clearing may write to the database. */
    private const RESERVE = 4_000_000;

    /** Bytes that must be free for work to go on. */
    private const ENOUGH = 2_000_000;

    /** How a full disk is said by what does not know our words: SQLite's SQLITE_FULL, and the system's ENOSPC. */
    private const SIGNS = '/database or disk is full|No space left on device|possibly out of free disk space/';

    /** Sets the reserve aside again, where there is room. */
    public static function reserve(): void
    {
        $path = self::path();
        if (is_file($path) || @disk_free_space(dirname($path)) < 3 * self::RESERVE) {
            return;
        }
        // Written, not only claimed: a sparse file holds nothing back.
        if (@file_put_contents($path, random_bytes(self::RESERVE)) !== self::RESERVE) {
            @unlink($path);
        }
    }

    /**
     * Does what makes room, out of the reserve where it must.
     *
     * @template T
     *
     * @param  Closure(): T  $do
     * @return T
     */
    public static function making(Closure $do)
    {
        try {
            return $do();
        } catch (Throwable $e) {
            if (self::problem($e) === null || ! @unlink(self::path())) {
                throw $e;
            }

            return $do();
        }
    }

    /** The problem in words where something failed because the disk is full; null where it was something else. */
    public static function problem(Throwable $e): ?Problem
    {
        if ($e instanceof Problem) {
            return $e->kind === Problem::FULL ? $e : null;
        }

        return ($e instanceof QueryException || $e instanceof \PDOException || $e instanceof \ErrorException || $e instanceof \RuntimeException) && preg_match(self::SIGNS, $e->getMessage()) === 1
            ? Problem::full((int) @disk_free_space(dirname(self::path())), self::ENOUGH)
            : null;
    }

    public static function isThere(): bool
    {
        foreach ([YardFiles::folder(''), dirname(self::path())] as $folder) {
            $free = @disk_free_space($folder);
            if ($free !== false && $free < self::ENOUGH) {
                return false;
            }
        }

        return true;
    }

    private static function path(): string
    {
        return dirname((string) config('database.connections.sqlite.database')).'/reserve';
    }
}
