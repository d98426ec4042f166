<?php

declare(strict_types=1);

namespace App\Meshes;

use App\Models\Mesh as StoredMesh;
use Isotome\Mirror\SeamGap;

/** The rims of an open mesh, for questions that are asked while a plane is moved: found once a mesh, and kept. */
final class RimsOfMesh
{
    public function __construct(private readonly MeshStore $store)
    {
    }

    /** @return list<list<array{float, float, float}>> as SeamGap::rims */
    public function of(StoredMesh $stored): array
    {
        /** @var list<list<array{float, float, float}>> */
        return Kept::remember("rims-1-$stored->hash", fn (): array => SeamGap::rims($this->store->get($stored)));
    }
}
