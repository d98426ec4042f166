<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Closure;
use Isotome\Geometry\Extent;
use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Cap;
use Isotome\Seal\Rim;

/**
 * Cuts a mesh with many parallel planes in one pass.
 *
 * Guarantees the same as cutting with one after the other, from behind to ahead, and all that FlatCut guarantees for each; and a slab has no
 * more triangles for the slabs behind it: what is left of a triangle ahead of a plane goes on whole, as three or four corners, and gets
 * diagonals, points of an even seal and caps only in the slab where it ends.
 * Every triangle waits in the first slab that it reaches, so each plane divides only what lies between it and the plane before.
 */
final class SeriesCut
{
    /**
     * @param  list<Plane>  $planes  one facing, ascending, at least the kerf apart
     * @param  FlatBlade  $settings  its plane is not used
     * @param  int  $tag  surface tag of the cut faces
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return Outcome|null null when every plane misses
     */
    public static function of(Mesh $mesh, array $planes, FlatBlade $settings, int $tag, ?Closure $progress = null): ?Outcome
    {
        if ($planes === []) {
            return null;
        }
        foreach ($settings->catch > 0.0 ? $planes : [] as $plane) {
            [$back, $front] = $settings->on($plane)->faces();
            $mesh = Catching::of($mesh, $back, $settings->catch)->mesh;
            $mesh = $front === $back ? $mesh : Catching::of($mesh, $front, $settings->catch)->mesh;
        }
        $extent = Extent::of($mesh->xyz);
        $stops = self::stops($planes, $settings, $extent);
        $waiting = self::waiting($mesh, array_column($stops, 1), $extent);
        $last = count($stops);
        $bodies = $unclosed = [];
        $sound = true;
        $met = 0;
        // What lies ahead of the last stop and is not cut yet, with the vertex of the mesh that each vertex was, or −1.
        $rest = Mesh::of([], []);
        $quads = new Quads();
        $origin = [];
        /** @var list<array{Rim, Cap, bool, int}> $low the cut that bounds the slab behind, see Closing::shut */
        $low = [];
        /** @var array<int, int> $local vertex of the slab for each vertex of the mesh, −1 outside it */
        $local = $mesh->xyz === [] ? [] : array_fill(0, $mesh->vertexCount(), -1);
        foreach ($stops as $k => [$back, $front]) {
            [$slab, $origin] = self::slab($mesh, $waiting[$k] ?? [], $rest, $origin, $local);
            unset($waiting[$k], $rest);
            $isOne = $front === $back;
            $halves = Split::of($slab, $back, $extent, $isOne ? null : true, $quads);
            $cap = Closing::cap($halves->rim, $settings);
            $caps = [[$halves, $cap]];
            if ($settings->keep === Keep::Both || ($settings->keep === Keep::Behind && $k === 0)) {
                $rims = [...self::moved($low, $slab, $back, $extent), [$halves->rim, $cap, true, $halves->behindBase]];
                array_push($bodies, ...Closing::bodies(Bodies::of(Closing::shut($halves->take(true), $rims, $tag)), $tag));
            }
            if (! $isOne) {
                $halves = Split::of($slab, $front, $extent, false, $quads);
                $cap = Closing::cap($halves->rim, $settings);
                $caps[] = [$halves, $cap];
            }
            $ahead = [];
            foreach (Sides::of($slab->xyz, $front, $extent) as $v => $side) {
                if ($side === Sides::AHEAD) {
                    $ahead[] = $origin[$v];
                }
            }
            unset($slab);
            foreach ($caps as [$of, $one]) {
                $met += $of->rim->from === [] ? 0 : 1;
                $sound = $sound && $one->sound;
                $unclosed = [...$unclosed, ...Closing::unclosed($of->rim, $one)];
            }
            if ($settings->keep === Keep::Outline) {
                array_push($bodies, ...Closing::sheets($halves->rim, $cap, $tag));
            }
            $rest = Mesh::of(...$halves->take(false));
            $quads = $halves->aheadQuads;
            $low = [[$halves->rim, $cap, false, $halves->aheadBase]];
            unset($halves, $caps, $rims);
            $origin = array_pad($ahead, $rest->vertexCount(), -1);
            $progress !== null && $progress(($k + 1) / ($last + 1));
        }
        if ($settings->keep === Keep::Both || $settings->keep === Keep::Ahead) {
            [$slab] = self::slab($mesh, $waiting[$last] ?? [], $rest, $origin, $local);
            [$corners, $tags] = $quads->triangles($slab->xyz);
            $skin = [$slab->xyz, [...$slab->corners, ...$corners], [...$slab->tags, ...$tags]];
            array_push($bodies, ...Closing::bodies(Bodies::of(Closing::shut($skin, $low, $tag)), $tag));
        }

        return $met === 0 || $bodies === [] ? null : new Outcome($bodies, $unclosed, $sound);
    }

