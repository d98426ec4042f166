<?php

declare(strict_types=1);

namespace App\Disk;

use App\Database\Trouble;
use Closure;
use Illuminate\Support\Facades\DB;
use Throwable;

/**
 * Room on the disk of the data folder. Work that would need more than there is is refused before it begins, and a few megabytes are
 * held as a reserve, a file that is given up when a project is to be removed from a full disk: removing needs room, too.
 */
final class Room
{
    /** Bytes that stay free for what is small: rows, logs, the next start. */
    private const KEPT = 16_000_000;

    private const RESERVE = 8_000_000;

    /** Bytes on the disk for each byte of a mesh that a step takes: what it makes, the write-ahead log, what the view reads. */
    private const A_STEP = 4;

    public function free(): int
    {
        clearstatcache();
        $free = @disk_free_space(storage_path());

        return $free === false ? PHP_INT_MAX : (int) $free;
    }

    /** @throws DiskFull when so many bytes are not there */
    public function demand(int $bytes): void
    {
        $missing = $bytes + self::KEPT - $this->free();
        if ($missing > 0) {
            throw DiskFull::missing($missing);
        }
    }

    /** @param  int  $taken  bytes of the meshes that a step takes */
    public function demandForStep(int $taken): void
    {
        $this->demand(self::A_STEP * $taken);
    }

    /** What to say of an error that came of a full disk; null for all others. */
    public function refusal(Throwable $error): ?DiskFull
    {
        return match (true) {
            $error instanceof DiskFull => $error,
            $this->isFull($error) => DiskFull::missing(self::KEPT + self::RESERVE - min(self::KEPT, $this->free())),
            default => null,
        };
    }

    private function isFull(Throwable $error): bool
    {
        return Trouble::isFull($error) || (Trouble::isOfDisk($error) && $this->free() < self::KEPT);
    }

    /**
     * For what makes room: on a full disk it is done with the reserve.
     *
     * @template T
     *
     * @param  Closure(): T  $remove
     * @return T
     */
    public function whateverItTakes(Closure $remove): mixed
    {
        try {
            return $remove();
        } catch (Throwable $error) {
            if (! $this->isFull($error) || ! $this->giveUpReserve()) {
                throw $this->refusal($error) ?? $error;
            }
        }
        try {
            return $remove();
        } catch (Throwable $error) {
            throw $this->refusal($error) ?? $error;
        }
    }

    /** The reserve, made when there is room for it. */
    public function keepReserve(): void
    {
        if (is_file($this->reserve()) || $this->free() < self::RESERVE + 2 * self::KEPT) {
            return;
        }
        $part = $this->reserve().'.part';
        // Not zeros: some file systems store those as nothing.
        $bytes = random_bytes(100_000);
        $file = @fopen($part, 'wb');
        for ($written = 0; $file !== false && $written < self::RESERVE; $written += strlen($bytes)) {
            if (@fwrite($file, $bytes) !== strlen($bytes)) {
                break;
            }
        }
        if ($file !== false) {
            @fclose($file);
        }
        $written >= self::RESERVE ? @rename($part, $this->reserve()) : @unlink($part);
    }

    /** The reserve is for starting as well: nothing can be removed from what does not run. */
    public function makeStartPossible(): void
    {
        if ($this->free() < self::RESERVE / 2) {
            @unlink($this->reserve());
        }
    }

    /** @return bool whether there was one */
    private function giveUpReserve(): bool
    {
        if (! @unlink($this->reserve())) {
            return false;
        }
        try {
            // What the log holds goes to its place, and the log can be written from its beginning.
            DB::statement('pragma wal_checkpoint(passive)');
        } catch (Throwable) {
            // Then the room of the reserve alone must do.
        }

        return true;
    }

    private function reserve(): string
    {
        return storage_path('reserve');
    }
}
