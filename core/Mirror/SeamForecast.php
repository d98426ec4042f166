<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** The seam that a mirror would make, told before it is made. */
final readonly class SeamForecast
{
    /**
     * @param  int  $edges  joined along the seam
     * @param  float  $kink  largest, degrees, before any smoothing
     * @param  float  $meanKink  by length, degrees
     */
    private function __construct(
        public int $edges,
        public float $kink,
        public float $meanKink,
    ) {
    }

    /**
     * @param  Mesh  $mesh  the whole, or its triangles that touch the plane or have a vertex within the catch: both tell the same
     * @param  float  $catch  mm
     */
    public static function of(Mesh $mesh, Plane $plane, bool $isAhead, float $catch): self
    {
        if ($mesh->isEmpty()) {
            return new self(0, 0.0, 0.0);
        }
        $kept = KeptSide::of($mesh, $plane, $isAhead, $catch);
        [$kink, $mean] = Seam::kinks($kept->mesh, $kept->seam, $plane);

        return new self(count($kept->seam), $kink, $mean);
    }
}
