<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** The colours of a skin for the view: at every corner that of its material times its own. Pictures are not sampled. */
final class OwnColours
{
    private const CHUNK = 2048;

    /** @return string for each corner of each triangle red, green and blue, linear, a byte each; nothing when all would be white */
    public static function of(Skin $skin): string
    {
        $factors = [[1.0, 1.0, 1.0]];
        foreach ($skin->looks->materials as $material) {
            $given = is_array($material['pbrMetallicRoughness'] ?? null) ? $material['pbrMetallicRoughness']['baseColorFactor'] ?? null : null;
            $factor = [];
            for ($k = 0; $k < 3; $k++) {
                $part = is_array($given) ? $given[$k] ?? 1.0 : 1.0;
                $factor[] = is_int($part) || is_float($part) ? max(0.0, min(1.0, (float) $part)) : 1.0;
            }
            $factors[] = $factor;
        }
        $layer = $skin->layers[Skin::COLOUR] ?? null;
        if ($layer === null && array_unique($factors, SORT_REGULAR) === [[1.0, 1.0, 1.0]]) {
            return '';
        }
        $bytes = '';
        $count = $skin->triangles();
        for ($t = 0; $t < $count; $t += self::CHUNK) {
            $some = min(self::CHUNK, $count - $t);
            $colours = $layer === null ? [] : array_values((array) unpack('e*', substr($layer->bytes, $layer->stride() * $t, $layer->stride() * $some)));
            $width = $layer->width ?? 0;
            $parts = [];
            foreach (Packing::ofLongs(substr($skin->materials, 4 * $t, 4 * $some)) as $n => $material) {
                $factor = $factors[$material] ?? $factors[0];
                for ($i = 3 * $width * $n, $k = 0; $k < 3; $k++, $i += $width) {
                    foreach ($factor as $c => $part) {
                        $own = $colours[$i + $c] ?? 1.0;
                        $whole = 255 * $part * (is_float($own) ? $own : 1.0) + 0.5;
                        $parts[] = $whole < 0.0 ? 0 : ($whole > 255.0 ? 255 : (int) $whole);
                    }
                }
            }
            $bytes .= pack('C*', ...$parts);
        }

        return $bytes;
    }
}
