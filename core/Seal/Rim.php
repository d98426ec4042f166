<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Geometry\Plane;

/** The outlines that are to be closed, all in one plane: points and directed edges between them. */
final readonly class Rim
{
    /**
     * @param  list<float>  $xyz  3 a point, mm
     * @param  list<int>  $from  edge e runs from point from[e] to point to[e]; material lies to its left, seen from ahead
     * @param  list<int>  $to
     * @param  list<int>  $tags  surface tag of a triangle of the mesh at each edge; −1 where there is none
     * @param  array<int, int>  $lying  edges of the mesh that lie in the plane; key: lower point × points + higher point
     */
    public function __construct(
        public Plane $plane,
        public array $xyz,
        public array $from,
        public array $to,
        public array $tags,
        public array $lying,
    ) {
    }
}
