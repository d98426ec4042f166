<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Illuminate\Support\Facades\DB;
use Isotome\Check\EdgeCheck;
use Isotome\Cut\Plane;
use Isotome\Measure\Box;
use Isotome\Measure\Volume;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use PDO;

/**
 * Meshes in the database, by content: the same mesh is stored once, whatever project it is in.
 */
final class MeshStore
{
    private const ROWS = 64;

    /** Stores a mesh, inside the caller's transaction if there is one. */
    public function put(Mesh $mesh): StoredMesh
    {
        $hash = Packing::hash($mesh);
        $known = StoredMesh::query()->find($hash);
        if ($known !== null) {
            return $known;
        }
        $box = Box::of($mesh);
        $measures = Volume::measure($mesh);
        $edges = EdgeCheck::of($mesh);

        return DB::transaction(function () use ($mesh, $hash, $box, $measures, $edges): StoredMesh {
            $stored = StoredMesh::query()->create([
                'hash' => $hash,
                'triangles' => $mesh->triangleCount(),
                'vertices' => $mesh->vertexCount(),
                'shells' => Bodies::shellCount($mesh),
                'watertight' => $edges->isWatertight(),
                'faults' => ['open_edges' => $edges->openEdges, 'nonmanifold_edges' => $edges->nonmanifoldEdges, 'flipped_edges' => $edges->flippedEdges],
                'volume' => $measures->volume,
                'area' => $measures->area,
                'x0' => $box->min[0], 'x1' => $box->max[0], 'y0' => $box->min[1], 'y1' => $box->max[1], 'z0' => $box->min[2], 'z1' => $box->max[2],
                'cx' => $measures->centroid[0], 'cy' => $measures->centroid[1], 'cz' => $measures->centroid[2],
            ]);
            $rows = [];
            foreach (Blocks::of($mesh) as ['box' => $sides, 'payload' => $payload]) {
                $rows[] = [$hash, ...$sides, $payload];
                if (count($rows) === self::ROWS) {
                    $this->insert($rows);
                    $rows = [];
                }
            }
            $this->insert($rows);

            return $stored;
        });
    }

    public function get(StoredMesh $stored): Mesh
    {
        $rows = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)->orderBy('id')->select('payload')->cursor();

        return Blocks::whole($this->payloads($rows), $stored->vertices, $stored->triangles);
    }

    /** The part of a mesh that holds every triangle touched by the plane. */
    public function touching(StoredMesh $stored, Plane $plane): Mesh
    {
        // Half the distance that the box reaches along the normal, against the distance of its middle from the plane. The
        // margin is wider than the rounding of this sum.
        $margin = 1e-12 * (1 + $stored->extent() + abs($plane->offset));
        $ids = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)
            ->whereRaw(
                'abs(? * (x0 + x1) + ? * (y0 + y1) + ? * (z0 + z1) - ?) <= ? * (x1 - x0) + ? * (y1 - y0) + ? * (z1 - z0) + ?',
                [$plane->nx, $plane->ny, $plane->nz, 2 * $plane->offset, abs($plane->nx), abs($plane->ny), abs($plane->nz), 2 * $margin],
            )
            ->pluck('id')->all();
        $payloads = [];
        foreach (array_chunk($ids, 500) as $some) {
            $rows = DB::table('mesh_blocks')->whereIn('id', $some)->orderBy('id')->select('payload')->cursor();
            foreach ($this->payloads($rows) as $payload) {
                $payloads[] = $payload;
            }
        }

        return Blocks::part($payloads);
    }

    /** Removes meshes that no piece uses. */
    public function sweep(): void
    {
        StoredMesh::query()->whereNotIn('hash', DB::table('pieces')->select('mesh_hash'))->delete();
    }

    /**
     * @param  iterable<\stdClass>  $rows
     * @return iterable<string>
     */
    private function payloads(iterable $rows): iterable
    {
        foreach ($rows as $row) {
            $payload = $row->payload;
            yield is_resource($payload) ? (string) stream_get_contents($payload) : (string) $payload;
        }
    }

    /** @param  list<array{string, float, float, float, float, float, float, string}>  $rows */
    private function insert(array $rows): void
    {
        if ($rows === []) {
            return;
        }
        $places = implode(',', array_fill(0, count($rows), '(?,?,?,?,?,?,?,?)'));
        $statement = DB::connection()->getPdo()->prepare("insert into mesh_blocks (mesh_hash, x0, x1, y0, y1, z0, z1, payload) values $places");
        $n = 1;
        foreach ($rows as $row) {
            foreach ($row as $value) {
                // Floats are bound as numbers by their shortest exact decimal; payloads as binary.
                $statement->bindValue($n, is_float($value) ? var_export($value, true) : $value, $n % 8 === 0 ? PDO::PARAM_LOB : PDO::PARAM_STR);
                $n++;
            }
        }
        $statement->execute();
    }
}
