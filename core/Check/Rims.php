<?php

declare(strict_types=1);

namespace Isotome\Check;

use Isotome\Mesh\Mesh;
use Isotome\Seal\Outlines;

/** Open edges ordered into rims: the borders of holes and of sheets. */
final readonly class Rims
{
    /**
     * @param  list<array{vertices: list<int>, length_mm: float, closed: bool}>  $list  longest first; vertices in the order in which triangles that close the rim run along it
     */
    private function __construct(public array $list)
    {
    }

    /** @param  list<array{int, int, int}>|null  $open  see EdgePlaces */
    public static function of(Mesh $mesh, ?array $open = null): self
    {
        $open ??= EdgePlaces::of($mesh)->open;
        $from = array_column($open, 1);
        $to = array_column($open, 0);
        $traced = Outlines::of($from, $to);
        $rims = [];
        foreach ([[$traced->closed, true], [$traced->open, false]] as [$ways, $isClosed]) {
            foreach ($ways as $way) {
                $length = 0.0;
                $last = count($way) - 1;
                for ($i = $isClosed ? 0 : 1; $i <= $last; $i++) {
                    $p = 3 * $way[$i === 0 ? $last : $i - 1];
                    $q = 3 * $way[$i];
                    $length += sqrt(($mesh->xyz[$p] - $mesh->xyz[$q]) ** 2 + ($mesh->xyz[$p + 1] - $mesh->xyz[$q + 1]) ** 2 + ($mesh->xyz[$p + 2] - $mesh->xyz[$q + 2]) ** 2);
                }
                $rims[] = ['vertices' => $way, 'length_mm' => $length, 'closed' => $isClosed];
            }
        }
        usort($rims, static fn (array $a, array $b): int => $b['length_mm'] <=> $a['length_mm'] ?: $a['vertices'] <=> $b['vertices']);

        return new self($rims);
    }
}
