<?php

declare(strict_types=1);

namespace Database\Seeders;

use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Models\Piece;
use App\Models\Project;
use Closure;
use Demo\Heron;
use Demo\Millstone;
use Illuminate\Database\Seeder;
use Illuminate\Support\Facades\DB;
use Isotome\Mesh\Mesh;
use Isotome\Recipe\Palette;

/** The shelf of the Millrace Museum's workshop, as it stands at the first start. */
final class DatabaseSeeder extends Seeder
{
    public function run(MeshStore $store): void
    {
        $this->project($store, 'Millstone', 'The runner stone, for the model of the grinding floor. Printed in sectors, then glued.', Millstone::mesh(...));
        $this->project($store, 'Heron', 'Statue for the mill pond, 420 mm tall: the printer reaches 200 mm.', Heron::mesh(...));
    }

    /** @param  Closure(): Mesh  $make */
    private function project(MeshStore $store, string $name, string $note, Closure $make): void
    {
        $file = mb_strtolower($name).'.stl';
        // A start that was interrupted may have made it already.
        if (Project::query()->where('name', $name)->where('file', $file)->exists()) {
            return;
        }
        $prepared = PreparedMesh::of($make());
        DB::transaction(function () use ($store, $name, $note, $file, $prepared): void {
            $project = Project::query()->create(['name' => $name, 'file' => $file, 'units' => 'mm', 'note' => $note]);
            Piece::query()->create([
                'project_id' => $project->id, 'name' => mb_strtolower($name), 'mesh_hash' => $store->put($prepared)->hash, 'colour' => Palette::colour(0), 'place' => 0,
            ]);
        });
    }
}
