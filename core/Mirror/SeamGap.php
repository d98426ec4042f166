<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Check\Rims;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** How far the rims of an open mesh that mean to lie on a plane lie off it: the weld distance follows from it. */
final readonly class SeamGap
{
    /** A rim means to lie on the plane when no point of it is farther off than this share of the diagonal. */
    public const NEAR = 0.05;

    /**
     * @param  float  $largest  mm
     * @param  int  $rims  rims near the plane
     * @param  int  $others  rims elsewhere
     * @param  list<array{list<array{float, float, float}>, list<float>}>  $near  points of the rims near the plane, and how far each lies off it, mm
     */
    private function __construct(
        public float $largest,
        public int $rims,
        public int $others,
        private array $near,
    ) {
    }

    public static function of(Mesh $mesh, Plane $plane): self
    {
        return self::ofRims(self::rims($mesh), self::diagonal($mesh), $plane);
    }

    /** @return list<list<array{float, float, float}>> the rims of a mesh as points, mm; closed ones end where they begin */
    public static function rims(Mesh $mesh): array
    {
        $rims = [];
        foreach (Rims::of($mesh)->list as $rim) {
            $points = array_map(static fn (int $v): array => [$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]], $rim['vertices']);
            $rims[] = $rim['closed'] ? [...$points, $points[0]] : $points;
        }

        return $rims;
    }

    /**
     * @param  list<list<array{float, float, float}>>  $rims  as rims() gives them
     * @param  float  $diagonal  of the mesh's box, mm
     */
    public static function ofRims(array $rims, float $diagonal, Plane $plane): self
    {
        $largest = 0.0;
        $others = 0;
        $near = [];
        foreach ($rims as $points) {
            $away = array_map(static fn (array $p): float => abs($plane->nx * $p[0] + $plane->ny * $p[1] + $plane->nz * $p[2] - $plane->offset), $points);
            if ($away === [] || max($away) > self::NEAR * $diagonal) {
                $others++;

                continue;
            }
            $near[] = [$points, $away];
            $largest = max($largest, max($away));
        }

        return new self($largest, count($near), $others, $near);
    }

    /** The catch that takes all of these rims onto the plane: rounded up to two digits, mm. */
    public function weld(): float
    {
        if ($this->largest <= 0.0) {
            return 0.0;
        }
        $unit = 10 ** (floor(log10($this->largest)) - 1);

        return ceil($this->largest / $unit * (1 + 1e-9)) * $unit;
    }

    /**
     * What of these rims a catch does not take onto the plane, so that it stays open.
     *
     * @param  float  $catch  mm
     * @return list<float> lines, 6 numbers each, mm
     */
    public function unjoined(float $catch): array
    {
        $lines = [];
        foreach ($this->near as [$points, $away]) {
            for ($i = 1, $count = count($points); $i < $count; $i++) {
                if ($away[$i - 1] > $catch || $away[$i] > $catch) {
                    array_push($lines, ...$points[$i - 1], ...$points[$i]);
                }
            }
        }

        return $lines;
    }

    private static function diagonal(Mesh $mesh): float
    {
        $size = Box::of($mesh->xyz)->size();

        return sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
    }
}
