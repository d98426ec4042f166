<?php

declare(strict_types=1);

namespace App\Runs;

/**
 * A lock that dies with the process that holds it, however that ends: the system's lock on a file. Others can ask whether it is held.
 */
final class ProcessLock
{
    /** @param  resource  $file */
    private function __construct(private $file, private readonly string $path)
    {
    }

    /** Takes a lock of a new name; it is given back by release, or with the end of the process. */
    public static function take(string $kind, string $name): self
    {
        $path = self::path($kind, $name);
        @mkdir(dirname($path), 0700, true);
        for ($tries = 0; $tries < 20; $tries++) {
            $file = @fopen($path, 'cb');
            if ($file === false || ! flock($file, LOCK_EX | LOCK_NB)) {
                // Somebody looks just now whether it is held.
                usleep(5000);

                continue;
            }
            clearstatcache(true, $path);
            // Somebody may have cleared it away between its opening and its locking.
            if ((fstat($file)['ino'] ?? 0) === @fileinode($path)) {
                // The number is for people; on a full disk it is missing.
                @fwrite($file, (string) getmypid());
                @fflush($file);

                return new self($file, $path);
            }
            fclose($file);
        }
        throw new \RuntimeException("The lock $name cannot be taken; check that the data folder can be written.");
    }

    public function release(): void
    {
        if (is_resource($this->file)) {
            @unlink($this->path);
            fclose($this->file);
        }
    }

    /** Is it held by a process that is alive? */
    public static function isHeld(string $kind, string $name): bool
    {
        return self::isLocked(self::path($kind, $name));
    }

    /** The process that holds it, or null when none does. */
    public static function holder(string $kind, string $name): ?int
    {
        $path = self::path($kind, $name);

        return self::isLocked($path) ? ((int) @file_get_contents($path) ?: null) : null;
    }

    /** Is any lock of this kind held? What dead processes left is cleared away. */
    public static function anyHeld(string $kind): bool
    {
        $held = false;
        foreach (glob(dirname(self::path($kind, 'x')).'/*.lock') ?: [] as $path) {
            if (self::isLocked($path)) {
                $held = true;
            } else {
                @unlink($path);
            }
        }

        return $held;
    }

    private static function isLocked(string $path): bool
    {
        $file = @fopen($path, 'rb');
        if ($file === false) {
            return false;
        }
        $isFree = flock($file, LOCK_SH | LOCK_NB);
        fclose($file);

        return ! $isFree;
    }

    private static function path(string $kind, string $name): string
    {
        return storage_path("locks/$kind/".preg_replace('/[^\w-]/', '', $name).'.lock');
    }
}
