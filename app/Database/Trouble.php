<?php

declare(strict_types=1);

namespace App\Database;

use PDOException;
use Throwable;

/** What the database could not do for reasons outside of it. Source of the messages: SQLite documentation, "Result codes". */
final class Trouble
{
    /** Is the disk full? */
    public static function isFull(Throwable $error): bool
    {
        return self::says($error, ['database or disk is full', 'No space left on device', 'possibly out of free disk space']);
    }

    /** Could the disk not be read or written? For want of room, often, and not always. */
    public static function isOfDisk(Throwable $error): bool
    {
        return self::says($error, ['disk I/O error']);
    }

    /** Has somebody else written for longer than one waits? */
    public static function isBusy(Throwable $error): bool
    {
        return $error instanceof PDOException && self::says($error, ['database is locked', 'database table is locked']);
    }

    /** @param  list<string>  $messages */
    private static function says(Throwable $error, array $messages): bool
    {
        for ($at = $error; $at !== null; $at = $at->getPrevious()) {
            foreach ($messages as $message) {
                if (str_contains($at->getMessage(), $message)) {
                    return true;
                }
            }
        }

        return false;
    }
}
