<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/** The vertices of a mesh by the cells of a grid: those in one cell become one, at their mean place (J. Rossignac, P. Borrel 1993). */
final readonly class Clusters
{
    /**
     * @param  list<int>  $of  cluster of each vertex
     * @param  list<float>  $places  3 a cluster, mm
     */
    private function __construct(
        public array $of,
        public array $places,
    ) {
    }

    /**
     * @param  array{float, float, float}  $low  corner of the box around the mesh
     * @param  float  $span  its longest side, mm
     * @param  int  $cells  along that, at most 1000
     */
    public static function of(Mesh $mesh, array $low, float $span, int $cells): self
    {
        $xyz = $mesh->xyz;
        $scale = $span > 0.0 ? ($cells - 0.001) / $span : 0.0;
        [$ox, $oy, $oz] = $low;
        $number = $of = $sums = $members = [];
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $x = $xyz[$i];
            $y = $xyz[$i + 1];
            $z = $xyz[$i + 2];
            $key = (int) (($x - $ox) * $scale) | (int) (($y - $oy) * $scale) << 10 | (int) (($z - $oz) * $scale) << 20;
            $n = $number[$key] ?? -1;
            if ($n < 0) {
                $number[$key] = $n = count($members);
                $members[] = 0;
                $sums[] = 0.0;
                $sums[] = 0.0;
                $sums[] = 0.0;
            }
            $of[] = $n;
            $members[$n]++;
            $sums[3 * $n] += $x;
            $sums[3 * $n + 1] += $y;
            $sums[3 * $n + 2] += $z;
        }
        foreach ($members as $n => $many) {
            $sums[3 * $n] /= $many;
            $sums[3 * $n + 1] /= $many;
            $sums[3 * $n + 2] /= $many;
        }

        return new self($of, array_values($sums));
    }
}
