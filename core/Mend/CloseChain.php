<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Mesh\Boundary;
use Isotome\Mesh\Mesh;

/**
 * Closes what is left open, whatever the new faces cross and however many faces meet at an edge then: afterwards every place has a whole winding number, and
 * Isotome\Solid\Combined can make a solid of it.
 *
 * Every closed line of the boundary gets its surface of smallest area (SmallestSurface), on its own points. New faces carry the given tag. A mesh that closes
 * already comes back as it is.
 */
final class CloseChain
{
    /**
     * @param  Closure(float): mixed|null  $progress  called again and again; it may throw to cancel
     * @return array{mesh: Mesh, closed: int, added: int} lines closed and triangles added
     */
    public static function of(Mesh $mesh, int $tag = 0, ?Closure $progress = null): array
    {
        $loops = self::loops(Boundary::of($mesh));
        $added = [];
        foreach ($loops as $loop) {
            array_push($added, ...(SmallestSurface::of($mesh->xyz, $loop, [], $progress) ?? self::fan($loop)));
        }
        if ($added === []) {
            return ['mesh' => $mesh, 'closed' => 0, 'added' => 0];
        }
        $count = intdiv(count($added), 3);

        return [
            'mesh' => Mesh::of($mesh->xyz, [...$mesh->corners, ...$added], [...$mesh->tags, ...array_fill(0, $count, $tag)]),
            'closed' => count($loops), 'added' => $count,
        ];
    }

    /**
     * Takes a boundary apart into lines that pass no vertex twice.
     *
     * @param  list<array{int, int}>  $edges
     * @return list<non-empty-list<int>>
     */
    private static function loops(array $edges): array
    {
        $next = [];
        foreach ($edges as [$p, $q]) {
            $next[$p][] = $q;
        }
        $loops = [];
        foreach (array_keys($next) as $start) {
            while (($next[$start] ?? []) !== []) {
                $way = [$start];
                $place = [$start => 0];
                $at = $start;
                do {
                    $at = array_pop($next[$at]) ?? $start;
                    if (! isset($place[$at])) {
                        $place[$at] = count($way);
                        $way[] = $at;

                        continue;
                    }
                    // Back at a vertex: what lies between is one line.
                    $loop = array_splice($way, $place[$at] + 1);
                    foreach ($loop as $v) {
                        unset($place[$v]);
                    }
                    $loops[] = [$at, ...$loop];
                } while (count($way) > 1 || ($next[$at] ?? []) !== []);
            }
        }

        return $loops;
    }

    /**
     * @param  non-empty-list<int>  $loop
     * @return list<int>
     */
    private static function fan(array $loop): array
    {
        $triangles = [];
        for ($k = 1; $k + 1 < count($loop); $k++) {
            array_push($triangles, $loop[0], $loop[$k], $loop[$k + 1]);
        }

        return $triangles;
    }
}
