<?php

declare(strict_types=1);

namespace App\Database;

use Closure;
use Illuminate\Support\Facades\DB;

/**
 * Gives the space of removed meshes back to the disk, a little at a time. Source: SQLite documentation, "pragma incremental_vacuum".
 */
final class Vacuum
{
    /** Pages a transaction, and seconds between two: others write in between. */
    private const PAGES = 400;

    private const PAUSE = 0.02;

    /** Free pages that are left for what comes next. */
    private const KEPT = 500;

    /** Gives back for so many seconds at most. */
    public function some(float $seconds = 20.0): void
    {
        if (! self::isSqlite()) {
            return;
        }
        $end = microtime(true) + $seconds;
        while (microtime(true) < $end && (int) DB::scalar('pragma freelist_count') > self::KEPT) {
            // All its rows have to be fetched: each is a page.
            DB::select('pragma incremental_vacuum('.self::PAGES.')');
            usleep((int) (1e6 * self::PAUSE));
        }
        DB::select('pragma wal_checkpoint(passive)');
    }

    /** Only before anybody else has the database open. A database that is new, or of an earlier version, is rewritten once, when there is room for it. */
    public function prepare(int $free, ?Closure $tell = null): void
    {
        if (! self::isSqlite() || (int) DB::scalar('pragma auto_vacuum') === 2) {
            return;
        }
        $bytes = (int) DB::scalar('pragma page_count') * (int) DB::scalar('pragma page_size');
        if ($free > 3 * $bytes) {
            if ($tell !== null && $bytes > 100_000_000) {
                $tell();
            }
            DB::statement('pragma auto_vacuum = incremental');
            DB::statement('vacuum');
        }
    }

    private static function isSqlite(): bool
    {
        return DB::connection()->getDriverName() === 'sqlite';
    }
}
