<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Geometry\Box;
use Isotome\Geometry\Chance;
use Isotome\Geometry\Plane;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;

/** A body sliced as by hand: into boxes of the bed's size from its lowest corner on, whichever of its sides stands up; and bodies to slice. */
final class SlicedByBed
{
    /** @param  array{float, float, float}  $bed */
    public static function fewest(Mesh $mesh, array $bed): int
    {
        $fewest = PHP_INT_MAX;
        foreach ([[0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]] as $order) {
            $fewest = min($fewest, self::count($mesh, [$bed[$order[0]], $bed[$order[1]], $bed[$order[2]]]));
        }

        return $fewest;
    }

    /** @param  array{float, float, float}  $sides */
    private static function count(Mesh $mesh, array $sides): int
    {
        $box = Box::of($mesh->xyz);
        $pieces = [$mesh];
        foreach ([0, 1, 2] as $k) {
            for ($n = 1; $box->min[$k] + $n * $sides[$k] < $box->max[$k] - 1e-9; $n++) {
                $plane = Plane::at($box->min[$k] + $n * $sides[$k], [$k === 0 ? 1.0 : 0.0, $k === 1 ? 1.0 : 0.0, $k === 2 ? 1.0 : 0.0]);
                $next = [];
                foreach ($pieces as $piece) {
                    array_push($next, ...(FlatCut::of($piece, new FlatBlade($plane), 1)->bodies ?? [$piece]));
                }
                $pieces = $next;
            }
        }

        return count($pieces);
    }

    /** A box, or a statue: limbs of a random polycube, upright or turned. */
    public static function body(Chance $chance): Mesh
    {
        $side = static fn (): float => 40 + 460 * $chance->uniform() ** 2;
        $mesh = $chance->uniform() < 0.5 ? Solids::box($side(), $side(), $side()) : self::statue($chance);
        $angle = static fn (): float => $chance->uniform() < 0.6 ? 0.0 : 3 * $chance->uniform();

        return Solids::moved($mesh, $angle(), $angle(), $angle(), 1.0, [50 * $chance->uniform(), 0.0, -30 * $chance->uniform()]);
    }

    private static function statue(Chance $chance): Mesh
    {
        do {
            $mesh = self::polycube($chance);
        } while (! EdgeCheck::of($mesh)->isWatertight());

        return Solids::moved($mesh, 0.0, 0.0, 0.0, 30 + 50 * $chance->uniform());
    }

    /** Cubes that may touch along an edge. */
    private static function polycube(Chance $chance): Mesh
    {
        $at = [2, 2, 0];
        $full = [];
        for ($n = 0; $n < 14; $n++) {
            $full[implode(' ', $at)] = true;
            $k = (int) (3 * $chance->uniform());
            $at[$k] = max(0, min(5, $at[$k] + ($chance->uniform() < 0.6 ? 1 : -1)));
        }

        return Solids::cells(6, 6, 6, static fn (int $x, int $y, int $z): bool => isset($full["$x $y $z"]));
    }
}
