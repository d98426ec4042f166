<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Generator;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/**
 * A body in horizontal layers, each cut through its middle.
 *
 * Guarantees, for a closed body: every outline closes, outer ones run counter-clockwise seen from above and holes clockwise; a vertex exactly at the height of a cut counts as above it, so that nothing is met twice.
 * Where bodies overlap, what they share is counted for each.
 *
 * Source: triangles by the layers that they pass, followed from neighbour to neighbour, R. Minetto, N. Volpato, J. Stolfi, R. Gregori, M. da Silva, "An optimal algorithm for 3D triangle mesh slicing",
 * Computer-Aided Design 92 (2017).
 */
final readonly class Layers
{
    public const MOST = 20_000;

    /** Code of the exception when the body is not closed. */
    public const OPEN = 1;

    /** A last layer thinner than this share of the others is left out: it is rounding. */
    private const NOTHING = 1e-9;

    /**
     * @param  float  $bottom  mm: where the first layer begins
     * @param  float  $height  mm, of each layer
     * @param  list<int>  $beyond  the triangle beyond the edge from each corner to the next
     * @param  list<list<int>>  $passed  triangles that the cut of each layer passes
     */
    private function __construct(
        private Mesh $mesh,
        public float $bottom,
        public float $height,
        private array $beyond,
        private array $passed,
    ) {
    }

    /** @throws BadMesh when the body is not closed, with the code OPEN, or would have too many layers */
    public static function of(Mesh $mesh, float $height): self
    {
        if (! is_finite($height) || $height <= 0.0) {
            throw new BadMesh('Layers of this height are none; give a height of more than 0 mm.');
        }
        $box = Box::of($mesh->xyz);
        $tall = $box->max[2] - $box->min[2];
        $count = ceil($tall / $height - self::NOTHING);
        if ($count > self::MOST) {
            throw new BadMesh(sprintf('The body would have %s layers, and no more than %s can be dealt with; give layers of at least %.4f mm.', number_format($count), number_format(self::MOST), $tall / self::MOST));
        }

        return new self($mesh, $box->min[2], $height, self::neighbours($mesh), self::byLayer($mesh, $box->min[2], $height, (int) $count));
    }

    public function count(): int
    {
        return count($this->passed);
    }

    /** The height of the cut through a layer, mm. */
    public function at(int $layer): float
    {
        return $this->bottom + ($layer + 0.5) * $this->height;
    }

    /** @return Generator<int, Layer> from below */
    public function each(): Generator
    {
        $seen = array_fill(0, max(1, $this->mesh->triangleCount()), -1);
        foreach ($this->passed as $layer => $triangles) {
            yield $layer => $this->layer($layer, $triangles, $seen);
        }
    }

    /**
     * @param  list<int>  $triangles
     * @param  array<int, int>  $seen  of each triangle, the last layer in which it was met
     */
    private function layer(int $layer, array $triangles, array &$seen): Layer
    {
        $height = $this->at($layer);
        $xyz = $this->mesh->xyz;
        $corners = $this->mesh->corners;
        $beyond = $this->beyond;
        $outlines = $areas = [];
        foreach ($triangles as $t) {
            if ($seen[$t] === $layer) {
                continue;
            }
            $outline = [];
            $area = 0.0;
            do {
                $seen[$t] = $layer;
                $i = 3 * $t;
                $a = 3 * $corners[$i];
                $b = 3 * $corners[$i + 1];
                $c = 3 * $corners[$i + 2];
                $isAbove = $xyz[$b + 2] >= $height;
                // Out of it over the edge that leads upwards.
                if ($xyz[$a + 2] < $height) {
                    if ($isAbove) {
                        [$p, $q] = [$a, $b];
                    } else {
                        [$p, $q] = [$b, $c];
                        $i++;
                    }
                } elseif ($isAbove || $xyz[$c + 2] < $height) {
                    [$p, $q] = [$c, $a];
                    $i += 2;
                } else {
                    [$p, $q] = [$b, $c];
                    $i++;
                }
                $share = ($height - $xyz[$p + 2]) / ($xyz[$q + 2] - $xyz[$p + 2]);
                $outline[] = $xyz[$p] + $share * ($xyz[$q] - $xyz[$p]);
                $outline[] = $xyz[$p + 1] + $share * ($xyz[$q + 1] - $xyz[$p + 1]);
                $t = $beyond[$i];
            } while ($seen[$t] !== $layer);
            $x0 = $outline[0];
            $y0 = $outline[1];
            for ($k = 4, $n = count($outline); $k < $n; $k += 2) {
                $area += ($outline[$k - 2] - $x0) * ($outline[$k + 1] - $y0) - ($outline[$k] - $x0) * ($outline[$k - 1] - $y0);
            }
            $outlines[] = $outline;
            $areas[] = $area / 2;
        }

        return new Layer($height, $outlines, $areas);
    }

    /**
     * @return list<list<int>>
     */
    private static function byLayer(Mesh $mesh, float $bottom, float $height, int $count): array
    {
        $passed = array_fill(0, $count, []);
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        for ($i = 0, $n = count($corners); $i < $n; $i += 3) {
            $a = $xyz[3 * $corners[$i] + 2];
            $b = $xyz[3 * $corners[$i + 1] + 2];
            $c = $xyz[3 * $corners[$i + 2] + 2];
            $low = $a < $b ? ($a < $c ? $a : $c) : ($b < $c ? $b : $c);
            $high = $a > $b ? ($a > $c ? $a : $c) : ($b > $c ? $b : $c);
            // About; then exactly as the cut decides.
            $layer = (int) (($low - $bottom) / $height - 0.5);
            $layer = $layer > 1 ? $layer - 1 : 0;
            while ($layer < $count && $bottom + ($layer + 0.5) * $height <= $low) {
                $layer++;
            }
            for (; $layer < $count && $bottom + ($layer + 0.5) * $height <= $high; $layer++) {
                $passed[$layer][] = intdiv($i, 3);
            }
        }

        return $passed;
    }

    /**
     * @return list<int> see above
     *
     * @throws BadMesh
     */
    private static function neighbours(Mesh $mesh): array
    {
        $corners = $mesh->corners;
        $beyond = $corners === [] ? [] : array_fill(0, count($corners), -1);
        $open = $more = [];
        foreach ($corners as $i => $p) {
            $q = $corners[$i % 3 === 2 ? $i - 2 : $i + 1];
            $other = $q << 32 | $p;
            $own = $p << 32 | $q;
            $j = $open[$other] ?? -1;
            if ($j >= 0) {
                $beyond[$i] = intdiv($j, 3);
                $beyond[$j] = intdiv($i, 3);
                unset($open[$other]);
                // Where four faces meet, any two that run against each other do.
                if (isset($more[$other])) {
                    $open[$other] = (int) array_pop($more[$other]);
                    if ($more[$other] === []) {
                        unset($more[$other]);
                    }
                }
            } elseif (isset($open[$own])) {
                $more[$own][] = $i;
            } else {
                $open[$own] = $i;
            }
        }
        if ($open !== []) {
            throw new BadMesh(sprintf('The body has %s open %s, so that its layers do not close; mend it first.', number_format(count($open) + count($more, COUNT_RECURSIVE) - count($more)), count($open) === 1 && $more === [] ? 'edge' : 'edges'), self::OPEN);
        }

        return array_values($beyond);
    }
}
