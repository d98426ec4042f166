<?php

declare(strict_types=1);

namespace Isotome\Cells;

/** The lines along which cells divide a body, for a picture of what is to come. */
final class CellLines
{
    /** @return array{list<float>, list<float>} lines on the skin, and edges of cells within the body, 6 numbers each, mm */
    public static function of(Overlay $overlay): array
    {
        $skin = $inner = [];
        $xyz = $overlay->xyz;
        foreach ($overlay->crossings->chords as $chords) {
            foreach ($chords as [$p, $q]) {
                array_push($skin, $xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2], $xyz[3 * $q], $xyz[3 * $q + 1], $xyz[3 * $q + 2]);
            }
        }
        $seen = [];
        foreach ($overlay->caps as $edges) {
            foreach ($edges as [$p, $q]) {
                // Rims of facets are met twice or more, chords once.
                $edge = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                $seen[$edge] = ($seen[$edge] ?? 0) + 1;
                if ($seen[$edge] === 2) {
                    array_push($inner, $xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2], $xyz[3 * $q], $xyz[3 * $q + 1], $xyz[3 * $q + 2]);
                }
            }
        }

        return [$skin, $inner];
    }
}
