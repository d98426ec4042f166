<?php

declare(strict_types=1);

namespace Tests\Support;

use Isotome\Mesh\Layer;
use Isotome\Mesh\Looks;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Packing;
use Isotome\Mesh\Skin;

/** What test meshes carry: functions of place that can be asked again afterwards. */
final class Skins
{
    /**
     * Two texture coordinates that are linear functions of place; a colour of four; a seam: triangles of odd numbers have theirs 7 higher, and another material.
     */
    public static function linear(Mesh $mesh): Mesh
    {
        $uv = $colours = $materials = [];
        foreach ($mesh->tags as $t => $_) {
            for ($k = 0; $k < 3; $k++) {
                $v = 3 * $mesh->corners[3 * $t + $k];
                $place = [$mesh->xyz[$v], $mesh->xyz[$v + 1], $mesh->xyz[$v + 2]];
                array_push($uv, ...self::uv($place, $t % 2 === 1));
                array_push($colours, ...self::colour($place));
            }
            $materials[] = 1 + $t % 2;
        }
        $looks = new Looks([['name' => 'oak'], ['name' => 'iron']]);

        return $mesh->withSkin(new Skin($looks, Packing::longs($materials), ['uv0' => Layer::of(2, $uv), Skin::COLOUR => Layer::of(4, $colours)]));
    }

    /**
     * @param  array{float, float, float}  $p
     * @return array{float, float}
     */
    public static function uv(array $p, bool $isBeyondSeam): array
    {
        $more = $isBeyondSeam ? 7.0 : 0.0;

        return [0.03 * $p[0] - 0.011 * $p[1] + 0.007 * $p[2] + 0.2 + $more, 0.02 * $p[1] + 0.013 * $p[2] - 0.3 + $more];
    }

    /**
     * @param  array{float, float, float}  $p
     * @return array{float, float, float, float}
     */
    public static function colour(array $p): array
    {
        return [0.5 + 0.004 * $p[0], 0.4 - 0.002 * $p[1], 0.3 + 0.003 * $p[2], 1.0];
    }
}
