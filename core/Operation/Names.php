<?php

declare(strict_types=1);

namespace Isotome\Operation;

/** Names of pieces. */
final class Names
{
    /** The n-th piece (from 0) cut from a parent: heron-A … heron-Z, heron-AA … */
    public static function child(string $parent, int $n): string
    {
        $letters = '';
        do {
            $letters = chr(65 + $n % 26).$letters;
            $n = intdiv($n, 26) - 1;
        } while ($n >= 0);

        return "$parent-$letters";
    }

    /** A name as it is read: clay-jar-A-B becomes Clay jar A-B. */
    public static function title(string $name): string
    {
        preg_match('/^(.*?)((?:-[A-Z]+)*)$/s', $name, $parts);
        $stock = str_replace('-', ' ', $parts[1] ?? $name);
        $title = mb_strtoupper(mb_substr($stock, 0, 1)).mb_substr($stock, 1);

        return ($parts[2] ?? '') === '' ? $title : $title.' '.substr($parts[2], 1);
    }

    /** A number for a name, the same in every run: 12 hexadecimal digits (of FIPS 180-4, SHA-256). */
    public static function id(string $name): string
    {
        return substr(hash('sha256', $name), 0, 12);
    }

    /** Bytes: systems allow 255 for a file's name, and a number, an ending and "partial" may follow. */
    private const LONGEST_FILE = 180;

    /** A name that is safe as part of a file name on every system; never empty, and short enough in bytes, whatever its letters are. */
    public static function file(string $name): string
    {
        $plain = trim((string) preg_replace('/[^\p{L}\p{N}_-]+/u', '-', $name), '-');

        return $plain === '' ? 'piece' : rtrim(mb_strcut($plain, 0, self::LONGEST_FILE), '-');
    }
}
