<?php

declare(strict_types=1);

namespace App\Database;

use PDO;
use PDOException;

/**
 * A connection to SQLite whose transactions take the write lock when they begin, and wait for it then.
 *
 * SQLite's own default takes it at the first write; when somebody else has written since the first read, that write fails at once with
 * "database is locked", and no waiting helps. Source: SQLite documentation, "Transaction" (BEGIN IMMEDIATE) and "Result codes"
 * (SQLITE_BUSY_SNAPSHOT). PHP begins transactions in another way from 8.4 on only.
 */
final class ImmediatePdo extends PDO
{
    private bool $begun = false;

    public function beginTransaction(): bool
    {
        if ($this->begun) {
            throw new PDOException('There is already an active transaction');
        }
        $this->exec('BEGIN IMMEDIATE');

        return $this->begun = true;
    }

    /** When it fails, as on a full disk, it is rolled back: the framework gives such a transaction up without doing so, and could never begin another. */
    public function commit(): bool
    {
        if (! $this->begun) {
            throw new PDOException('There is no active transaction');
        }
        try {
            $this->exec('COMMIT');
        } catch (PDOException $error) {
            $this->rollBack();

            throw $error;
        }
        $this->begun = false;

        return true;
    }

    public function rollBack(): bool
    {
        if (! $this->begun) {
            throw new PDOException('There is no active transaction');
        }
        $this->begun = false;
        try {
            $this->exec('ROLLBACK');
        } catch (PDOException $error) {
            // A full disk or an error of the disk has rolled it back already.
            if (! str_contains($error->getMessage(), 'no transaction is active')) {
                throw $error;
            }
        }

        return true;
    }

    public function inTransaction(): bool
    {
        return $this->begun;
    }
}
