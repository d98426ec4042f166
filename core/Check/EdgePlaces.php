<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;

/** Where the edges are that keep a mesh from being watertight. */
final readonly class EdgePlaces
{
    /**
     * @param  list<array{int, int, int}>  $open  ends, in the direction of their one triangle, and the triangle
     * @param  list<array{int, int}>  $nonmanifold  lower and higher end
     * @param  list<array{int, int}>  $flipped
     * @param  array<int, true>  $triangles  those at nonmanifold and flipped edges
     */
    private function __construct(
        public array $open,
        public array $nonmanifold,
        public array $flipped,
        public array $triangles,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $corners = $mesh->corners;
        $odd = $mesh->vertexCount() | 1;
        $faces = [];
        $count = count($corners);
        for ($h = 0; $h < $count; $h++) {
            $a = $corners[$h];
            $b = $corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            $key = $a < $b ? $a * $odd + $b : $b * $odd + $a;
            $faces[$key] = ($faces[$key] ?? 0) + ($a < $b ? 1 : 16777216);
        }
        $open = $nonmanifold = $flipped = $triangles = [];
        $bad = [];
        foreach ($faces as $key => $number) {
            if ($number === 16777217) {
                continue;
            }
            $all = ($number & 16777215) + ($number >> 24);
            $bad[$key] = $all;
            if ($all !== 1) {
                $edge = [intdiv($key, $odd), $key % $odd];
                if ($all === 2) {
                    $flipped[] = $edge;
                } else {
                    $nonmanifold[] = $edge;
                }
            }
        }
        unset($faces);
        for ($h = 0; $h < $count && $bad !== []; $h++) {
            $a = $corners[$h];
            $b = $corners[$h % 3 === 2 ? $h - 2 : $h + 1];
            $all = $bad[$a < $b ? $a * $odd + $b : $b * $odd + $a] ?? 0;
            if ($all === 1) {
                $open[] = [$a, $b, intdiv($h, 3)];
            } elseif ($all > 1) {
                $triangles[intdiv($h, 3)] = true;
            }
        }

        return new self($open, $nonmanifold, $flipped, $triangles);
    }
}
