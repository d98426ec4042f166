<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Lineage\Draft;
use App\Lineage\History;
use App\Lineage\Lineage;
use App\Lineage\WorkedStep;
use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Meshes\StoreAhead;
use App\Models\Piece;
use App\Models\Run;
use App\Models\Upload;
use Isotome\Exception\UnreadableMesh;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadAlready;
use Isotome\Format\Units;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Kinds;
use Isotome\Operation\Names;
use Isotome\Operation\Palette;
use Isotome\Operation\Piece as CorePiece;

/**
 * Reads accepted files and stores them as the project's stock: a piece a file, or a piece a part when a file holds several. Into a project that has pieces already they come beside these, which
 * can be undone.
 */
final class BringIn extends LongWork
{
    /** What has Y up is turned so that Z is: X stays, Y becomes Z; exactly. */
    private const UPRIGHT = ['do' => 'turn', 'about' => [1, 0, 0], 'degrees' => 90, 'through' => [0, 0, 0]];

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
        $prepared = $drafts = [];
        $known = array_fill_keys($run->project->pieces()->pluck('name')->all(), true);
        $first = $run->project->pieces()->count();
        $last = (int) $run->project->pieces()->max('place');
        $isYUp = (bool) ($run->settings['y_up'] ?? false);
        foreach ($uploads as $n => $upload) {
            $this->report('reading '.$upload->file, 0.9 * ($n + 0.1) / count($uploads));
            $meshes = ReadAlready::read($upload->readPath()) ?? self::read($upload, Units::from($run->project->units));
            $this->report('measuring', 0.9 * ($n + 0.5) / count($uploads));
            $base = count($uploads) === 1 ? (string) $run->settings['piece'] : self::name(pathinfo($upload->file, PATHINFO_FILENAME));
            foreach ($meshes as $part => $mesh) {
                $plain = $name = $part === '' ? $base : self::name((string) $part);
                for ($k = 2; isset($prepared[$name]) || isset($known[$name]); $k++) {
                    $name = "$plain$k";
                }
                $prepared[$name] = $ahead->put(PreparedMesh::of($mesh));
                if ($isYUp) {
                    $place = count($drafts);
                    $drafts[$name] = Draft::brought(new CorePiece((string) $name, $mesh, null, 0, Palette::colour($first + $place), $prepared[$name]->watertight), $prepared[$name], $last + 1 + $place);
                }
            }
        }
        $upright = $first === 0 ? self::UPRIGHT : [...self::UPRIGHT, 'of' => array_map(strval(...), array_keys($drafts))];
        $turned = $isYUp ? WorkedStep::of(Kinds::read($upright, 'step'), 1 + (int) $run->project->steps()->max('number'), array_values($drafts), $first, new MeshStore, $ahead, fn (string $phase, float $share) => $this->report($phase, 0.9 + 0.02 * $share)) : null;
        $this->report('storing', 0.92);
        $ahead->flush();

        return function () use ($run, $uploads, $prepared, $drafts, $turned, $first, $last): string {
            if ($first > 0) {
                (new History)->remember($run->project, 'bringing in '.(count($uploads) === 1 ? $uploads[0]->file : count($uploads).' files'));
                (new Lineage)->keepFrom($run->project, array_map(strval(...), array_keys($prepared)));
            }
            $place = 0;
            $open = 0;
            foreach ($prepared as $name => $mesh) {
                $row = Piece::query()->create([
                    'project_id' => $run->project_id, 'name' => (string) $name, 'mesh_hash' => $mesh->hash, 'colour' => Palette::colour($first + $place), 'place' => $first === 0 ? $place : $last + 1 + $place,
                ]);
                if (isset($drafts[$name])) {
                    $drafts[$name]->row = $row->setRelation('mesh', $mesh);
                }
                $place++;
                $open += $mesh->watertight ? 0 : 1;
            }
            foreach ($uploads as $upload) {
                $upload->remove();
            }
            if ($turned !== null) {
                // Undo stands it as it was in the file; of what comes later, it goes with the file.
                $first > 0 ?: (new History)->remember($run->project, $turned->step->what());
                (new Lineage)->store($run->project, $turned);
                (new Lineage)->renumber($run->project);
            }
            $upright = $turned === null ? '' : ' and stood upright';
            if ($place > 1) {
                return "Brought in $place pieces".($turned === null ? '' : ' and stood them upright').', '.($open === 0 ? 'all watertight.' : "$open not watertight: mend them in the Check station before cutting.");
            }

            return $open === 0 ? "Brought in$upright, watertight." : "Brought in$upright".'; the mesh is not watertight, so some outlines may stay open when it is cut. Mend it in the Check station first.';
        };
    }

    /** @return array<string, Mesh> by name, or the one mesh under an empty name */
    private static function read(Upload $upload, Units $units): array
    {
        $read = MeshFile::read($upload->path(), $units);

        return $read->parts === [] ? ['' => $read->mesh] : $read->parts;
    }

    /** Letters after a hyphen mean a cut: a stock's own name has none at its end. */
    private static function name(string $given): string
    {
        return mb_strtolower(Names::file($given));
    }
}
