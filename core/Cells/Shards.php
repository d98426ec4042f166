<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Isotome\Check\EdgePlaces;
use Isotome\Format\Disentangle;
use Isotome\Format\Precision;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Compact;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Pinches;
use Isotome\Seal\EvenSeal;
use Isotome\Seal\Rim;

/** The meshes of the shards: what an overlay left as outlines, filled. A facet is filled once and closes the shards on both its sides. */
final class Shards
{
    /**
     * @param  bool  $sealed  false leaves the facets out
     * @param  float|null  $edge  edge length of an even seal, mm; null for a lean one
     * @return array{array<int, Mesh>, int} shard → mesh (several bodies together), and how many outlines crossed
     */
    public static function of(Mesh $mesh, Complex $complex, Overlay $overlay, int $tag, bool $sealed = true, ?float $edge = null): array
    {
        $xyz = $overlay->xyz;
        $all = $mesh->corners;
        $shards = $complex->labels;
        /** @var list<list<int>> $corners of the new faces of each shard */
        $corners = array_fill(0, $shards, []);
        /** @var list<list<int>> $tags */
        $tags = array_fill(0, $shards, []);
        $unsound = 0;
        $runs = self::runs($overlay->whole, $shards);
        foreach ($overlay->parts as $t => $parts) {
            [$u, $v] = self::page($xyz, 3 * $all[3 * $t], 3 * $all[3 * $t + 1], 3 * $all[3 * $t + 2]);
            $was = $mesh->tags[$t];
            foreach ($parts as $of => $edges) {
                [$triangles, $sound] = Fill::of($xyz, $edges, $u, $v);
                $unsound += $sound ? 0 : 1;
                foreach ($triangles as $k => $p) {
                    $corners[$of][] = $p;
                    if ($k % 3 === 0) {
                        $tags[$of][] = $was;
                    }
                }
            }
        }
        if ($sealed) {
            foreach ($overlay->caps as $f => $edges) {
                [$u, $v] = Plane::axesOf($complex->planes[4 * $f], $complex->planes[4 * $f + 1], $complex->planes[4 * $f + 2]);
                if ($edge === null) {
                    [$triangles, $sound] = Fill::of($xyz, $edges, $u, $v);
                } else {
                    [$triangles, $sound, $new] = self::even($xyz, $edges, Plane::at($complex->planes[4 * $f + 3], [$complex->planes[4 * $f], $complex->planes[4 * $f + 1], $complex->planes[4 * $f + 2]]), $edge);
                    foreach ($new as $coordinate) {
                        $xyz[] = $coordinate;
                    }
                }
                $unsound += $sound ? 0 : 1;
                $behind = $complex->behind[$f] < 0 ? -1 : $complex->label[$complex->behind[$f]];
                $ahead = $complex->ahead[$f] < 0 ? -1 : $complex->label[$complex->ahead[$f]];
                for ($k = 0, $count = count($triangles); $k < $count; $k += 3) {
                    if ($behind >= 0) {
                        $corners[$behind][] = $triangles[$k];
                        $corners[$behind][] = $triangles[$k + 1];
                        $corners[$behind][] = $triangles[$k + 2];
                        $tags[$behind][] = $tag;
                    }
                    if ($ahead >= 0) {
                        $corners[$ahead][] = $triangles[$k];
                        $corners[$ahead][] = $triangles[$k + 2];
                        $corners[$ahead][] = $triangles[$k + 1];
                        $tags[$ahead][] = $tag;
                    }
                }
            }
        }
        $pinched = $overlay->pinched;
        $local = array_fill(0, max(1, intdiv(count($xyz), 3)), -1);
        $meshes = [];
        // Numbers run on from shard to shard: a lower one than a shard's first is another's.
        $first = $next = $firstNew = 0;
        foreach ($corners as $of => $list) {
            if ($list === [] && $runs[$of] === []) {
                continue;
            }
            // Whole triangles first, then new faces: only beside these may an edge have more than two.
            $own = $numbered = $marks = [];
            $runs[$of][] = -1;
            for ($r = 0, $count = count($runs[$of]); $r < $count; $r += 2) {
                $from = $runs[$of][$r];
                if ($from < 0) {
                    [$some, $from, $to, $firstNew] = [$list, 0, count($list), count($numbered)];
                    $marks[] = $tags[$of];
                } else {
                    $to = $runs[$of][$r + 1];
                    $marks[] = array_slice($mesh->tags, $from, $to - $from);
                    [$some, $from, $to] = [$all, 3 * $from, 3 * $to];
                }
                for ($i = $from; $i < $to; $i++) {
                    $p = $some[$i];
                    $k = $local[$p];
                    if ($k < $first) {
                        $local[$p] = $k = $next++;
                        $own[] = $xyz[3 * $p];
                        $own[] = $xyz[3 * $p + 1];
                        $own[] = $xyz[3 * $p + 2];
                    }
                    $numbered[] = $k - $first;
                }
            }
            $apart = [];
            foreach ($pinched[$of] ?? [] as $p => $_) {
                if ($local[$p] >= $first) {
                    $apart[$local[$p] - $first] = true;
                }
            }
            $vertices = $next - $first;
            $first = $next;
            if ($apart !== []) {
                [$own, $numbered] = Pinches::apart($own, $numbered, $apart);
            }
            $made = Mesh::of($own, $numbered, array_merge(...$marks));
            $meshes[$of] = self::isTangled($numbered, $firstNew, $vertices) ? self::untangled($made) : $made;
        }

        return [$meshes, $unsound];
    }

