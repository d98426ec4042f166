<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/** Colours that a mesh carries, one a vertex, for formats that have no others: at a seam those of the first triangle of the skin there; white at vertices of new faces alone. */
final class VertexColours
{
    /** @return list<array{float, float, float, float}>|null as they are written, from 0 to 1, with alpha; null when the mesh carries none */
    public static function of(Mesh $mesh): ?array
    {
        $layer = $mesh->skin->layers[Skin::COLOUR] ?? null;
        if ($layer === null) {
            return null;
        }
        $colours = array_fill(0, $mesh->vertexCount(), [1.0, 1.0, 1.0, 1.0]);
        $known = [];
        foreach ($mesh->tags as $t => $tag) {
            $values = null;
            for ($k = 0; $tag <= 0 && $k < 3; $k++) {
                $v = $mesh->corners[3 * $t + $k];
                if (! isset($known[$v])) {
                    $known[$v] = true;
                    $values ??= $layer->at($t);
                    $colours[$v] = [Colours::written($values[4 * $k]), Colours::written($values[4 * $k + 1]), Colours::written($values[4 * $k + 2]), max(0.0, min(1.0, $values[4 * $k + 3]))];
                }
            }
        }

        return array_values($colours);
    }
}
