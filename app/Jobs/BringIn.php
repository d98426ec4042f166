<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Upload;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\StlReader;
use Isotome\Format\Units;
use Isotome\Recipe\Palette;

/** Reads an accepted file and stores it as the project's stock. */
final class BringIn extends LongWork
{
    protected function work(Run $run): \Closure
    {
        $upload = Upload::query()->find($run->settings['upload'] ?? '');
        if ($upload === null || ! is_file($upload->path())) {
            throw new UnreadableMesh('The file that was brought in is not there any more; bring it in again.');
        }
        $this->report($run, 'reading '.$upload->file, 0.1);
        $mesh = StlReader::read($upload->path(), Units::from($run->project->units))->mesh;
        $this->report($run, 'measuring', 0.5);
        $mesh = PreparedMesh::of($mesh);

        return function () use ($run, $upload, $mesh): string {
            $stored = (new MeshStore)->put($mesh);
            Piece::query()->create([
                'project_id' => $run->project_id, 'name' => $run->settings['piece'] ?? 'stock', 'mesh_hash' => $stored->hash,
                'colour' => Palette::colour(0), 'place' => 0,
            ]);
            $path = $upload->path();
            $upload->delete();
            @unlink($path);

            return $stored->watertight ? 'Brought in, watertight.' : 'Brought in; the mesh is not watertight, so some outlines may stay open when it is cut.';
        };
    }
}
