<?php

declare(strict_types=1);

namespace Isotome\Recipe;

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

    /** A name that is safe as part of a file name on every system; never empty. */
    public static function file(string $name): string
    {
        $plain = trim((string) preg_replace('/[^\p{L}\p{N}_-]+/u', '-', $name), '-');

        return $plain === '' ? 'piece' : mb_substr($plain, 0, 120);
    }
}
