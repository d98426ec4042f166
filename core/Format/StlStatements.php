<?php

declare(strict_types=1);

namespace Isotome\Format;

/**
 * The statements of an ASCII STL. Mostly each has a line of its own, but whitespace of any kind separates words there (3D Systems, StereoLithography
 * Interface Specification, 1988), so there may be several in a line, or all of them.
 */
final class StlStatements
{
    /** Where one begins in a line that holds several. */
    private const BEGINS = '/\s+(?=(?:facet\s+normal|outer\s+loop|vertex|endloop|endfacet|endsolid|solid)(?:\s|$))/i';

    /** Where the name of a solid ends, which may be of any words. */
    private const NAME_ENDS = '/\s+(?=(?:facet\s+normal|endsolid)(?:\s|$))/i';

    /** Most words of one that is no name: facet normal x y z. */
    private const WORDS = 5;

    /**
     * @param  resource  $file  at its beginning
     * @return iterable<int, list<string>> words by the number of their line, which may come several times
     */
    public static function of($file): iterable
    {
        $line = 0;
        $rest = '';
        while (($text = fgets($file, 65536)) !== false) {
            $text = $rest.$text;
            $rest = '';
            $isWhole = str_ends_with($text, "\n") || feof($file);
            $words = preg_split('/\s+/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [];
            if ($isWhole && ! isset($words[self::WORDS])) {
                yield ++$line => $words;

                continue;
            }
            $parts = self::divided(trim($text));
            if (! $isWhole && count($parts) > 1) {
                // The last one goes on in what is read next.
                $rest = array_pop($parts).(ctype_space(substr($text, -1)) ? ' ' : '');
            }
            foreach ($parts as $part) {
                yield $line + 1 => preg_split('/\s+/', $part, -1, PREG_SPLIT_NO_EMPTY) ?: [];
            }
            $line += $isWhole ? 1 : 0;
        }
        if ($rest !== '') {
            yield $line + 1 => preg_split('/\s+/', trim($rest), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        }
    }

    /** @return list<string> */
    private static function divided(string $text): array
    {
        if (preg_match('/^solid\s/i', $text) !== 1) {
            return preg_split(self::BEGINS, $text) ?: [];
        }
        $parts = preg_split(self::NAME_ENDS, $text, 2) ?: [];

        return isset($parts[1]) ? [$parts[0], ...preg_split(self::BEGINS, $parts[1]) ?: []] : $parts;
    }
}
