<?php

declare(strict_types=1);

namespace App\Answers;

use Closure;
use Illuminate\Filesystem\Filesystem;
use RuntimeException;
use Throwable;
use ZipArchive;

/** The files of a folder in one zip. */
final class Zipped
{
    /** @param  Closure(float): void  $progress  it may throw to cancel */
    public static function folder(string $folder, string $path, Closure $progress): void
    {
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::CREATE | ZipArchive::EXCL) !== true) {
            throw new RuntimeException('The zip could not be made; check that the data folder has room.');
        }
        foreach ((new Filesystem)->files($folder) as $file) {
            $zip->addFile($file->getPathname(), $file->getFilename());
            // Fast rather than small: coordinates hardly compress.
            $zip->setCompressionName($file->getFilename(), ZipArchive::CM_DEFLATE, 1);
        }
        // Nothing may be thrown through the archive's own code.
        $stopped = null;
        $zip->registerProgressCallback(0.02, static function (float $share) use ($progress, &$stopped): void {
            if ($stopped === null) {
                try {
                    $progress($share);
                } catch (Throwable $error) {
                    $stopped = $error;
                }
            }
        });
        $zip->registerCancelCallback(static function () use (&$stopped): int {
            return $stopped === null ? 0 : -1;
        });
        $isWritten = @$zip->close();
        if ($stopped !== null) {
            throw $stopped;
        }
        if (! $isWritten) {
            throw new RuntimeException('The zip could not be written to its end; check that the data folder has room.');
        }
    }
}
