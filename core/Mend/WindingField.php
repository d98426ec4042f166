<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/**
 * How often triangles that need not close wind around a place: the solid angle at which they are seen from there, by that of a whole ball. It is whole where they close,
 * and changes smoothly across gaps.
 *
 * Guarantees: right to about two hundredths; within a closed surface that faces outward it is 1, outside 0.
 *
 * Source: A. Jacobson, L. Kavan, O. Sorkine-Hornung, "Robust inside-outside segmentation using generalized winding numbers" (2013); far groups of triangles as one dipole,
 * G. Barill, N. G. Dickson, R. Schmidt, D. I. W. Levin, A. Jacobson, "Fast winding numbers for soups and clouds" (2018); solid angle of a triangle, A. van Oosterom, J. Strackee (1983).
 */
final class WindingField
{
    /** A group is far when it is this many times its radius away. */
    private const FAR = 2.0;

    /** @var list<float> the corners of the triangles in the order of the tree, nine numbers each */
    private readonly array $nine;

    /** @var list<float> of each node of the tree: middle, sum of the area vectors, square of the distance from which it is far */
    private readonly array $groups;

    public function __construct(Mesh $mesh, public readonly Tree $tree)
    {
        $this->nine = self::corners($mesh, $tree->order);
        $this->groups = $this->grouped();
    }

    public function at(float $x, float $y, float $z): float
    {
        $groups = $this->groups;
        $nine = $this->nine;
        $firstLeaf = $this->tree->firstLeaf;
        $end = count($nine);
        $sum = 0.0;
        $open = [0];
        $top = 0;
        while ($top >= 0) {
            $n = $open[$top--];
            $g = 7 * $n;
            $px = $groups[$g] - $x;
            $py = $groups[$g + 1] - $y;
            $pz = $groups[$g + 2] - $z;
            $square = $px * $px + $py * $py + $pz * $pz;
            if ($square > $groups[$g + 6]) {
                $sum += ($px * $groups[$g + 3] + $py * $groups[$g + 4] + $pz * $groups[$g + 5]) / ($square * sqrt($square));

                continue;
            }
            if ($n < $firstLeaf) {
                $open[++$top] = 2 * $n + 1;
                $open[++$top] = 2 * $n + 2;

                continue;
            }
            $i = 9 * Tree::LEAF * ($n - $firstLeaf);
            $stop = $i + 9 * Tree::LEAF;
            for ($stop = $stop < $end ? $stop : $end; $i < $stop; $i += 9) {
                $ax = $nine[$i] - $x;
                $ay = $nine[$i + 1] - $y;
                $az = $nine[$i + 2] - $z;
                $bx = $nine[$i + 3] - $x;
                $by = $nine[$i + 4] - $y;
                $bz = $nine[$i + 5] - $z;
                $cx = $nine[$i + 6] - $x;
                $cy = $nine[$i + 7] - $y;
                $cz = $nine[$i + 8] - $z;
                $a = sqrt($ax * $ax + $ay * $ay + $az * $az);
                $b = sqrt($bx * $bx + $by * $by + $bz * $bz);
                $c = sqrt($cx * $cx + $cy * $cy + $cz * $cz);
                $det = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
                $sum += 2 * atan2($det, $a * $b * $c + $c * ($ax * $bx + $ay * $by + $az * $bz) + $a * ($bx * $cx + $by * $cy + $bz * $cz) + $b * ($cx * $ax + $cy * $ay + $cz * $az));
            }
        }

        return $sum / (4 * M_PI);
    }

    /**
     * @param  list<int>  $order
     * @return list<float>
     */
    private static function corners(Mesh $mesh, array $order): array
    {
        $nine = [];
        foreach ($order as $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $v = 3 * $mesh->corners[$k];
                $nine[] = $mesh->xyz[$v];
                $nine[] = $mesh->xyz[$v + 1];
                $nine[] = $mesh->xyz[$v + 2];
            }
        }

        return $nine;
    }

    /** @return list<float> see $groups */
    private function grouped(): array
    {
        $nodes = intdiv(count($this->tree->boxes), 6);
        $boxes = $this->tree->boxes;
        // Sums of area, of area times place, and of area vectors.
        $sums = array_fill(0, max(7, 7 * $nodes), 0.0);
        $nine = $this->nine;
        for ($i = 0, $count = count($nine); $i < $count; $i += 9) {
            $ux = $nine[$i + 3] - $nine[$i];
            $uy = $nine[$i + 4] - $nine[$i + 1];
            $uz = $nine[$i + 5] - $nine[$i + 2];
            $vx = $nine[$i + 6] - $nine[$i];
            $vy = $nine[$i + 7] - $nine[$i + 1];
            $vz = $nine[$i + 8] - $nine[$i + 2];
            $nx = ($uy * $vz - $uz * $vy) / 2;
            $ny = ($uz * $vx - $ux * $vz) / 2;
            $nz = ($ux * $vy - $uy * $vx) / 2;
            $area = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $g = 7 * ($this->tree->firstLeaf + intdiv($i, 9 * Tree::LEAF));
            $sums[$g] += $area * ($nine[$i] + $nine[$i + 3] + $nine[$i + 6]) / 3;
            $sums[$g + 1] += $area * ($nine[$i + 1] + $nine[$i + 4] + $nine[$i + 7]) / 3;
            $sums[$g + 2] += $area * ($nine[$i + 2] + $nine[$i + 5] + $nine[$i + 8]) / 3;
            $sums[$g + 3] += $nx;
            $sums[$g + 4] += $ny;
            $sums[$g + 5] += $nz;
            $sums[$g + 6] += $area;
        }
        for ($n = $this->tree->firstLeaf - 1; $n >= 0; $n--) {
            for ($k = 0; $k < 7; $k++) {
                $sums[7 * $n + $k] = $sums[7 * (2 * $n + 1) + $k] + $sums[7 * (2 * $n + 2) + $k];
            }
        }
        for ($n = 0; $n < $nodes; $n++) {
            $g = 7 * $n;
            $area = $sums[$g + 6];
            if ($area <= 0.0) {
                // Nothing: from everywhere it is far, and counts for nothing.
                $sums[$g] = $sums[$g + 1] = $sums[$g + 2] = 0.0;
                $sums[$g + 3] = $sums[$g + 4] = $sums[$g + 5] = 0.0;
                $sums[$g + 6] = 0.0;

                continue;
            }
            $reach = 0.0;
            for ($k = 0; $k < 3; $k++) {
                $sums[$g + $k] /= $area;
                $reach += max($sums[$g + $k] - $boxes[6 * $n + 2 * $k], $boxes[6 * $n + 2 * $k + 1] - $sums[$g + $k]) ** 2;
            }
            $sums[$g + 6] = self::FAR ** 2 * $reach;
        }

        return array_values($sums);
    }
}
