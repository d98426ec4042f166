<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Bodies in the order in which pieces get their names: by volume, the largest first; sheets by area. */
final class LargestFirst
{
    /**
     * @param  list<Mesh>  $meshes
     * @param  bool  $areSheets  open surfaces, which have no volume
     * @return list<Mesh>
     */
    public static function of(array $meshes, bool $areSheets = false): array
    {
        if (count($meshes) < 2) {
            return $meshes;
        }
        $sizes = array_map(static fn (Mesh $mesh): float => $areSheets ? array_sum(TriangleAreas::of($mesh)) : abs(Volume::of($mesh)), $meshes);
        arsort($sizes);

        return array_map(static fn (int $n): Mesh => $meshes[$n], array_keys($sizes));
    }
}
