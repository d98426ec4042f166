<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use RuntimeException;

/** Opening and writing files in one way. */
final class Files
{
    /**
     * @return resource
     *
     * @throws UnreadableMesh when it is missing, no ordinary file, or empty
     */
    public static function open(string $path)
    {
        $file = is_file($path) ? @fopen($path, 'rb') : false;
        if ($file === false) {
            throw new UnreadableMesh('The file '.basename($path).' cannot be opened; check its name and that it may be read.');
        }
        if ((fstat($file)['size'] ?? 0) === 0) {
            fclose($file);
            throw new UnreadableMesh('The file '.basename($path).' is empty; export the mesh again.');
        }

        return $file;
    }

    /**
     * The next line of a text with its end, or as much of it as is allowed. Asked for a long line at once, PHP would set its whole length
     * aside for every short one: that made reading ten times slower.
     *
     * @param  resource  $file
     * @return string|false false at the end
     *
     * @phpstan-impure
     */
    public static function line($file, int $longest): string|false
    {
        $line = fgets($file, 8192);
        while ($line !== false && strlen($line) < $longest && ! str_ends_with($line, "\n") && ($more = fgets($file, 65536)) !== false) {
            $line .= $more;
        }

        return $line;
    }

    /**
     * Writes a file completely or not at all.
     *
     * @param  iterable<string>  $chunks
     *
     * @throws RuntimeException when the folder cannot be written or is full
     */
    public static function write(string $path, iterable $chunks): void
    {
        // A folder, or a device: renaming would put a file in its place.
        if (file_exists($path) && ! is_file($path)) {
            throw new RuntimeException("The file $path cannot be written, for it is no ordinary file; give another name.");
        }
        $partial = $path.'.partial';
        $file = @fopen($partial, 'wb');
        if ($file === false) {
            throw new RuntimeException("The file $path cannot be written; check that its folder exists and has room.");
        }
        $complete = true;
        foreach ($chunks as $chunk) {
            $complete = $complete && fwrite($file, $chunk) === strlen($chunk);
        }
        if (! fclose($file) || ! $complete || ! @rename($partial, $path)) {
            @unlink($partial);
            throw new RuntimeException("The file $path could not be written to its end; check that the disk has room.");
        }
    }
}
