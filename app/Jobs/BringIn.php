<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Meshes\PreparedMesh;
use App\Meshes\StoreAhead;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Upload;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\MeshFile;
use Isotome\Format\Units;
use Isotome\Operation\Names;
use Isotome\Operation\Palette;

/** Reads accepted files and stores them as the project's stock: a piece a file, or a piece a part when a file holds several. */
final class BringIn extends LongWork
{
    protected function work(Run $run, StoreAhead $ahead): \Closure
    {
        $uploads = [];
        foreach ((array) $run->settings['uploads'] as $id) {
            $upload = Upload::query()->find($id);
            if ($upload === null || ! is_file($upload->path())) {
                throw new UnreadableMesh('A file that was brought in is not there any more; bring it in again.');
            }
            $uploads[] = $upload;
        }
        $prepared = [];
        foreach ($uploads as $n => $upload) {
            $this->report('reading '.$upload->file, 0.9 * ($n + 0.1) / count($uploads));
            $read = MeshFile::read($upload->path(), Units::from($run->project->units));
            $this->report('measuring', 0.9 * ($n + 0.5) / count($uploads));
            $base = count($uploads) === 1 ? (string) $run->settings['piece'] : self::name(pathinfo($upload->file, PATHINFO_FILENAME));
            foreach ($read->parts === [] ? [$base => $read->mesh] : $read->parts as $part => $mesh) {
                $plain = $name = $read->parts === [] ? $base : self::name((string) $part);
                for ($k = 2; isset($prepared[$name]); $k++) {
                    $name = "$plain$k";
                }
                $prepared[$name] = $ahead->put(PreparedMesh::of($mesh));
            }
        }
        $this->report('storing', 0.92);
        $ahead->flush();

        return function () use ($run, $uploads, $prepared): string {
            $place = 0;
            $open = 0;
            foreach ($prepared as $name => $mesh) {
                Piece::query()->create([
                    'project_id' => $run->project_id, 'name' => (string) $name, 'mesh_hash' => $mesh->hash, 'colour' => Palette::colour($place), 'place' => $place,
                ]);
                $place++;
                $open += $mesh->watertight ? 0 : 1;
            }
            foreach ($uploads as $upload) {
                $path = $upload->path();
                $upload->delete();
                @unlink($path);
            }
            if ($place > 1) {
                return "Brought in $place pieces, ".($open === 0 ? 'all watertight.' : "$open not watertight: mend them in the Check station before cutting.");
            }

            return $open === 0 ? 'Brought in, watertight.' : 'Brought in; the mesh is not watertight, so some outlines may stay open when it is cut. Mend it in the Check station first.';
        };
    }

    /** Letters after a hyphen mean a cut: a stock's own name has none at its end. */
    private static function name(string $given): string
    {
        return mb_strtolower(Names::file($given));
    }
}
