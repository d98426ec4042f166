<?php

declare(strict_types=1);

namespace Isotome\Format;

use ZipArchive;

/** Takes files out of zips, within bounds: a few bytes can unpack to very many. */
final class Archive
{
    /** Bytes of a file, and how many times what it takes in the archive. */
    private const LARGEST = 4_000_000_000;

    private const LARGEST_RATIO = 400;

    private const CHUNK = 1 << 20;

    /** Why a file was not unpacked. */
    public const SOUND = '';

    public const TOO_LARGE = 'too large';

    public const DAMAGED = 'damaged';

    /**
     * Unpacks a file onto the disk.
     *
     * @param  \Closure(string): void|null  $look  is shown every stretch before it is written; it may throw
     * @return string SOUND, TOO_LARGE or DAMAGED
     */
    public static function unpack(ZipArchive $zip, int $entry, string $to, ?\Closure $look = null): string
    {
        $stat = $zip->statIndex($entry);
        $from = $zip->getStreamIndex($entry);
        $out = $from === false ? false : fopen($to, 'wb');
        if ($stat === false || $from === false || $out === false) {
            return self::DAMAGED;
        }
        $most = min(self::LARGEST, 1_000_000 + self::LARGEST_RATIO * max(0, (int) $stat['comp_size']));
        $size = 0;
        try {
            while ($size <= $most && ! feof($from)) {
                $chunk = @fread($from, self::CHUNK);
                if ($chunk === false || $chunk === '') {
                    break;
                }
                $size += strlen($chunk);
                if ($look !== null) {
                    $look($chunk);
                }
                if (fwrite($out, $chunk) !== strlen($chunk)) {
                    return self::DAMAGED;
                }
            }
        } finally {
            fclose($from);
            fclose($out);
        }

        return $size > $most ? self::TOO_LARGE : ($size === 0 || $size !== (int) $stat['size'] ? self::DAMAGED : self::SOUND);
    }

    /** @return string|null a file's bytes; null when they are more than so many, or damaged */
    public static function bytes(ZipArchive $zip, int $entry, int $most): ?string
    {
        $stat = $zip->statIndex($entry);
        $size = $stat === false ? -1 : (int) $stat['size'];
        // The archive may lie about the size; it is read no further than that.
        $bytes = $size < 0 || $size > $most ? false : $zip->getFromIndex($entry, $size);

        return $bytes === false || strlen($bytes) !== $size ? null : $bytes;
    }
}
