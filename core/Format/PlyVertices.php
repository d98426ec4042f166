<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Skin;

/** What a mesh carries as properties of PLY vertices: colours in 8 bits, normals. At a seam a vertex has what the first of its triangles has there. */
final class PlyVertices
{
    /** @return array{string, list<string>} lines of the header, and the bytes of each vertex; nothing when nothing is carried */
    public static function of(Mesh $mesh): array
    {
        $colour = $mesh->skin->layers[Skin::COLOUR] ?? null;
        $normal = $mesh->skin->layers[Skin::NORMAL] ?? null;
        if ($colour === null && $normal === null) {
            return ['', []];
        }
        $header = $normal === null ? '' : "property float nx\nproperty float ny\nproperty float nz\n";
        $header .= $colour === null ? '' : "property uchar red\nproperty uchar green\nproperty uchar blue\nproperty uchar alpha\n";
        // A vertex of new faces alone is white and has no normal.
        $vertices = array_fill(0, $mesh->vertexCount(), ($normal === null ? '' : pack('g3', 0.0, 0.0, 0.0)).($colour === null ? '' : "\xff\xff\xff\xff"));
        $known = [];
        foreach ($mesh->tags as $t => $tag) {
            if ($tag > 0) {
                continue;
            }
            $colours = $normals = null;
            for ($k = 0; $k < 3; $k++) {
                $v = $mesh->corners[3 * $t + $k];
                if (isset($known[$v])) {
                    continue;
                }
                $known[$v] = true;
                $normals ??= $normal?->at($t);
                $colours ??= $colour?->at($t);
                $bytes = $normals === null ? '' : pack('g3', $normals[3 * $k], $normals[3 * $k + 1], $normals[3 * $k + 2]);
                for ($c = 0; $colours !== null && $c < 4; $c++) {
                    $part = $colours[4 * $k + $c];
                    $bytes .= chr((int) round(255 * ($c === 3 ? max(0.0, min(1.0, $part)) : Colours::written($part))));
                }
                $vertices[$v] = $bytes;
            }
        }

        return [$header, array_values($vertices)];
    }
}
