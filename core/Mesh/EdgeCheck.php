<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Counts what keeps a mesh from being watertight. A mesh is watertight when it has triangles and every edge has exactly two
 * faces that run along it in opposite directions (common practice; ISO/ASTM 52915 asks the same of a volume's mesh).
 */
final readonly class EdgeCheck
{
    /** Edges of so many triangles take about 200 MB. */
    private const AT_A_TIME = 2_500_000;

    private function __construct(
        public int $triangles,
        public int $openEdges,
        public int $nonmanifoldEdges,
        public int $flippedEdges,
    ) {
    }

    /** @param  int  $atATime  triangles of which all edges are kept at a time: of more, those that begin in one stretch of vertices after the other */
    public static function of(Mesh $mesh, int $atATime = self::AT_A_TIME): self
    {
        return self::areAllPaired($mesh, $atATime) ? new self($mesh->triangleCount(), 0, 0, 0) : self::counted($mesh);
    }

    private static function areAllPaired(Mesh $mesh, int $atATime): bool
    {
        if ($mesh->triangleCount() <= $atATime) {
            return self::isPaired($mesh);
        }
        $each = intdiv($mesh->vertexCount() * $atATime, $mesh->triangleCount()) + 1;
        for ($from = 0; $from < $mesh->vertexCount(); $from += $each) {
            if (! self::isPairedFrom($mesh, $from, $from + $each)) {
                return false;
            }
        }

        return true;
    }

    /** isPaired() for the edges whose lower end is from one vertex on and below another. */
    private static function isPairedFrom(Mesh $mesh, int $from, int $below): bool
    {
        $corners = $mesh->corners;
        $odd = $mesh->vertexCount() | 1;
        $waiting = [];
        $closed = [];
        $found = 0;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i + 2];
            for ($k = $i; $k < $i + 3; $k++) {
                $b = $corners[$k];
                $low = $a < $b ? $a : $b;
                if ($low >= $from && $low < $below) {
                    $key = $b * $odd + $a;
                    if (isset($waiting[$key])) {
                        unset($waiting[$key]);
                        $closed[$a < $b ? $a * $odd + $b : $key] = 1;
                        $found++;
                    } else {
                        $waiting[$a * $odd + $b] = 1;
                    }
                }
                $a = $b;
            }
        }

        return $waiting === [] && count($closed) === $found;
    }

    /**
     * Does every edge have exactly two faces, one in each direction? Half-edges wait for their twin; in a mesh in good order few wait at a
     * time, so this is much faster than counting.
     */
    private static function isPaired(Mesh $mesh): bool
    {
        $corners = $mesh->corners;
        $odd = $mesh->vertexCount() | 1;
        $waiting = [];
        /** @var array<int, int> $closed edges that found both, by lower and higher end */
        $closed = [];
        $count = count($corners);
        if ($count % 2 !== 0) {
            return false;
        }
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $key = $b * $odd + $a;
            if (isset($waiting[$key])) {
                unset($waiting[$key]);
                $closed[$a < $b ? $a * $odd + $b : $key] = 1;
            } else {
                $waiting[$a * $odd + $b] = 1;
            }
            $key = $c * $odd + $b;
            if (isset($waiting[$key])) {
                unset($waiting[$key]);
                $closed[$b < $c ? $b * $odd + $c : $key] = 1;
            } else {
                $waiting[$b * $odd + $c] = 1;
            }
            $key = $a * $odd + $c;
            if (isset($waiting[$key])) {
                unset($waiting[$key]);
                $closed[$c < $a ? $c * $odd + $a : $key] = 1;
            } else {
                $waiting[$c * $odd + $a] = 1;
            }
        }

        // An edge of four faces would be closed twice and counted once.
        return $waiting === [] && 2 * count($closed) === $count;
    }

    private static function counted(Mesh $mesh): self
    {
        $corners = $mesh->corners;
        // The odd factor spreads the keys: equal low bits would pile up in one place of the hash.
        $odd = $mesh->vertexCount() | 1;
        /** @var array<int, int> $faces along each edge: forward ones count 1, backward ones 2^24 */
        $faces = [];
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if ($a < $b) {
                $key = $a * $odd + $b;
                $step = 1;
            } else {
                $key = $b * $odd + $a;
                $step = 16777216;
            }
            $faces[$key] = ($faces[$key] ?? 0) + $step;
            if ($b < $c) {
                $key = $b * $odd + $c;
                $step = 1;
            } else {
                $key = $c * $odd + $b;
                $step = 16777216;
            }
            $faces[$key] = ($faces[$key] ?? 0) + $step;
            if ($c < $a) {
                $key = $c * $odd + $a;
                $step = 1;
            } else {
                $key = $a * $odd + $c;
                $step = 16777216;
            }
            $faces[$key] = ($faces[$key] ?? 0) + $step;
        }
        $open = $crowded = $flipped = 0;
        foreach ($faces as $number) {
            if ($number === 16777217) {
                continue;
            }
            $all = ($number & 16777215) + ($number >> 24);
            if ($all === 1) {
                $open++;
            } elseif ($all === 2) {
                $flipped++;
            } else {
                $crowded++;
            }
        }

        return new self($mesh->triangleCount(), $open, $crowded, $flipped);
    }

    public function isWatertight(): bool
    {
        return $this->triangles > 0 && $this->openEdges === 0 && $this->nonmanifoldEdges === 0 && $this->flippedEdges === 0;
    }
}
