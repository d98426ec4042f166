<?php

declare(strict_types=1);

namespace Tests\Support;

use Closure;
use Isotome\Geometry\Chance;
use Isotome\Mesh\Mesh;

/** Bodies taken apart: triangles, or patches of them, that do not touch any more. */
final class Soups
{
    /**
     * Every triangle by itself.
     *
     * @param  float  $shrunk  share that each is smaller by, towards its middle
     * @param  float  $shaken  mm, that each corner is moved by at most along each axis
     * @param  float  $missing  share of them that is gone
     * @param  float  $turned  share of them that is turned over
     */
    public static function triangles(Mesh $mesh, float $shrunk, float $shaken = 0.0, float $missing = 0.0, float $turned = 0.0): Mesh
    {
        $chance = new Chance(5);
        $xyz = $corners = [];
        foreach (array_chunk($mesh->corners, 3) as $three) {
            if ($chance->uniform() < $missing) {
                continue;
            }
            $places = array_map(static fn (int $v): array => array_slice($mesh->xyz, 3 * $v, 3), $chance->uniform() < $turned ? array_reverse($three) : $three);
            foreach ($places as $place) {
                $corners[] = intdiv(count($xyz), 3);
                foreach ($place as $k => $c) {
                    $middle = array_sum(array_column($places, $k)) / 3;
                    $xyz[] = $middle + (1 - $shrunk) * ($c - $middle) + $shaken * (2 * $chance->uniform() - 1);
                }
            }
        }

        return Mesh::of($xyz, $corners);
    }

    /**
     * Patches, each moved apart from the others by being made smaller about its middle.
     *
     * @param  Closure(array{float, float, float}): (int|string)  $patch  by a triangle's middle
     */
    public static function patches(Mesh $mesh, float $shrunk, Closure $patch): Mesh
    {
        $groups = [];
        foreach (array_chunk($mesh->corners, 3) as $three) {
            $middle = array_map(static fn (int $k): float => ($mesh->xyz[3 * $three[0] + $k] + $mesh->xyz[3 * $three[1] + $k] + $mesh->xyz[3 * $three[2] + $k]) / 3, [0, 1, 2]);
            $groups[$patch($middle)][] = $three;
        }
        $xyz = $corners = [];
        foreach ($groups as $group) {
            $vertices = array_values(array_unique(array_merge(...$group)));
            $middle = array_map(static fn (int $k): float => array_sum(array_map(static fn (int $v): float => $mesh->xyz[3 * $v + $k], $vertices)) / count($vertices), [0, 1, 2]);
            $number = [];
            foreach ($vertices as $v) {
                $number[$v] = intdiv(count($xyz), 3);
                for ($k = 0; $k < 3; $k++) {
                    $xyz[] = $middle[$k] + (1 - $shrunk) * ($mesh->xyz[3 * $v + $k] - $middle[$k]);
                }
            }
            foreach (array_merge(...$group) as $v) {
                $corners[] = $number[$v];
            }
        }

        return Mesh::of($xyz, $corners);
    }
}
