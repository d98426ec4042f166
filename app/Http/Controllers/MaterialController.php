<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Meshes\MeshStore;
use App\Models\Mesh;
use Illuminate\Http\JsonResponse;
use Isotome\Exception\BadRecipe;
use Isotome\Format\Colours;
use Isotome\Format\Paint;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;
use Isotome\Mesh\SkinBytes;
use Isotome\Operation\Recipe;

/** The materials that came with a mesh, and the faces that have one of them. They never change, so the browser keeps them. */
final class MaterialController
{
    private const KEPT = ['Cache-Control' => 'private, max-age=31536000, immutable'];

    public function index(Mesh $mesh, MeshStore $store): JsonResponse
    {
        $skin = $store->skin($mesh);
        $counts = $skin === null ? [] : array_count_values(Packing::ofLongs($skin->materials));
        ksort($counts);
        $list = [];
        foreach ($counts as $number => $triangles) {
            if ($skin !== null && $number > 0) {
                $list[] = ['number' => $number - 1, 'name' => $skin->looks->name($number - 1), 'triangles' => $triangles, ...self::looks($skin, $number - 1), 'places' => Paint::hasPlaces($skin, $number - 1)];
            }
        }

        return response()->json($list, 200, self::KEPT);
    }

    public function faces(Mesh $mesh, int $material, MeshStore $store): JsonResponse
    {
        $skin = $store->skin($mesh);
        $faces = $skin === null ? [] : array_keys(Packing::ofLongs($skin->materials), $material + 1, true);
        if ($faces === []) {
            throw new BadRecipe("No face of this piece has material $material; choose one of its own.");
        }
        if (count($faces) > Recipe::MOST_FACES) {
            throw new BadRecipe(sprintf('%s faces have this material, and a cut can be limited to %s at most; simplify the mesh, or click the faces.', number_format(count($faces)), number_format(Recipe::MOST_FACES)));
        }

        return response()->json(['faces' => $faces], 200, self::KEPT);
    }

    /** @return array{colour: string, picture: string|null} its colour as it is written, and where the picture of its colour is */
    private static function looks(Skin $skin, int $material): array
    {
        $parts = array_map(static fn (float $part): int => (int) round(255 * Colours::written($part)), array_slice($skin->looks->colour($material), 0, 3));
        $index = $skin->looks->painted($material)['index'] ?? null;
        $picture = is_int($index) ? $skin->looks->textures[$index]['picture'] ?? null : null;

        return ['colour' => sprintf('#%02x%02x%02x', ...$parts), 'picture' => $picture === null ? null : 'pictures/'.SkinBytes::hashes($skin)[$picture]];
    }
}
