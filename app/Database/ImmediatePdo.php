<?php

declare(strict_types=1);

namespace App\Database;

use PDO;

/**
 * SQLite transactions that take the write lock at once. A deferred one that reads first and writes later fails
 * as "locked" without waiting when another process wrote in between, and queue jobs were lost that way.
 */
final class ImmediatePdo extends PDO
{
    private bool $open = false;

    public function beginTransaction(): bool
    {
        $this->exec('BEGIN IMMEDIATE');

        return $this->open = true;
    }

    public function commit(): bool
    {
        $this->exec('COMMIT');
        $this->open = false;

        return true;
    }

    public function rollBack(): bool
    {
        $this->open = false;
        $this->exec('ROLLBACK');

        return true;
    }

    public function inTransaction(): bool
    {
        return $this->open;
    }
}
