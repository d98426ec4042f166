<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\Insides;
use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Collection;
use Isotome\Operation\Manifest;
use Isotome\Operation\Names;
use Isotome\Operation\Piece as CorePiece;

/** Pieces in files of their own or one for all, with manifest.json, in one zip. */
final readonly class TakenOut extends Question
{
    /** Triangles and pieces up to which it takes less than a blink. */
    private const SHORT = 20_000;

    private const FEW = 20;

    /**
     * @param  Collection<int, Piece>  $pieces  with their meshes, parents and makers
     * @param  string  $as  format of the files, by its ending
     * @param  float|null  $density  g/cm³
     */
    public static function of(Project $project, Collection $pieces, string $as, bool $together, ?float $density): self
    {
        $listed = $taken = [];
        foreach ($pieces as $piece) {
            // Two pieces that a person calls the same stay two.
            $called = $piece->title ?? $piece->name;
            for ($name = $called, $n = 2; isset($taken[mb_strtolower($name)]); $n++) {
                $name = "$called $n";
            }
            $taken[mb_strtolower($name)] = true;
            $listed[] = [
                'name' => $name, 'known' => $piece->name, 'from' => $piece->madeOf(), 'step' => $piece->maker->number ?? 0, 'colour' => $piece->colour,
                'mesh' => $piece->mesh_hash, 'triangles' => $piece->mesh->triangles, 'bytes' => $piece->mesh->bytes, 'watertight' => $piece->mesh->watertight,
            ];
        }

        return new self([
            'name' => Names::file($project->name), 'as' => $as, 'together' => $together, 'density' => $density, 'inside' => $project->inside, 'recipe' => self::recipe($project),
            'input' => ['file' => $project->file, 'units' => $project->units], 'pieces' => $listed,
            'steps' => array_values($project->steps()->get()->map(static fn (Step $step): array => ['do' => $step->settings['do'], ...$step->report])->all()),
        ]);
    }

    /** @return array<string, mixed> the steps as a recipe: running it on the same stock gives the same pieces */
    public static function recipe(Project $project): array
    {
        return ['isotome_recipe' => 1, 'units' => 'mm', 'steps' => array_values($project->steps()->get()->map(static fn (Step $step): array => $step->settings)->all())];
    }

    public function doing(): string
    {
        return 'writing files';
    }

    public function isShort(): bool
    {
        return count($this->content['pieces']) <= self::FEW && array_sum(array_column($this->content['pieces'], 'triangles')) <= self::SHORT;
    }

    public function meshes(): array
    {
        return array_values(array_unique(array_column($this->content['pieces'], 'mesh')));
    }

    /** In files of their own, in the archive, and where it is kept. */
    public function room(): int
    {
        return 5 * array_sum(array_column($this->content['pieces'], 'bytes'));
    }

    public function answer(Closure $progress, string $path): string
    {
        $files = new Filesystem;
        $folder = "$path.files";
        $files->ensureDirectoryExists($folder, 0700);
        ['name' => $name, 'as' => $as, 'recipe' => $recipe, 'input' => $input, 'steps' => $steps, 'density' => $density] = $this->content;
        $inside = Insides::look($this->content['inside'] ?? null);
        try {
            $pieces = $this->pieces(static fn (float $share) => $progress(0.8 * $share));
            if ($this->content['together']) {
                Manifest::writeTogether($folder, $recipe, $input, $pieces, $steps, "$name.$as", $density, $inside);
            } else {
                Manifest::write($folder, $recipe, $input, $pieces, $steps, $as, $density, $inside);
            }
            Zipped::folder($folder, $path, static fn (float $share) => $progress(0.8 + 0.2 * $share));
        } finally {
            $files->deleteDirectory($folder);
        }

        return "$name.zip";
    }

    /**
     * @param  Closure(float): void  $progress
     * @return iterable<CorePiece> one mesh in memory at a time
     */
    private function pieces(Closure $progress): iterable
    {
        $store = new MeshStore;
        $all = count($this->content['pieces']);
        foreach ($this->content['pieces'] as $n => $piece) {
            $progress($n / $all);
            $mesh = $store->dressed(StoredMesh::query()->findOrFail($piece['mesh']));
            yield new CorePiece($piece['name'], $mesh, $piece['from'][0] ?? null, $piece['step'], $piece['colour'], $piece['watertight'], $piece['known'], array_slice($piece['from'], 1));
        }
        $progress(1.0);
    }
}
