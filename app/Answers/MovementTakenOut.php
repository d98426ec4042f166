<?php

declare(strict_types=1);

namespace App\Answers;

use App\Meshes\Insides;
use App\Meshes\MeshStore;
use App\Models\Mesh as StoredMesh;
use App\Models\Project;
use Closure;
use Illuminate\Filesystem\Filesystem;
use Isotome\Exception\BadRecipe;
use Isotome\Operation\MovementFiles;
use Isotome\Operation\Names;

/** A movement as a file: animated, as a table of poses, or as the pieces are at one frame of it. */
final readonly class MovementTakenOut extends Question
{
    /** @param  string  $as  glb, json, csv, still.glb or still.obj */
    public static function of(Project $project, HowItMoves $moves, string $as, int $frame): self
    {
        $frames = $moves->movement()->frames;
        if (str_starts_with($as, 'still') && $frame >= $frames) {
            throw new BadRecipe('There is no frame '.number_format($frame).'; the last one is '.number_format($frames - 1).'.');
        }

        return new self([
            'moves' => $moves->content, 'as' => $as, 'frame' => str_starts_with($as, 'still') ? $frame : null, 'name' => Names::file($project->name), 'inside' => $project->inside,
            'colours' => $project->pieces()->whereNull('spent_by')->pluck('colour', 'name')->all(),
        ]);
    }

    public function doing(): string
    {
        return 'writing the movement';
    }

    public function isShort(): bool
    {
        return false;
    }

    public function meshes(): array
    {
        return $this->moves()->meshes();
    }

    public function room(): int
    {
        return 200 * $this->content['moves']['triangles'] + 600 * $this->content['moves']['poses'];
    }

    private function moves(): HowItMoves
    {
        return new HowItMoves($this->content['moves']);
    }

    public function answer(Closure $progress, string $path): string
    {
        ['as' => $as, 'frame' => $frame, 'name' => $name] = $this->content;
        $poses = $this->moves()->poses(static fn (float $share) => $progress(0.6 * $share));
        $ending = str_replace('still.', '', $as);
        $called = $frame === null ? $name : sprintf('%s-frame-%04d', $name, $frame);
        // Writers go by the ending.
        $files = new Filesystem;
        $folder = "$path.files";
        $files->ensureDirectoryExists($folder, 0700);
        $file = "$folder/$called.$ending";
        try {
            match ($as) {
                'json' => MovementFiles::json($poses, $file),
                'csv' => MovementFiles::csv($poses, $file),
                'glb' => MovementFiles::animated($this->dressed(), $poses, $file, Insides::look($this->content['inside'] ?? null), static fn (float $share) => $progress(0.6 + 0.3 * $share)),
                default => MovementFiles::still($this->dressed(), $poses, (int) $frame, $file, Insides::look($this->content['inside'] ?? null)),
            };
            // An OBJ has its materials beside it.
            if ($ending === 'obj') {
                Zipped::folder($folder, $path, static fn (float $share) => $progress(0.9 + 0.1 * $share));

                return "$called.zip";
            }
            $files->move($file, $path);
        } finally {
            $files->deleteDirectory($folder);
        }

        return "$called.$ending";
    }

    /** @return list<array{name: string, mesh: \Isotome\Mesh\Mesh, colour: string}> */
    private function dressed(): array
    {
        $store = new MeshStore;

        return array_map(fn (array $piece): array => [
            'name' => $piece['name'], 'mesh' => $store->dressed(StoredMesh::query()->findOrFail($piece['mesh'])), 'colour' => $this->content['colours'][$piece['name']] ?? '#888888',
        ], $this->content['moves']['pieces']);
    }
}
