<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Models\Project;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Fit\BuildSpace;
use Isotome\Operation\Names;
use Isotome\Operation\PlateFiles;
use Isotome\Plan\Wishes;
use Isotome\Plate\Plates;

/** Pieces laid down and packed on the plates of a printer: told, or as files in one zip. */
final readonly class OnPlates extends Question
{
    /** Pieces and triangles up to which memory and patience suffice. */
    private const MOST_PIECES = 1000;

    private const LARGEST = 4_000_000;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes
     * @param  string|null  $as  format of the files, 3mf or stl; null to have the plates told
     *
     * @throws BadRecipe
     */
    public static function of(Project $project, Collection $pieces, BuildSpace $bed, float $margin, float $spacing, bool $isTurned, ?string $as): self
    {
        if ($pieces->isEmpty()) {
            throw new BadRecipe('There is no piece to put on a plate.');
        }
        if ($pieces->count() > self::MOST_PIECES || $pieces->sum(static fn (Piece $piece): int => $piece->mesh->triangles) > self::LARGEST) {
            throw new BadRecipe('More than '.number_format(self::MOST_PIECES).' pieces, or than '.number_format(self::LARGEST).' triangles, are too many for one go; pick some of them.');
        }
        $open = $pieces->first(static fn (Piece $piece): bool => ! $piece->mesh->watertight);
        if ($open !== null) {
            throw new BadRecipe(($open->title ?? Names::title($open->name)).' is not watertight, so nobody can say what it weighs or how it stands; mend it at the Check station first, or pick others.');
        }
        // What is wrong with them is said at once.
        $space = Wishes::of([$bed->x, $bed->y, $bed->z], $margin)->space;
        if (! is_finite($spacing) || $spacing < 0.0 || $spacing > max($space->x, $space->y)) {
            throw new BadRecipe('The spacing is no length from 0 mm to the width of the bed; type it again.');
        }

        return new self([
            'name' => Names::file($project->name), 'bed' => [$bed->x, $bed->y, $bed->z], 'margin' => $margin, 'spacing' => $spacing, 'turned' => $isTurned, 'as' => $as,
            'pieces' => array_values($pieces->map(static fn (Piece $piece): array => ['name' => $piece->name, 'mesh' => $piece->mesh_hash, 'colour' => $piece->colour, 'bytes' => $piece->mesh->bytes])->all()),
        ]);
    }

    public function doing(): string
    {
        return 'packing plates';
    }

    public function isShort(): bool
    {
        return false;
    }

    public function meshes(): array
    {
        return array_values(array_unique(array_column($this->content['pieces'], 'mesh')));
    }

    /** In files of their own, in the archive, and where it is kept. */
    public function room(): int
    {
        return $this->content['as'] === null ? 0 : 5 * array_sum(array_column($this->content['pieces'], 'bytes'));
    }

    public function answer(Closure $progress, string $path): ?string
    {
        ['bed' => $bed, 'margin' => $margin, 'spacing' => $spacing, 'turned' => $isTurned, 'as' => $as] = $this->content;
        $store = new MeshStore;
        $pieces = $colours = [];
        foreach ($this->content['pieces'] as $n => $piece) {
            $progress(0.2 * $n / count($this->content['pieces']));
            $pieces[$piece['name']] = $as === null ? $store->get(StoredMesh::query()->findOrFail($piece['mesh'])) : $store->dressed(StoredMesh::query()->findOrFail($piece['mesh']));
            $colours[$piece['name']] = $piece['colour'];
        }
        $progress(0.2);
        if ($pieces === []) {
            throw new BadRecipe('There is no piece to put on a plate.');
        }
        $space = Wishes::of($bed, $margin)->space;
        $plates = Plates::of($pieces, $space, $spacing, $isTurned);
        $progress(0.8);
        if ($as === null) {
            $names = array_keys($pieces);
            file_put_contents($path, json_encode(['bed' => $bed, 'plates' => array_map(static fn (array $plate): array => array_map(static fn (array $one): array => [
                'name' => (string) $names[$one['piece']], 'pose' => PlateFiles::pose($one['map'], $margin), 'stable' => $one['stable'],
            ], $plate), $plates->plates)], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION));

            return null;
        }
        $files = new Filesystem;
        $folder = "$path.files";
        $files->ensureDirectoryExists($folder, 0700);
        try {
            PlateFiles::write($folder, $plates, $pieces, $colours, $as, $space, $margin, $spacing);
            Zipped::folder($folder, $path, static fn (float $share) => $progress(0.9 + 0.1 * $share));
        } finally {
            $files->deleteDirectory($folder);
        }

        return $this->content['name'].'-plates.zip';
    }
}
