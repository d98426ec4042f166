<?php

declare(strict_types=1);

namespace Isotome\Format;

/** The bytes of a picture as PNG. Source: W3C, Portable Network Graphics (Second Edition). */
final class PngWriter
{
    /**
     * @param  string  $pixels  red, green and blue, a byte each, row by row from the top
     */
    public static function of(int $width, int $height, string $pixels): string
    {
        $rows = '';
        $before = str_repeat("\0", 3 * $width);
        for ($y = 0; $y < $height; $y++) {
            $row = substr($pixels, 3 * $width * $y, 3 * $width);
            // A row that is like the one above it packs best as the difference from it.
            $rows .= $row === $before && $y > 0 ? "\2".str_repeat("\0", 3 * $width) : "\0".$row;
            $before = $row;
        }

        return "\x89PNG\r\n\x1a\n".self::chunk('IHDR', pack('N2C5', $width, $height, 8, 2, 0, 0, 0)).self::chunk('IDAT', (string) gzcompress($rows, 9)).self::chunk('IEND', '');
    }

    private static function chunk(string $kind, string $data): string
    {
        return pack('N', strlen($data)).$kind.$data.pack('N', crc32($kind.$data));
    }
}
