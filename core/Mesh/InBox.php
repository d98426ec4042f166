<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** Which triangles may reach into a box: those whose own boxes do. */
final class InBox
{
    /**
     * @param  list<int>  $some  triangles
     * @param  array{float, float, float}  $low  mm
     * @param  array{float, float, float}  $high  mm; may be INF
     * @return list<int> those of them
     */
    public static function of(Mesh $mesh, array $some, array $low, array $high): array
    {
        [$x0, $y0, $z0] = $low;
        [$x1, $y1, $z1] = $high;
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $found = [];
        foreach ($some as $t) {
            $i = 3 * $t;
            $a = 3 * $corners[$i];
            $b = 3 * $corners[$i + 1];
            $c = 3 * $corners[$i + 2];
            $p = $xyz[$a];
            $q = $xyz[$b];
            $r = $xyz[$c];
            if (($p < $x0 && $q < $x0 && $r < $x0) || ($p > $x1 && $q > $x1 && $r > $x1)) {
                continue;
            }
            $p = $xyz[$a + 1];
            $q = $xyz[$b + 1];
            $r = $xyz[$c + 1];
            if (($p < $y0 && $q < $y0 && $r < $y0) || ($p > $y1 && $q > $y1 && $r > $y1)) {
                continue;
            }
            $p = $xyz[$a + 2];
            $q = $xyz[$b + 2];
            $r = $xyz[$c + 2];
            if (($p < $z0 && $q < $z0 && $r < $z0) || ($p > $z1 && $q > $z1 && $r > $z1)) {
                continue;
            }
            $found[] = $t;
        }

        return $found;
    }
}