    /**
     * An even seal of one facet, its rim as it is.
     *
     * @param  list<float>  $xyz
     * @param  list<array{int, int}>  $edges
     * @return array{list<int>, bool, list<float>} triangles, whether outlines did not cross, and the new vertices, numbered on
     */
    private static function even(array $xyz, array $edges, Plane $plane, float $edge): array
    {
        $number = $rim = $from = $to = [];
        foreach ($edges as [$p, $q]) {
            foreach ([$p, $q] as $v) {
                if (! isset($number[$v])) {
                    $number[$v] = count($number);
                    array_push($rim, $xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]);
                }
            }
            $from[] = $number[$p];
            $to[] = $number[$q];
        }
        $outline = new Rim($plane, $rim, $from, $to, array_fill(0, count($from), -1), []);
        $cap = EvenSeal::of($outline, $edge);
        $all = array_keys($number);
        $next = intdiv(count($xyz), 3);
        for ($k = 0, $count = intdiv(count($cap->newXyz), 3); $k < $count; $k++) {
            $all[] = $next + $k;
        }

        return [array_map(static fn (int $p): int => $all[$p], $cap->triangles), $cap->sound, $cap->newXyz];
    }

    /**
     * The triangles that are not divided, shard by shard: most lie beside each other in their order.
     *
     * @param  list<int>  $whole
     * @return list<list<int>> of each shard, where a run begins and where it has ended, and so on
     */
    private static function runs(array $whole, int $shards): array
    {
        $runs = array_fill(0, $shards, []);
        $last = -1;
        foreach ($whole as $t => $of) {
            if ($of !== $last) {
                if ($last >= 0) {
                    $runs[$last][] = $t;
                }
                if ($of >= 0) {
                    $runs[$of][] = $t;
                }
                $last = $of;
            }
        }
        if ($last >= 0) {
            $runs[$last][] = count($whole);
        }

        return $runs;
    }

    /**
     * Has an edge of a new face more than two faces?
     *
     * @param  list<int>  $corners
     * @param  int  $new  where the new faces begin
     */
    private static function isTangled(array $corners, int $new, int $vertices): bool
    {
        $isNew = str_repeat("\0", $vertices + 1);
        $count = count($corners);
        for ($i = $new; $i < $count; $i++) {
            $isNew[$corners[$i]] = "\1";
        }
        $faces = [];
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if ($isNew[$a] === "\0" ? $isNew[$b] === "\0" || $isNew[$c] === "\0" : $isNew[$b] === "\0" && $isNew[$c] === "\0") {
                continue;
            }
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                if (($faces[$key] = ($faces[$key] ?? 0) + 1) > 2) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Edges with more than two faces, as needles beside a facet leave them, are told apart. */
    public static function untangled(Mesh $mesh): Mesh
    {
        if (EdgeCheck::of($mesh)->nonmanifoldEdges === 0) {
            return $mesh;
        }
        $vertices = $index = [];
        foreach (EdgePlaces::of($mesh)->nonmanifold as [$a, $b]) {
            $vertices[$a] = $vertices[$b] = true;
        }
        $precision = Precision::double();
        foreach ($precision->keys($mesh->xyz) as $keys) {
            foreach ($keys as $key) {
                $index[$key] = count($index);
            }
        }
        [$xyz, $corners, $tags] = (new Disentangle($mesh->xyz, $mesh->corners, $mesh->tags, $index, $precision))->near($vertices);
        [$xyz, $corners] = Compact::of($xyz, $corners);

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * @param  list<float>  $xyz
     * @return array{int, int}
     */
    private static function page(array $xyz, int $a, int $b, int $c): array
    {
        $ux = $xyz[$b] - $xyz[$a];
        $uy = $xyz[$b + 1] - $xyz[$a + 1];
        $uz = $xyz[$b + 2] - $xyz[$a + 2];
        $vx = $xyz[$c] - $xyz[$a];
        $vy = $xyz[$c + 1] - $xyz[$a + 1];
        $vz = $xyz[$c + 2] - $xyz[$a + 2];

        return Plane::axesOf($uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx);
    }
}
