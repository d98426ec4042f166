<?php

declare(strict_types=1);

namespace Isotome\Format;

use Isotome\Mesh\Mesh;

/** A mesh as read: welded by exact coordinates, in millimetres. */
final readonly class ReadMesh
{
    /** @param  int  $collapsed triangles with two equal corners: they bound nothing and are left out */
    public function __construct(
        public Mesh $mesh,
        public int $collapsed,
        public string $format,
    ) {
    }
}
