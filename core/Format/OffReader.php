<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;
use Isotome\Geometry\Affine;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Skin;

/**
 * Reads OFF in text: counts, vertices, polygons; normals, colours and texture coordinates of vertices when the first word tells of them (NOFF, COFF, STOFF), and
 * colours behind faces, from 0 to 1 or to 255 (common practice). An index of a map of colours is passed over.
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
        $rows = $faceAt = $faceColours = [];
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
            $more = [];
            if (preg_match('/^(ST)?(C)?(N)?OFF$/', $words[0], $kinds) === 1) {
                // In this order behind the coordinates.
                $more = array_keys(array_filter([Skin::NORMAL => ($kinds[3] ?? '') !== '', Skin::COLOUR => ($kinds[2] ?? '') !== '', Skin::TEXTURE.'0' => ($kinds[1] ?? '') !== '']));
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
                if ($more !== []) {
                    $rows[] = array_slice($words, 3);
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
                    $triangles = $count === 3 ? $polygon : PolygonFaces::triangles($xyz, $polygon, $looks);
                    foreach ($triangles as $v) {
                        $corners[] = $v;
                    }
                    if (count($words) > $count + 3 && ! in_array(Skin::COLOUR, $more, true)) {
                        for ($i = count($faceAt), $before = count($corners) - count($triangles); $i < $before; $i++) {
                            $faceAt[] = -1;
                        }
                        array_push($faceAt, ...array_fill(0, count($triangles), count($faceColours)));
                        $faceColours[] = array_slice($words, $count + 1, 4);
                    }
                }
            }
        } finally {
            fclose($file);
        }
        $assembly = new Assembly($name, 'OFF');
        $attributes = self::attributes($more, $rows);
        if ($faceColours !== []) {
            $attributes[Skin::COLOUR] = [4, self::colours($faceColours), array_pad($faceAt, count($corners), -1)];
        }
        if ($attributes === [] || $corners === []) {
            $assembly->add('part', $xyz, $corners);

            return $assembly->result();
        }
        $skin = new SkinBuilder(new Looks);
        $triangles = intdiv(count($corners), 3);
        $assembly->add('part', $xyz, $corners, $skin->add($corners, array_fill(0, $triangles, 0), array_fill(0, $triangles, -1), $attributes, Affine::IDENTITY));

        return $skin->onto($assembly->result(), []);
    }

    /**
     * @param  list<string>  $more  layers behind the coordinates
     * @param  list<list<string>>  $rows  words there, of each vertex
     * @return array<string, array{0: int, 1: list<float>, 2?: list<int>}> see SkinBuilder::add
     */
    private static function attributes(array $more, array $rows): array
    {
        $attributes = [];
        $from = 0;
        foreach ($more as $layer) {
            // Colours have three or four numbers, as many as the other layers leave.
            $width = $layer === Skin::NORMAL ? 3 : ($layer === Skin::COLOUR ? max(3, min(4, count($rows[0] ?? []) - $from - (in_array(Skin::TEXTURE.'0', $more, true) ? 2 : 0))) : 2);
            $values = [];
            foreach ($rows as $row) {
                $own = array_map(TextNumber::of(...), array_pad(array_slice($row, $from, $width), $width, ''));
                if ($layer !== Skin::COLOUR) {
                    $own = is_finite(array_sum($own)) ? $own : array_fill(0, $width, 0.0);
                    // Upwards there, downwards here; and normals are of length 1.
                    $length = $layer === Skin::NORMAL ? sqrt($own[0] ** 2 + $own[1] ** 2 + ($own[2] ?? 0.0) ** 2) : 1.0;
                    array_push($values, ...($layer === Skin::NORMAL ? array_map(static fn (float $c): float => $length > 0.0 ? $c / $length : 0.0, $own) : [$own[0], 1.0 - $own[1]]));
                }
            }
            $attributes[$layer] = $layer === Skin::COLOUR ? [4, self::colours(array_map(static fn (array $row): array => array_slice($row, $from, $width), $rows))] : [$width, $values];
            $from += $width;
        }

        return $attributes;
    }

    /**
     * @param  list<list<string>>  $rows
     * @return list<float> four each, linear; white where they are no numbers
     */
    private static function colours(array $rows): array
    {
        $parsed = array_map(static fn (array $row): array => array_map(TextNumber::of(...), $row), $rows);
        $scale = 1.0;
        foreach ($parsed as $row) {
            foreach ($row as $part) {
                $scale = $part > 1.0 ? 1 / 255 : $scale;
            }
        }
        $colours = [];
        foreach ($parsed as $row) {
            $isUsable = count($row) >= 3 && is_finite(array_sum($row));
            for ($k = 0; $k < 3; $k++) {
                $colours[] = $isUsable ? Colours::linear($scale * $row[$k]) : 1.0;
            }
            $colours[] = $isUsable && isset($row[3]) ? max(0.0, min(1.0, $scale * $row[3])) : 1.0;
        }

        return $colours;
    }
}
