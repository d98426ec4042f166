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
        foreach (array_keys($skin->looks->materials) as $n) {
            $factors[] = array_slice($skin->looks->colour($n), 0, 3);
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
