<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;

/**
 * Counts what keeps a mesh from being watertight. A mesh is watertight when it has triangles and every edge has exactly two
 * faces that run along it in opposite directions (common practice; ISO/ASTM 52915 asks the same of a volume's mesh).
 */
final readonly class EdgeCheck
{
    private function __construct(
        public int $triangles,
        public int $openEdges,
        public int $nonmanifoldEdges,
        public int $flippedEdges,
    ) {
    }

    public static function of(Mesh $mesh): self
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
