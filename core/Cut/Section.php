<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Outlines;
use Isotome\Seal\Polygon;

/**
 * The section of a mesh with a plane: the same rim that a cut would seal.
 *
 * Area and perimeter are measured in space (mm², mm). Outlines that enclose material run counter-clockwise seen from
 * ahead, outlines of holes clockwise. An open mesh may leave open lines; they add to the perimeter and not to the area.
 */
final readonly class Section
{
    /**
     * @param  list<list<array{float, float}>>  $outlines  on the page, true to scale, mm
     * @param  list<list<array{float, float}>>  $lines  open ones
     * @param  list<float>  $areas  signed area of each outline, mm²; negative for holes
     * @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $page  origin and the two unit directions of the page, in space
     */
    private function __construct(
        public float $area,
        public float $perimeter,
        public array $outlines,
        public array $lines,
        public array $areas,
        public array $page,
    ) {
    }

    /**
     * @param  Mesh  $mesh  the whole mesh, or any part of it that has every triangle the plane touches
     * @param  float|null  $extent  see Sides::of; needed for a part
     */
    public static function of(Mesh $mesh, Plane $plane, ?float $extent = null): self
    {
        $sides = Sides::of($mesh->xyz, $plane, $extent);
        $rim = Divided::of($mesh, $sides, Divided::touched($mesh->corners, $sides), $plane)->rim;
        $traced = Outlines::of($rim->from, $rim->to);
        [$right, $up] = $plane->directions();
        $origin = [$plane->nx * $plane->offset, $plane->ny * $plane->offset, $plane->nz * $plane->offset];
        $xyz = $rim->xyz;
        $x = [];
        $y = [];
        $count = count($xyz);
        for ($i = 0; $i < $count; $i += 3) {
            $dx = $xyz[$i] - $origin[0];
            $dy = $xyz[$i + 1] - $origin[1];
            $dz = $xyz[$i + 2] - $origin[2];
            $x[] = $dx * $right[0] + $dy * $right[1] + $dz * $right[2];
            $y[] = $dx * $up[0] + $dy * $up[1] + $dz * $up[2];
        }
        $perimeter = 0.0;
        foreach ($rim->from as $e => $p) {
            $q = $rim->to[$e];
            $perimeter += hypot($x[$q] - $x[$p], $y[$q] - $y[$p]);
        }
        $area = 0.0;
        $areas = [];
        $outlines = [];
        foreach ($traced->closed as $loop) {
            $areas[] = $one = Polygon::area($x, $y, $loop);
            $area += $one;
            $outlines[] = self::points($loop, $x, $y);
        }
        $lines = array_map(static fn (array $path): array => self::points($path, $x, $y), $traced->open);

        return new self($area, $perimeter, $outlines, $lines, $areas, [$origin, $right, $up]);
    }

    public function isEmpty(): bool
    {
        return $this->outlines === [] && $this->lines === [];
    }

    /**
     * Where an outline of the page is.
     *
     * @param  list<array{float, float}>  $outline
     * @return list<array{float, float, float}> mm
     */
    public function inSpace(array $outline): array
    {
        [$origin, $right, $up] = $this->page;
        $places = [];
        foreach ($outline as [$x, $y]) {
            $places[] = [$origin[0] + $x * $right[0] + $y * $up[0], $origin[1] + $x * $right[1] + $y * $up[1], $origin[2] + $x * $right[2] + $y * $up[2]];
        }

        return $places;
    }

    /**
     * @param  list<int>  $path
     * @param  list<float>  $x
     * @param  list<float>  $y
     * @return list<array{float, float}>
     */
    private static function points(array $path, array $x, array $y): array
    {
        return array_map(static fn (int $p): array => [$x[$p], $y[$p]], $path);
    }
}
