<?php

declare(strict_types=1);

namespace Database\Seeders;

use App\Jobs\TakeSteps;
use App\Meshes\MeshStore;
use App\Meshes\PreparedMesh;
use App\Models\Piece;
use App\Models\Project;
use App\Models\Run;
use Closure;
use Demo\Cistern;
use Demo\ClayJar;
use Demo\Heron;
use Demo\MillFigure;
use Demo\Millstone;
use Demo\ScannedCrock;
use Demo\SignLettering;
use Demo\SluiceBeam;
use Demo\WheelBracket;
use Demo\WheelSilhouette;
use Illuminate\Database\Seeder;
use Illuminate\Support\Facades\DB;
use Isotome\Mesh\Mesh;
use Isotome\Operation\Names;
use Isotome\Operation\Palette;

/** The shelf of the Millrace Museum's workshop, as it stands at the first start. */
final class DatabaseSeeder extends Seeder
{
    private bool $told = false;

    public function run(MeshStore $store): void
    {
        $this->project($store, 'Museum sign', 'The wheel as a silhouette: a sheet without thickness, to be given one before it is printed.', WheelSilhouette::mesh(...));
        $this->project($store, 'Sign lettering', 'The museum\'s name for its sign: letters cut out of a sheet, each given a thickness.', SignLettering::mesh(...), SignLettering::steps());
        $this->project($store, 'Clay jar', 'The miller\'s storage jar, to be dropped in a film about the flood: shards with a pivot each. Painted.', ClayJar::painted(...), [], self::movement(60, [
            ['do' => 'drop', 'start' => 8, 'density' => 1.8, 'gravity' => 9.81, 'friction' => 0.6, 'bounce' => 0.1, 'glue' => 0.05, 'floor' => -600, 'speed' => [120, 0, 0], 'spin' => [0, 60, 0]],
        ]));
        $this->project($store, 'Half wheel bracket', 'Carries the axle of the water wheel. One half, to be mirrored; open along the middle.', WheelBracket::mesh(...));
        $this->project($store, 'Cistern', 'From the mill\'s roof: closed all round, with a tank and a drain chamber inside.', Cistern::mesh(...));
        $this->project($store, 'Flour crock', 'As the scanner gave it: holes, a wall inside, a knob that was never joined. Mend it first.', ScannedCrock::mesh(...));
        $this->project($store, 'Sluice beam', 'Lifting beam of the sluice gate, 640 mm long: to be cut into parts that the printer reaches.', SluiceBeam::mesh(...));
        $this->project($store, 'Millstone', 'The runner stone, for the model of the grinding floor. Printed in sectors, then glued.', Millstone::mesh(...));
        $this->project($store, 'Millstone fragment', 'A part of the bed stone, as the millrace gave it back: broken on two sides.', Millstone::mesh(...), [
            self::broken([30, -20, 0], [1, 0.25, 0.1], 7), self::broken([20, 30, 0], [-0.2, 1, -0.15], 8),
        ]);
        $this->project($store, 'Mill figure', 'The miller at the entrance, modelled in twelve parts that overlap: to be united before printing. The sack is open.', MillFigure::parts(...));
        $this->project($store, 'Heron', 'Statue for the mill pond, 420 mm tall: the printer reaches 200 mm. Coloured.', Heron::coloured(...), [], self::movement(80, [
            ['do' => 'wave', 'front' => 'plane', 'facing' => [0, 0, 1], 'along' => [0, 0, 1], 'start' => 0, 'length' => 45, 'width' => 30, 'softness' => 1, 'random' => 0, 'shift' => [0, 0, 60], 'about' => [0, 0, 1], 'degrees' => 30, 'scale' => 1, 'seed' => 1],
        ]));
    }

    /**
     * @param  list<float|int>  $through
     * @param  list<float|int>  $facing
     * @return array<string, mixed> a step
     */
    private static function broken(array $through, array $facing, int $seed): array
    {
        return [
            'do' => 'cut', 'blade' => ['kind' => 'flat', 'through' => $through, 'facing' => $facing], 'of' => ['*'], 'keep' => 'ahead',
            'grain' => ['height' => 7, 'size' => 45, 'finer' => ['height' => 1.5, 'size' => 9], 'edge_mm' => 3, 'seed' => $seed],
        ];
    }

    /**
     * @param  list<array<string, mixed>>  $layers
     * @return array<string, mixed>
     */
    private static function movement(int $frames, array $layers): array
    {
        return ['isotome_movement' => 1, 'fps' => 25, 'frames' => $frames, 'layers' => $layers];
    }

    /**
     * @param  Closure(): (Mesh|array<string, Mesh>)  $make  the stock, or several by name
     * @param  list<array<string, mixed>>  $steps  taken as soon as a worker is there
     * @param  array<string, mixed>|null  $movement
     */
    private function project(MeshStore $store, string $name, string $note, Closure $make, array $steps = [], ?array $movement = null): void
    {
        $file = mb_strtolower(Names::file($name));
        // Once ever: one that a person removed does not come back, and a later version's new ones come.
        if (DB::table('demo_made')->where('name', $name)->exists()) {
            return;
        }
        if (! $this->told) {
            $this->command?->getOutput()->writeln('Making the demo shelf');
            $this->told = true;
        }
        $made = $make();
        $prepared = array_map(PreparedMesh::of(...), is_array($made) ? $made : [$file => $made]);
        DB::transaction(static function () use ($store, $name, $note, $file, $prepared, $steps, $movement): void {
            DB::table('demo_made')->insert(['name' => $name]);
            $project = Project::query()->create(['name' => $name, 'file' => $file.'.stl', 'units' => 'mm', 'note' => $note, 'printer_id' => 1]);
            foreach (array_keys($prepared) as $place => $piece) {
                Piece::query()->create([
                    'project_id' => $project->id, 'name' => $piece, 'mesh_hash' => $store->put($prepared[$piece])->hash, 'colour' => Palette::colour($place), 'place' => $place,
                ]);
            }
            if ($movement !== null) {
                DB::table('movements')->insert(['project_id' => $project->id, 'version' => 1, 'movement' => json_encode($movement, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION)]);
            }
            if ($steps !== []) {
                Run::start($project, 'recipe', ['steps' => $steps, 'what' => 'the recipe'], TakeSteps::class);
            }
        });
    }
}
