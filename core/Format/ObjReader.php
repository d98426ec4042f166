<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Exception\UnreadableMesh;

/**
 * Reads Wavefront OBJ: vertices, polygons (also concave ones, also with negative indices), objects and groups; everything else
 * is passed over. Source: "Object Files (.obj)", Wavefront Advanced Visualizer, appendix B1 (1991).
 */
final class ObjReader
{
    private const LONGEST_LINE = 4_000_000;

    private const MOST_GROUPS = 100_000;

    /** @throws UnreadableMesh */
    public static function read(string $path, Units $units = Units::Millimetres): ReadMesh
    {
        $file = Files::open($path);
        $name = basename($path);
        $scale = $units->millimetres();
        $xyz = [];
        $count = 0;
        $looks = PolygonFaces::LOOKS;
        /** @var array<string, list<int>> $groups */
        $groups = [];
        $group = '';
        $line = 0;
        try {
            while (($text = Files::line($file, self::LONGEST_LINE)) !== false) {
                $line++;
                // A backslash at the end goes on in the next line.
                while (str_ends_with(rtrim($text, "\r\n"), '\\') && strlen($text) < self::LONGEST_LINE && ($more = Files::line($file, self::LONGEST_LINE)) !== false) {
                    $text = substr(rtrim($text, "\r\n"), 0, -1).' '.$more;
                    $line++;
                }
                if (str_contains($text, "\0")) {
                    throw new UnreadableMesh("The OBJ file $name is no text at line $line; check that it is an OBJ file.");
                }
                if ($text[0] === 'v' && ($text[1] ?? '') === ' ') {
                    $words = preg_split('/\s+/', trim($text), 5) ?: [];
                    if (count($words) < 4) {
                        throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a vertex has fewer than three numbers; export it again.");
                    }
                    for ($k = 1; $k < 4; $k++) {
                        $value = TextNumber::of($words[$k]) * $scale;
                        if (! is_finite($value)) {
                            throw new UnreadableMesh("The OBJ file $name has a coordinate that is not a usable number at line $line; mend or export it again.");
                        }
                        $xyz[] = $value;
                    }
                    $count++;
                } elseif ($text[0] === 'f' && (($text[1] ?? '') === ' ' || ($text[1] ?? '') === "\t")) {
                    $words = preg_split('/\s+/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                    if (count($words) < 4 || count($words) > PolygonFaces::MOST_CORNERS) {
                        throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a face has ".(count($words) - 1).' corners; export it again.');
                    }
                    $polygon = [];
                    for ($k = 1; isset($words[$k]); $k++) {
                        $slash = strpos($words[$k], '/');
                        $word = $slash === false ? $words[$k] : substr($words[$k], 0, $slash);
                        $index = preg_match('/^-?\d{1,10}$/', $word) === 1 ? (int) $word : 0;
                        $index = $index < 0 ? $count + $index : $index - 1;
                        if ($index < 0 || $index >= $count) {
                            throw new UnreadableMesh("The OBJ file $name is damaged at line $line: a face names vertex \"".substr((string) preg_replace('/[^\x20-\x7e]/', '?', $word), 0, 12)."\" where $count are known; export it again.");
                        }
                        $polygon[] = $index;
                    }
                    foreach (count($polygon) === 3 ? $polygon : PolygonFaces::triangles($xyz, $polygon, $looks) as $v) {
                        $groups[$group][] = $v;
                    }
                } elseif (($text[0] === 'g' || $text[0] === 'o') && (($text[1] ?? '') === ' ')) {
                    $group = mb_substr(trim(substr($text, 2)), 0, 120);
                    if (! isset($groups[$group]) && count($groups) >= self::MOST_GROUPS) {
                        throw new UnreadableMesh("The OBJ file $name has more than 100,000 groups; join some of them.");
                    }
                }
            }
        } finally {
            fclose($file);
        }
        $assembly = new Assembly($name, 'OBJ');
        foreach (self::connected($groups) as $label => $corners) {
            [$own, $corners] = count($groups) === 1 ? [$xyz, $corners] : \Isotome\Mesh\Compact::of($xyz, $corners);
            $assembly->add((string) $label, $own, $corners);
        }

        return $assembly->result();
    }

    /**
     * Groups that share a vertex number are one part, under the name of the first.
     *
     * @param  array<string, list<int>>  $groups
     * @return array<string, list<int>>
     */
    private static function connected(array $groups): array
    {
        if (count($groups) < 2) {
            return $groups;
        }
        $names = array_keys($groups);
        $parent = array_keys($names);
        $owner = [];
        foreach ($names as $g => $name) {
            foreach ($groups[$name] as $v) {
                $other = $owner[$v] ??= $g;
                if ($other !== $g) {
                    while ($parent[$other] !== $other) {
                        $other = $parent[$other] = $parent[$parent[$other]];
                    }
                    $own = $g;
                    while ($parent[$own] !== $own) {
                        $own = $parent[$own] = $parent[$parent[$own]];
                    }
                    $parent[max($own, $other)] = min($own, $other);
                }
            }
        }
        $joined = [];
        foreach ($names as $g => $name) {
            $root = $g;
            while ($parent[$root] !== $root) {
                $root = $parent[$root];
            }
            foreach ($groups[$name] as $v) {
                $joined[$names[$root]][] = $v;
            }
        }

        return $joined;
    }
}
