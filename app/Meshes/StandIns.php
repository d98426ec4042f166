<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Closure;
use Isotome\Cells\StandIn;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/** What stands in for large meshes while cells are previewed: worked out once a mesh, and kept. */
final class StandIns
{
    public function __construct(private readonly MeshStore $store)
    {
    }

    public function of(StoredMesh $stored): StandIn
    {
        return $this->kept($stored, 'stand-in', StandIn::of(...));
    }

    /** A rougher one: see StandIn::rough. */
    public function rough(StoredMesh $stored): StandIn
    {
        return $this->kept($stored, 'rough-stand-in', StandIn::rough(...));
    }

    /** @param  Closure(Mesh): StandIn  $make */
    private function kept(StoredMesh $stored, string $kind, Closure $make): StandIn
    {
        $key = $kind.'-'.StandIn::VERSION.'-'.$stored->hash;
        $kept = Kept::get($key);
        if (is_array($kept) && is_string($kept['xyz'] ?? null)) {
            /** @var list<float> $xyz */
            $xyz = array_values((array) unpack('e*', $kept['xyz']));
            /** @var list<int> $corners */
            $corners = array_values((array) unpack('V*', $kept['corners']));
            $box = Box::of([$stored->x0, $stored->y0, $stored->z0, $stored->x1, $stored->y1, $stored->z1]);

            return new StandIn(Mesh::of($xyz, $corners), $box, (float) $kept['volume'], false);
        }
        $standIn = $make($this->store->get($stored));
        if (! $standIn->isItself) {
            Kept::put($key, ['xyz' => pack('e*', ...$standIn->mesh->xyz), 'corners' => pack('V*', ...$standIn->mesh->corners), 'volume' => $standIn->volume]);
        }

        return $standIn;
    }
}
