<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Models\Printer;
use App\Plates\Layout;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Mesh\Mesh;
use Isotome\Plan\Wishes;
use Isotome\Plate\Profile;

/**
 * A question about pieces as they lie on plates.
 *
 * @phpstan-import-type LaidPlate from Layout
 */
abstract readonly class AboutLayout extends Question
{
    /**
     * @return array{profile: array{bed: list<float>, margin: float, spacing: float, nozzle: float, layer: float}, plates: list<LaidPlate>}
     *
     * @throws BadRecipe
     */
    final protected static function about(Layout $layout, Printer $printer, float $margin, float $spacing): array
    {
        // What is wrong with them is said at once.
        $space = Wishes::of($printer->space()->sides(), $margin)->space;
        new Profile($space, $margin, $spacing, $printer->nozzle, $printer->layer);

        return ['profile' => ['bed' => $printer->space()->sides(), 'margin' => $margin, 'spacing' => $spacing, 'nozzle' => $printer->nozzle, 'layer' => $printer->layer], 'plates' => $layout->plates];
    }

    /**
     * @param  Collection<int, Piece>  $living  with their meshes
     * @return int triangles that lie on the plates
     */
    final protected static function triangles(Layout $layout, Collection $living): int
    {
        $of = $living->mapWithKeys(static fn (Piece $piece): array => [$piece->name => $piece->mesh->triangles])->all();
        $sum = 0;
        foreach ($layout->plates as $plate) {
            $sum += array_sum(array_map(static fn (array $one): int => $of[$one['piece']] ?? 0, $plate['pieces']));
        }

        return $sum;
    }

    final protected function profile(): Profile
    {
        ['bed' => $bed, 'margin' => $margin, 'spacing' => $spacing, 'nozzle' => $nozzle, 'layer' => $layer] = $this->content['profile'];

        return new Profile(BuildSpace::of($bed)->within($margin), $margin, $spacing, $nozzle, $layer);
    }

    public function meshes(): array
    {
        $hashes = [];
        foreach ($this->content['plates'] as $plate) {
            foreach ($plate['pieces'] as $one) {
                $hashes[$one['mesh']] = true;
            }
        }

        return array_keys($hashes);
    }

    /**
     * @param  bool  $isDressed  with what the meshes carry
     * @return array<string, Mesh> by hash
     */
    final protected function load(bool $isDressed = false): array
    {
        $store = new MeshStore;
        $meshes = [];
        foreach ($this->meshes() as $hash) {
            $row = StoredMesh::query()->findOrFail($hash);
            $meshes[$hash] = $isDressed ? $store->dressed($row) : $store->get($row);
        }

        return $meshes;
    }

    /**
     * A plate as the simulated printer takes it.
     *
     * @param  LaidPlate  $plate
     * @param  array<string, Mesh>  $meshes
     * @return list<array{name: string, mesh: Mesh, map: list<float>}>
     */
    final protected static function laid(array $plate, array $meshes): array
    {
        return array_map(static fn (array $one): array => ['name' => Layout::label($one['piece'], $one['copy']), 'mesh' => $meshes[$one['mesh']], 'map' => $one['pose']], $plate['pieces']);
    }
}
