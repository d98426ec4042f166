<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;

/**
 * Reads OFF in text: counts, vertices, polygons; colours after them are passed over.
 * Source: the Object File Format of the Geometry Center (M. Phillips et al., Geomview manual, 1993).
 */
final class OffReader
{
    private const LONGEST_LINE = 4_000_000;

    /** @throws UnreadableMesh */
    public static function read(string $path, Units $units = Units::Millimetres): ReadMesh
    {
        $file = Files::open($path);
        $name = basename($path);
        $scale = $units->millimetres();
        $line = 0;
        $bad = static function (string $what) use ($name, &$line): UnreadableMesh {
            return new UnreadableMesh("The OFF file $name is damaged at line $line: $what; export it again.");
        };
        $next = static function () use ($file, &$line): ?array {
            while (($text = Files::line($file, self::LONGEST_LINE)) !== false) {
                $line++;
                $hash = strpos($text, '#');
                $words = preg_split('/\s+/', $hash === false ? $text : substr($text, 0, $hash), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                if ($words !== []) {
                    return $words;
                }
            }

            return null;
        };
        try {
            $words = $next() ?? throw new UnreadableMesh("The OFF file $name is empty; export the mesh again.");
            if (preg_match('/^(ST)?C?N?OFF$/', $words[0]) === 1) {
                $words = count($words) > 1 ? array_slice($words, 1) : $next() ?? [];
            }
            if (count($words) < 2 || preg_match('/^\d{1,9}$/', $words[0]) !== 1 || preg_match('/^\d{1,9}$/', $words[1]) !== 1) {
                throw new UnreadableMesh("The file $name is no OFF text: after \"OFF\" the numbers of vertices and faces are expected; check that it is an OFF file.");
            }
            [$vertices, $faces] = [(int) $words[0], (int) $words[1]];
            $xyz = [];
            for ($v = 0; $v < $vertices; $v++) {
                $words = $next() ?? throw $bad("$vertices vertices are promised and $v are there");
                for ($k = 0; $k < 3; $k++) {
                    $value = TextNumber::of($words[$k] ?? '') * $scale;
                    if (! is_finite($value)) {
                        throw $bad('a vertex has a coordinate that is not a usable number');
                    }
                    $xyz[] = $value;
                }
            }
            $corners = [];
            $looks = PolygonFaces::LOOKS;
            for ($f = 0; $f < $faces; $f++) {
                $words = $next() ?? throw $bad("$faces faces are promised and $f are there");
                $count = preg_match('/^\d{1,6}$/', $words[0]) === 1 ? (int) $words[0] : -1;
                if ($count < 0 || $count > PolygonFaces::MOST_CORNERS || count($words) <= $count) {
                    throw $bad('a face has fewer corners than it says');
                }
                $polygon = [];
                for ($k = 1; $k <= $count; $k++) {
                    $v = preg_match('/^\d{1,9}$/', $words[$k]) === 1 ? (int) $words[$k] : -1;
                    if ($v < 0 || $v >= $vertices) {
                        throw $bad("a face names a vertex that is not one of the $vertices");
                    }
                    $polygon[] = $v;
                }
                if ($count >= 3) {
                    foreach ($count === 3 ? $polygon : PolygonFaces::triangles($xyz, $polygon, $looks) as $v) {
                        $corners[] = $v;
                    }
                }
            }
        } finally {
            fclose($file);
        }
        $assembly = new Assembly($name, 'OFF');
        $assembly->add('part', $xyz, $corners);

        return $assembly->result();
    }
}
