<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Disk\Room;
use App\Http\Requests\ExportRequest;
use App\Meshes\MeshStore;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Step;
use App\Serving\SendsFile;
use Illuminate\Filesystem\Filesystem;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use Isotome\Operation\Manifest;
use Isotome\Operation\Names;
use Isotome\Operation\Piece as CorePiece;
use RuntimeException;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use ZipArchive;

final class DownloadController
{
    /** Living pieces, all or some, in files of their own or one for all, with manifest.json, in one zip. */
    public function pieces(ExportRequest $request, Project $project, MeshStore $store, Filesystem $files, Room $room): Response|BinaryFileResponse
    {
        set_time_limit(600);
        $folder = storage_path('downloads/'.Str::ulid());
        $files->ensureDirectoryExists($folder, 0700);
        $name = Names::file($project->name);
        $asked = $request->pieces($project);
        // In files of their own, and in the archive.
        $room->demand(4 * $asked->sum(static fn (Piece $piece): int => $piece->mesh->bytes));
        try {
            $input = ['file' => $project->file, 'units' => $project->units];
            $steps = array_values($project->steps()->get()->map(static fn (Step $step): array => ['do' => $step->settings['do'], ...$step->report])->all());
            $pieces = $this->living($asked, $store);
            if ($request->isTogether()) {
                Manifest::writeTogether($folder, $this->steps($project), $input, $pieces, $steps, $name.'.'.$request->ending(), $request->density());
            } else {
                Manifest::write($folder, $this->steps($project), $input, $pieces, $steps, $request->ending(), $request->density());
            }
            $this->zip($folder, $files);
        } finally {
            $files->deleteDirectory($folder);
        }

        return SendsFile::as("$folder.zip", $name.'.zip', 'application/zip', $request);
    }

    /** The steps as a recipe: running it on the same stock gives the same pieces. */
    public function recipe(Project $project): JsonResponse
    {
        return response()->json($this->steps($project), 200, [
            'Content-Disposition' => 'attachment; filename="recipe.json"',
        ], JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION);
    }

    private function zip(string $folder, Filesystem $files): void
    {
        $zip = new ZipArchive;
        if ($zip->open("$folder.zip", ZipArchive::CREATE | ZipArchive::EXCL) !== true) {
            throw new RuntimeException('The zip could not be made; check that the data folder has room.');
        }
        foreach ($files->files($folder) as $file) {
            $zip->addFile($file->getPathname(), $file->getFilename());
            // Fast rather than small: coordinates hardly compress.
            $zip->setCompressionName($file->getFilename(), ZipArchive::CM_DEFLATE, 1);
        }
        if (! $zip->close()) {
            throw new RuntimeException('The zip could not be written to its end; check that the data folder has room.');
        }
    }

    /** @return array<string, mixed> */
    private function steps(Project $project): array
    {
        return [
            'isotome_recipe' => 1, 'units' => 'mm',
            'steps' => array_values($project->steps()->get()->map(static fn (Step $step): array => $step->settings)->all()),
        ];
    }

    /**
     * @param  iterable<Piece>  $pieces
     * @return iterable<CorePiece> one mesh in memory at a time
     */
    private function living(iterable $pieces, MeshStore $store): iterable
    {
        $taken = [];
        foreach ($pieces as $piece) {
            // Two pieces that a person calls the same stay two.
            $called = $piece->title ?? $piece->name;
            for ($name = $called, $n = 2; isset($taken[mb_strtolower($name)]); $n++) {
                $name = "$called $n";
            }
            $taken[mb_strtolower($name)] = true;
            $from = $piece->madeOf();
            yield new CorePiece($name, $store->get($piece->mesh), $from[0] ?? null, $piece->maker->number ?? 0, $piece->colour, $piece->mesh->watertight, $piece->name, array_slice($from, 1));
        }
    }
}
