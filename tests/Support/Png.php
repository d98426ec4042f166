<?php

declare(strict_types=1);

namespace Tests\Support;

use LogicException;

/** Reads PNG pictures of 8 bits a part without alpha, from the specification (W3C), without the writer that is tested. */
final class Png
{
    /** @return list<list<int>> rows of red, green and blue */
    public static function rows(string $png): array
    {
        if (! str_starts_with($png, "\x89PNG\r\n\x1a\n")) {
            throw new LogicException('This is no PNG.');
        }
        $data = '';
        $head = [];
        for ($at = 8; $at < strlen($png); $at += 12 + $length) {
            $length = ((array) unpack('N', $png, $at))[1];
            $kind = substr($png, $at + 4, 4);
            $part = substr($png, $at + 8, $length);
            if (crc32($kind.$part) !== ((array) unpack('N', $png, $at + 8 + $length))[1]) {
                throw new LogicException("The check of $kind is wrong.");
            }
            $head = $kind === 'IHDR' ? array_values((array) unpack('N2size/C5kind', $part)) : $head;
            $data .= $kind === 'IDAT' ? $part : '';
        }
        if (array_slice($head, 2) !== [8, 2, 0, 0, 0]) {
            throw new LogicException('The picture is of another kind.');
        }
        $rows = [];
        $before = array_fill(0, 3 * $head[0], 0);
        foreach (str_split((string) gzuncompress($data), 1 + 3 * $head[0]) as $line) {
            $row = array_values((array) unpack('C*', substr($line, 1)));
            // 0 as it is, 2 as the difference from the row above.
            $rows[] = $before = match (ord($line[0])) {
                0 => $row,
                2 => array_map(static fn (int $one, int $above): int => ($one + $above) & 255, $row, $before),
                default => throw new LogicException('A filter that is not read here.'),
            };
        }
        if (count($rows) !== $head[1]) {
            throw new LogicException('Rows are missing.');
        }

        return $rows;
    }
}
