<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Counts what keeps a mesh from being watertight. A mesh is watertight when it has triangles and every edge has exactly two
 * faces that run along it in opposite directions (common practice; ISO/ASTM 52915 asks the same of a volume's mesh).
 */
final readonly class EdgeCheck
{
    /** Edges of a vertex that are looked through one by one; of a vertex with more, the rest are looked up by their ends. */
    private const FEW = 16;

    private function __construct(
        public int $triangles,
        public int $openEdges,
        public int $nonmanifoldEdges,
        public int $flippedEdges,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $open = $crowded = $flipped = 0;
        foreach (self::edges($mesh) as $edges) {
            foreach ($edges as $edge) {
                // Mostly one face each way.
                if (($edge & 15) === 5) {
                    continue;
                }
                $faces = ($edge & 3) + ($edge >> 2 & 3);
                if ($faces === 1) {
                    $open++;
                } elseif ($faces === 2) {
                    $flipped++;
                } else {
                    $crowded++;
                }
            }
        }

        return new self($mesh->triangleCount(), $open, $crowded, $flipped);
    }

    /**
     * Every edge is in a list of its lower end: in a few packed arrays that is two to four times as fast as a hash of all edges.
     *
     * @return list<array<int, int>> two lists of edges; the lowest two bits of each are the number of faces that run from its lower to its higher
     *                               end, the next two of those that run back, each counted up to 3
     */
    private static function edges(Mesh $mesh): array
    {
        $corners = $mesh->corners;
        $count = count($corners);
        if ($count === 0) {
            return [];
        }
        // The odd factor spreads the keys: equal low bits would pile up in one place of the hash.
        $odd = $mesh->vertexCount() | 1;
        /** @var list<int> $newest the edge of each lower end that came last, or −1 */
        $newest = array_fill(0, $mesh->vertexCount(), -1);
        /** @var list<int> $edges higher end of each edge, shifted by 4 bits, and its faces */
        $edges = [];
        /** @var list<int> $earlier the edge of the same lower end that came before each edge, or −1 */
        $earlier = [];
        /** @var array<int, int> $rest faces of the edges of vertices that have many, by both ends */
        $rest = [];
        $found = 0;
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i + 2];
            for ($k = $i; $k < $i + 3; $k++) {
                $b = $corners[$k];
                if ($a < $b) {
                    $low = $a;
                    $high = $b;
                    $one = 1;
                } else {
                    $low = $b;
                    $high = $a;
                    $one = 4;
                }
                $a = $b;
                $last = $edge = $newest[$low];
                for ($steps = 0; $edge >= 0 && $high !== $edges[$edge] >> 4; $steps++) {
                    $edge = $earlier[$edge];
                }
                if ($edge >= 0) {
                    $faces = $edges[$edge];
                    if (($faces & 3 * $one) !== 3 * $one) {
                        $edges[$edge] = $faces + $one;
                    }
                } elseif ($steps < self::FEW) {
                    $newest[$low] = $found++;
                    $edges[] = ($high << 4) + $one;
                    $earlier[] = $last;
                } else {
                    $key = $low * $odd + $high;
                    $faces = $rest[$key] ?? 0;
                    if (($faces & 3 * $one) !== 3 * $one) {
                        $rest[$key] = $faces + $one;
                    }
                }
            }
        }

        return [$edges, $rest];
    }

    public function isWatertight(): bool
    {
        return $this->triangles > 0 && $this->openEdges === 0 && $this->nonmanifoldEdges === 0 && $this->flippedEdges === 0;
    }
}
