<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Skin;

/** Properties of PLY vertices by what they mean (common practice: names that scanners and modelling programs write). */
final class PlyColumns
{
    /** Names by layer, the first set of them that is there. */
    private const NAMES = [
        Skin::COLOUR => [['red', 'green', 'blue'], ['diffuse_red', 'diffuse_green', 'diffuse_blue'], ['r', 'g', 'b']],
        Skin::NORMAL => [['nx', 'ny', 'nz'], ['normal_x', 'normal_y', 'normal_z']],
        Skin::TEXTURE.'0' => [['s', 't'], ['u', 'v'], ['texture_u', 'texture_v']],
    ];

    /** What a colour's full strength is in each type. */
    private const FULL = ['uchar' => 255.0, 'uint8' => 255.0, 'ushort' => 65535.0, 'uint16' => 65535.0, 'float' => 1.0, 'float32' => 1.0, 'double' => 1.0, 'float64' => 1.0];

    /**
     * @param  list<array{name: string, type: string, of?: string}>  $properties
     * @return array{array<string, array{columns: list<int>, full: float}>, list<string>} layers with their columns; properties that mean nothing here
     */
    public static function of(array $properties): array
    {
        $columns = [];
        foreach ($properties as $k => $property) {
            if (! isset($property['of'])) {
                $columns[$property['name']] ??= $k;
            }
        }
        $layers = [];
        $used = ['x' => true, 'y' => true, 'z' => true];
        foreach (self::NAMES as $layer => $sets) {
            foreach ($sets as $names) {
                $found = array_intersect_key($columns, array_flip($names));
                $full = self::FULL[$properties[$columns[$names[0]] ?? -1]['type'] ?? ''] ?? null;
                if (count($found) < count($names) || $full === null || isset($layers[$layer])) {
                    continue;
                }
                $list = array_map(static fn (string $name): int => $columns[$name], $names);
                if ($layer === Skin::COLOUR && isset($columns['alpha']) && isset(self::FULL[$properties[$columns['alpha']]['type']])) {
                    $list[] = $columns['alpha'];
                    $used['alpha'] = true;
                }
                $layers[$layer] = ['columns' => $list, 'full' => $full];
                $used += array_fill_keys($names, true);
            }
        }
        $rest = array_keys(array_diff_key($columns, $used));

        return [$layers, array_map(static fn (int|string $name): string => 'the property '.substr((string) preg_replace('/[^\w]/', '', (string) $name), 0, 40).' of its vertices', array_slice($rest, 0, 8))];
    }

    /**
     * @param  list<float>  $rows
     * @return list<float> the first three numbers of each
     */
    public static function places(array $rows, int $width): array
    {
        $xyz = [];
        for ($i = 0, $count = count($rows); $i < $count; $i += $width) {
            $xyz[] = $rows[$i];
            $xyz[] = $rows[$i + 1];
            $xyz[] = $rows[$i + 2];
        }

        return $xyz;
    }

    /**
     * @param  list<float>  $rows
     * @param  array<string, array{columns: list<int>, full: float}>  $layers  in the order in which their columns follow the places
     * @return array<string, array{int, list<float>}> numbers a vertex and the numbers, by layer; colours linear
     */
    public static function attributes(array $rows, int $width, array $layers): array
    {
        $attributes = [];
        $from = 3;
        foreach ($layers as $layer => ['columns' => $columns, 'full' => $full]) {
            $values = [];
            $own = count($columns);
            for ($i = $from, $count = count($rows); $i < $count; $i += $width) {
                if ($layer === Skin::COLOUR) {
                    $values[] = Colours::linear($rows[$i] / $full);
                    $values[] = Colours::linear($rows[$i + 1] / $full);
                    $values[] = Colours::linear($rows[$i + 2] / $full);
                    $values[] = $own === 4 ? max(0.0, min(1.0, $rows[$i + 3] / $full)) : 1.0;
                } else {
                    for ($k = 0; $k < $own; $k++) {
                        $value = is_finite($rows[$i + $k]) ? $rows[$i + $k] : 0.0;
                        // Across and down: PLY counts upwards (common practice).
                        $values[] = $own === 2 && $k === 1 ? 1.0 - $value : $value;
                    }
                }
            }
            $attributes[$layer] = [$layer === Skin::COLOUR ? 4 : $own, $values];
            $from += $own;
        }

        return $attributes;
    }
}
