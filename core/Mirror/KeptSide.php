<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Check\EdgePlaces;
use Isotome\Cut\Catching;
use Isotome\Cut\Split;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * One side of a mesh, open along the plane, ready to be joined to its reflection there.
 *
 * Faces that lie in the plane are left out: they would be inside. onPlane tells, for the edges of the rim on the plane, ends in the
 * direction of their one triangle.
 */
final readonly class KeptSide
{
    /**
     * @param  list<array{int, int, int}>  $seam  rim edges on the plane: ends in the direction of their triangle, and the triangle
     * @param  bool  $isWhole  all its vertices are used
     * @param  bool  $touches  the kept side touches the plane in edges or points beside its rim
     */
    private function __construct(
        public Mesh $mesh,
        public array $seam,
        public bool $isWhole,
        public bool $touches,
    ) {
    }

    /** @param  float  $catch mm */
    public static function of(Mesh $mesh, Plane $plane, bool $isAhead, float $catch): self
    {
        if ($catch > 0.0) {
            $mesh = Catching::of(self::rimsTaken($mesh, $plane, $catch), $plane, $catch)->mesh;
        }
        $halves = Split::of($mesh, $plane, null, ! $isAhead);
        $base = $isAhead ? $halves->aheadBase : $halves->behindBase;
        [$xyz, $corners, $tags] = $halves->take(! $isAhead);
        $kept = $keptTags = [];
        $seen = [];
        $i = 0;
        $t = 0;
        foreach ($tags as $tag) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $i += 3;
            $on = ($a >= $base ? 1 : 0) + ($b >= $base ? 1 : 0) + ($c >= $base ? 1 : 0);
            if ($on === 3) {
                continue;
            }
            $kept[] = $a;
            $kept[] = $b;
            $kept[] = $c;
            $keptTags[] = $tag;
            if ($on === 2) {
                [$p, $q] = $a < $base ? [$b, $c] : ($b < $base ? [$c, $a] : [$a, $b]);
                $seen[$p][$q][] = $t;
            }
            $t++;
        }
        $seam = [];
        $touches = false;
        foreach ($seen as $p => $ends) {
            foreach ($ends as $q => $triangles) {
                // An edge of the plane with faces on both its sides is no rim.
                if (count($triangles) === 1 && ! isset($seen[$q][$p])) {
                    $seam[] = [$p, $q, $triangles[0]];
                } else {
                    $touches = true;
                }
            }
        }
        $leaving = array_count_values(array_column($seam, 0));

        return new self(Mesh::of($xyz, $kept, $keptTags), $seam, count($tags) === count($keptTags), $touches || ($leaving !== [] && max($leaving) > 1));
    }

    /** Rim vertices near the plane, laid onto it. */
    private static function rimsTaken(Mesh $mesh, Plane $plane, float $catch): Mesh
    {
        $open = EdgePlaces::of($mesh)->open;
        if ($open === []) {
            return $mesh;
        }
        $xyz = $mesh->xyz;
        foreach ($open as [$a, $b]) {
            foreach ([$a, $b] as $v) {
                $d = $plane->nx * $xyz[3 * $v] + $plane->ny * $xyz[3 * $v + 1] + $plane->nz * $xyz[3 * $v + 2] - $plane->offset;
                if (abs($d) <= $catch) {
                    [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]] = $plane->laid([$xyz[3 * $v] - $d * $plane->nx, $xyz[3 * $v + 1] - $d * $plane->ny, $xyz[3 * $v + 2] - $d * $plane->nz]);
                }
            }
        }

        return Mesh::of(array_values($xyz), $mesh->corners, $mesh->tags);
    }
}
