<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Illuminate\Support\Facades\DB;
use Isotome\Cut\Plane;
use Isotome\Mesh\Blocks;
use Isotome\Mesh\Mesh;
use PDO;

/**
 * Meshes in the database, by content: the same mesh is stored once, whatever project it is in.
 */
final class MeshStore
{
    private const ROWS = 64;

    /** Stores a mesh, inside the caller's transaction if there is one. */
    public function put(PreparedMesh $mesh): StoredMesh
    {
        $known = StoredMesh::query()->find($mesh->row['hash']);
        if ($known instanceof StoredMesh) {
            return $known;
        }

        return DB::transaction(function () use ($mesh): StoredMesh {
            $stored = StoredMesh::query()->create($mesh->row);
            foreach (array_chunk($mesh->blocks, self::ROWS) as $blocks) {
                $this->insert($stored->hash, $blocks);
            }

            return $stored;
        });
    }

    public function get(StoredMesh $stored): Mesh
    {
        $rows = DB::table('mesh_blocks')->where('mesh_hash', $stored->hash)->orderBy('id')->select('payload')->cursor();

        return Blocks::whole($this->payloads($rows), $stored->vertices, $stored->triangles);
    }

    /** The triangles of a mesh that the plane touches, or nearly. */
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

        return Blocks::touching($payloads, $plane, $stored->extent());
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

    /** @param  list<array{box: array{float, float, float, float, float, float}, payload: string}>  $blocks */
    private function insert(string $hash, array $blocks): void
    {
        $places = implode(',', array_fill(0, count($blocks), '(?,?,?,?,?,?,?,?)'));
        $statement = DB::connection()->getPdo()->prepare("insert into mesh_blocks (mesh_hash, x0, x1, y0, y1, z0, z1, payload) values $places");
        $n = 1;
        foreach ($blocks as ['box' => $box, 'payload' => $payload]) {
            $statement->bindValue($n++, $hash);
            foreach ($box as $side) {
                // As the shortest decimal that is exact.
                $statement->bindValue($n++, var_export($side, true));
            }
            $statement->bindValue($n++, $payload, PDO::PARAM_LOB);
        }
        $statement->execute();
    }
}
