<?php

declare(strict_types=1);

namespace Isotome\Join;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/** All common faces of several pieces, pair by pair. */
final class Joints
{
    /**
     * @param  array<int, Mesh>  $meshes
     * @param  list<array{int, int}>  $pairs
     * @param  float  $reach  mm, see CommonFaces
     * @param  Closure(float): void|null  $progress
     * @return list<array{int, int, list<CommonFace>}> pairs that have any
     */
    public static function of(array $meshes, array $pairs, float $reach, ?Closure $progress = null): array
    {
        $boxes = array_map(static fn (Mesh $mesh): Box => Box::of($mesh->xyz), $meshes);
        $near = array_values(array_filter($pairs, static function (array $pair) use ($boxes, $reach): bool {
            [$a, $b] = [$boxes[$pair[0]], $boxes[$pair[1]]];
            for ($k = 0; $k < 3; $k++) {
                if ($a->min[$k] > $b->max[$k] + $reach || $b->min[$k] > $a->max[$k] + $reach) {
                    return false;
                }
            }

            return true;
        }));
        $joints = [];
        foreach ($near as $n => [$first, $second]) {
            $faces = CommonFaces::between($meshes[$first], $meshes[$second], $reach);
            if ($faces !== []) {
                $joints[] = [$first, $second, $faces];
            }
            $progress !== null && $progress(($n + 1) / count($near));
        }

        return $joints;
    }
}
