<?php

declare(strict_types=1);

namespace App\Answers;

use App\Models\Piece;
use App\Models\Printer;
use App\Models\Project;
use App\Plates\Layout;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Support\Collection;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\Names;
use Isotome\Operation\PlateFiles;

/** Plates as files in one zip, as they lie, with plates.json. */
final readonly class PlatesTakenOut extends AboutLayout
{
    /**
     * @param  Collection<int, Piece>  $living  with their meshes
     * @param  string  $as  3mf or stl
     *
     * @throws BadRecipe
     */
    public static function of(Project $project, Layout $layout, Collection $living, Printer $printer, float $margin, float $spacing, string $as): self
    {
        if ($layout->labels() === []) {
            throw new BadRecipe('There is nothing on the plates; pack the pieces first.');
        }
        $used = [];
        foreach ($layout->plates as $plate) {
            foreach ($plate['pieces'] as $one) {
                $used[$one['piece']] = ($used[$one['piece']] ?? 0) + 1;
            }
        }
        $some = $living->filter(static fn (Piece $piece): bool => isset($used[$piece->name]));

        return new self([
            ...self::about($layout, $printer, $margin, $spacing), 'name' => Names::file($project->name), 'as' => $as, 'colours' => $some->pluck('colour', 'name')->all(),
            'bytes' => $some->sum(static fn (Piece $piece): int => $used[$piece->name] * $piece->mesh->bytes),
        ]);
    }

    public function doing(): string
    {
        return 'writing plates';
    }

    public function isShort(): bool
    {
        return false;
    }

    /** In files of their own, in the archive, and where it is kept. */
    public function room(): int
    {
        return 5 * $this->content['bytes'];
    }

    public function answer(Closure $progress, string $path): string
    {
        $profile = $this->profile();
        $meshes = $this->load(isDressed: true);
        $progress(0.3);
        $pieces = [];
        $plates = array_map(static function (array $plate) use ($meshes, &$pieces): array {
            return array_map(static function (array $one) use ($meshes, &$pieces): array {
                $pieces[$one['piece']] = $meshes[$one['mesh']];

                return ['piece' => $one['piece'], 'name' => Layout::label($one['piece'], $one['copy']), 'pose' => $one['pose'], 'stable' => $one['stable']];
            }, $plate['pieces']);
        }, array_values(array_filter($this->content['plates'], static fn (array $plate): bool => $plate['pieces'] !== [])));
        if ($pieces === []) {
            throw new BadRecipe('There is nothing on the plates; pack the pieces first.');
        }
        $files = new Filesystem;
        $folder = "$path.files";
        $files->ensureDirectoryExists($folder, 0700);
        try {
            PlateFiles::write($folder, $plates, $pieces, $this->content['colours'], $this->content['as'], $profile->space, $profile->margin, $profile->spacing);
            Zipped::folder($folder, $path, static fn (float $share) => $progress(0.9 + 0.1 * $share));
        } finally {
            $files->deleteDirectory($folder);
        }

        return $this->content['name'].'-plates.zip';
    }
}