    /**
     * Both faces of each blade. Between two that rounding cannot keep apart there is nothing: they are one.
     *
     * @param  list<Plane>  $planes
     * @return list<array{Plane, Plane}>
     */
    private static function stops(array $planes, FlatBlade $settings, float $extent): array
    {
        $stops = [];
        foreach ($planes as $plane) {
            [$back, $front] = $settings->on($plane)->faces();
            $before = $stops === [] ? null : $stops[count($stops) - 1];
            if ($before === null || $back->offset - $before[1]->offset > 4 * max(Sides::band($extent, $back), Sides::band($extent, $before[1]))) {
                $stops[] = [$back, $front];
            } elseif ($back !== $front) {
                $stops[count($stops) - 1][1] = $front;
            }
        }

        return $stops;
    }

    /**
     * The cut at a slab's lower end, numbered as the slab is behind the next plane: there all its points are.
     *
     * @param  list<array{Rim, Cap, bool, int}>  $low
     * @return list<array{Rim, Cap, bool, int}>
     */
    private static function moved(array $low, Mesh $slab, Plane $plane, float $extent): array
    {
        foreach ($low as $i => [, , , $base]) {
            $sides = Sides::of(array_slice($slab->xyz, 0, 3 * $base), $plane, $extent);
            $low[$i][3] = count(array_keys($sides, Sides::BEHIND, true));
        }

        return $low;
    }

    /**
     * @param  list<Plane>  $faces
     * @return array<int, list<int>> triangles by the first slab that they reach or touch
     */
    private static function waiting(Mesh $mesh, array $faces, float $extent): array
    {
        $places = [];
        foreach ($faces as $face) {
            // A vertex this near may be on the plane: it waits behind it.
            $places[] = $face->offset + 2 * Sides::band($extent, $face);
        }
        $places[] = INF;
        [$nx, $ny, $nz] = $faces[0]->facing();
        $xyz = $mesh->xyz;
        $first = [];
        $k = 0;
        $count = count($xyz);
        for ($i = 0; $i < $count; $i += 3) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2];
            // Neighbouring vertices lie in neighbouring slabs.
            while ($d > $places[$k]) {
                $k++;
            }
            while ($k > 0 && $d <= $places[$k - 1]) {
                $k--;
            }
            $first[] = $k;
        }
        $corners = $mesh->corners;
        $count = count($corners);
        $waiting = array_fill(0, count($places), []);
        for ($i = 0, $t = 0; $i < $count; $i += 3, $t++) {
            $k = $first[$corners[$i]];
            if ($k > $first[$corners[$i + 1]]) {
                $k = $first[$corners[$i + 1]];
            }
            if ($k > $first[$corners[$i + 2]]) {
                $k = $first[$corners[$i + 2]];
            }
            $waiting[$k][] = $t;
        }

        return $waiting;
    }

    /**
     * @param  list<int>  $triangles
     * @param  list<int>  $origin
     * @param  array<int, int>  $local  all −1, before and after
     * @return array{Mesh, list<int>} the slab, and the vertex of the mesh that each of its vertices was, or −1
     */
    private static function slab(Mesh $mesh, array $triangles, Mesh $rest, array $origin, array &$local): array
    {
        if ($triangles === []) {
            return [$rest, $origin];
        }
        $xyz = $rest->xyz;
        $slab = $rest->corners;
        $tags = $rest->tags;
        $corners = $mesh->corners;
        $all = $mesh->xyz;
        $allTags = $mesh->tags;
        $next = count($origin);
        // Taken out of the reference: reading through one costs more than all the rest.
        $of = $local;
        $local = [];
        foreach ($origin as $v => $from) {
            if ($from >= 0) {
                $of[$from] = $v;
            }
        }
        foreach ($triangles as $t) {
            $i = 3 * $t;
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if (($p = $of[$a]) < 0) {
                $of[$a] = $p = $next++;
                $origin[] = $a;
                $xyz[] = $all[3 * $a];
                $xyz[] = $all[3 * $a + 1];
                $xyz[] = $all[3 * $a + 2];
            }
            if (($q = $of[$b]) < 0) {
                $of[$b] = $q = $next++;
                $origin[] = $b;
                $xyz[] = $all[3 * $b];
                $xyz[] = $all[3 * $b + 1];
                $xyz[] = $all[3 * $b + 2];
            }
            if (($r = $of[$c]) < 0) {
                $of[$c] = $r = $next++;
                $origin[] = $c;
                $xyz[] = $all[3 * $c];
                $xyz[] = $all[3 * $c + 1];
                $xyz[] = $all[3 * $c + 2];
            }
            $slab[] = $p;
            $slab[] = $q;
            $slab[] = $r;
            $tags[] = $allTags[$t];
        }

        foreach ($origin as $from) {
            if ($from >= 0) {
                $of[$from] = -1;
            }
        }
        $local = $of;

        return [Mesh::of($xyz, $slab, $tags), $origin];
    }
}
