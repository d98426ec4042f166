<?php

declare(strict_types=1);

namespace Isotome\Join;

use Isotome\Geometry\ClipToBox;
use Isotome\Mesh\Mesh;
use Isotome\Solid\Combined;

/**
 * Works tools into common faces of a piece, one after the other: what is added to it, and what is taken out of it.
 *
 * A tool that stays clear of the face's rim and of all other faces changes nothing but the triangles around it. Where these lie flat they are drawn anew (FlatCarving); else the tool is combined
 * (Isotome\Solid\Combined) with a slab below just them. What becomes of them takes their place; the rest of the piece is not looked at. Guarantees: what was closed stays closed. Where that does not come out even, it says so and nothing is changed: then the whole piece is to be combined.
 */
final class Carving
{
    /** Triangles are taken so much farther around than a tool reaches. */
    private const AROUND = 1.05;

    /** Leaning more than this from the axis (cosine), a triangle cannot be the top of a slab. */
    private const UPRIGHT = 0.05;

    /** @var list<float> */
    private array $xyz;

    /** @var array<int, int> three a triangle */
    private array $corners;

    /** @var array<int, int> */
    private array $tags;

    /** @var array<int, list<int>> triangles of common faces as they are now, by face */
    private array $faces = [];

    /** @var array<int, list<int>> what took the place of a triangle, beside walls of tools */
    private array $became = [];

    private int $next;

    public function __construct(Mesh $mesh, private readonly int $tag)
    {
        $this->xyz = $mesh->xyz;
        $this->corners = $mesh->corners;
        $this->tags = $mesh->tags;
        $this->next = $mesh->triangleCount();
    }

    /** @return bool whether it could be done so */
    public function work(Tool $tool): bool
    {
        $face = $tool->face;
        $way = $tool->side === 0 ? 1.0 : -1.0;
        $id = spl_object_id($face);
        $this->faces[$id] = $this->now($this->faces[$id] ?? $face->faces[$tool->side]);
        $top = $this->around($face, $this->faces[$id], $tool->x, $tool->y, self::AROUND * $tool->reach(), $way);
        $rim = $top === null ? null : $this->rim($top);
        if ($top === null || $rim === null) {
            return false;
        }
        $corners = [];
        foreach ($top as $t) {
            array_push($corners, $this->corners[3 * $t], $this->corners[3 * $t + 1], $this->corners[3 * $t + 2]);
        }
        $made = FlatCarving::of($this->xyz, $corners, $tool, $way);
        if ($made !== null && $this->replaced($top, $made, $rim)) {
            return true;
        }
        $isAdded = $tool->isAdded;
        $body = $tool->mesh();
        $bodies = Combined::bodies([$this->slab($face, $top, $rim, $body, $way), $body], static fn (array $windings): bool => $isAdded ? $windings[0] > 0 || $windings[1] > 0 : $windings[0] > 0 && $windings[1] <= 0, -1);

        return count($bodies) === 1 && $this->replaced($top, $bodies[0][0], $rim);
    }

    /**
     * @param  non-empty-list<int>  $top
     * @return array<int, int>|null the edges around: to each vertex the next one; null where two parts of the rim touch
     */
    private function rim(array $top): ?array
    {
        $edges = [];
        foreach ($top as $t) {
            for ($k = 0; $k < 3; $k++) {
                [$p, $q] = [$this->corners[3 * $t + $k], $this->corners[3 * $t + ($k + 1) % 3]];
                if (isset($edges["$q $p"])) {
                    unset($edges["$q $p"]);
                } else {
                    $edges["$p $q"] = [$p, $q];
                }
            }
        }
        $rim = [];
        foreach ($edges as [$p, $q]) {
            if (isset($rim[$p])) {
                return null;
            }
            $rim[$p] = $q;
        }

        return $rim;
    }

    /**
     * Triangles, or what became of them: those of one face may be of another as well.
     *
     * @param  list<int>  $faces
     * @return list<int>
     */
    private function now(array $faces): array
    {
        $now = [];
        while ($faces !== []) {
            $more = [];
            foreach ($faces as $t) {
                if (isset($this->tags[$t])) {
                    $now[$t] = $t;
                } else {
                    foreach ($this->became[$t] ?? [] as $next) {
                        $more[$next] = $next;
                    }
                }
            }
            $faces = $more;
        }

        return array_values($now);
    }

    /**
     * @param  list<int>  $faces
     * @return non-empty-list<int>|null null where one of them does not lie like a roof
     */
    private function around(CommonFace $face, array $faces, float $x, float $y, float $reach, float $way): ?array
    {
        $found = [];
        foreach ($faces as $t) {
            $at = [];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $i = 3 * $this->corners[$k];
                [$at[], $at[]] = $face->onPage($this->xyz[$i], $this->xyz[$i + 1], $this->xyz[$i + 2]);
            }
            if (max($at[0], $at[2], $at[4]) < $x - $reach || min($at[0], $at[2], $at[4]) > $x + $reach || max($at[1], $at[3], $at[5]) < $y - $reach || min($at[1], $at[3], $at[5]) > $y + $reach) {
                continue;
            }
            // Long ones may pass by.
            if (ClipToBox::of([[$at[0], $at[1]], [$at[2], $at[3]], [$at[4], $at[5]]], [$x - $reach, $y - $reach], [$x + $reach, $y + $reach]) === []) {
                continue;
            }
            $found[] = $t;
            [$a, $b, $c] = [3 * $this->corners[3 * $t], 3 * $this->corners[3 * $t + 1], 3 * $this->corners[3 * $t + 2]];
            [$ux, $uy, $uz] = [$this->xyz[$b] - $this->xyz[$a], $this->xyz[$b + 1] - $this->xyz[$a + 1], $this->xyz[$b + 2] - $this->xyz[$a + 2]];
            [$vx, $vy, $vz] = [$this->xyz[$c] - $this->xyz[$a], $this->xyz[$c + 1] - $this->xyz[$a + 1], $this->xyz[$c + 2] - $this->xyz[$a + 2]];
            [$nx, $ny, $nz] = [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
            if ($way * ($nx * $face->axis[0] + $ny * $face->axis[1] + $nz * $face->axis[2]) < self::UPRIGHT * sqrt($nx * $nx + $ny * $ny + $nz * $nz)) {
                return null;
            }
        }

        return $found === [] ? null : $found;
    }

    /**
     * A closed body under some triangles, deeper than the tool. Its own triangles have the tag 0, each of the others its place in the list, counted from 1.
     *
     * @param  non-empty-list<int>  $top
     * @param  array<int, int>  $rim
     */
    private function slab(CommonFace $face, array $top, array $rim, Mesh $tool, float $way): Mesh
    {
        $deepest = INF;
        for ($i = 0, $count = count($tool->xyz); $i < $count; $i += 3) {
            $deepest = min($deepest, $way * $face->onPage($tool->xyz[$i], $tool->xyz[$i + 1], $tool->xyz[$i + 2])[2]);
        }
        $number = $xyz = $corners = $tags = [];
        foreach ($top as $n => $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $p = $this->corners[$k];
                if (! isset($number[$p])) {
                    $number[$p] = count($number);
                    array_push($xyz, $this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2]);
                    $deepest = min($deepest, $way * $face->onPage($this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2])[2]);
                }
                $corners[] = $number[$p];
            }
            $tags[] = $n + 1;
        }
        $count = count($number);
        $bottom = $way * ($deepest - 1.0);
        foreach (array_keys($number) as $p) {
            [$px, $py] = $face->onPage($this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2]);
            array_push($xyz, ...$face->inSpace($px, $py, $bottom));
        }
        foreach ($top as $n => $t) {
            array_push($corners, $count + $corners[3 * $n], $count + $corners[3 * $n + 2], $count + $corners[3 * $n + 1]);
            $tags[] = 0;
        }
        foreach ($rim as $p => $q) {
            array_push($corners, $number[$q], $number[$p], $count + $number[$p], $number[$q], $count + $number[$p], $count + $number[$q]);
            array_push($tags, 0, 0);
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * Puts what became of the triangles in their place, if it has the same rim.
     *
     * @param  non-empty-list<int>  $top
     * @param  array<int, int>  $rim
     */
    private function replaced(array $top, Mesh $made, array $rim): bool
    {
        $known = [];
        foreach ($top as $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $p = $this->corners[$k];
                $known[pack('e3', $this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2])] = $p;
            }
        }
        $vertices = intdiv(count($this->xyz), 3);
        $number = $places = $corners = $tags = $edges = [];
        foreach ($made->tags as $t => $tag) {
            if ($tag === 0) {
                continue;
            }
            for ($k = 0; $k < 3; $k++) {
                $v = $made->corners[3 * $t + $k];
                if (! isset($number[$v])) {
                    $place = [$made->xyz[3 * $v], $made->xyz[3 * $v + 1], $made->xyz[3 * $v + 2]];
                    $number[$v] = $known[pack('e3', ...$place)] ?? $vertices + intdiv(count($places), 3);
                    if ($number[$v] >= $vertices) {
                        array_push($places, ...$place);
                    }
                }
                $corners[] = $number[$v];
            }
            for ($k = 0; $k < 3; $k++) {
                [$p, $q] = [$number[$made->corners[3 * $t + $k]], $number[$made->corners[3 * $t + ($k + 1) % 3]]];
                if (isset($edges["$q $p"])) {
                    unset($edges["$q $p"]);
                } else {
                    $edges["$p $q"] = [$p, $q];
                }
            }
            $tags[] = $tag > 0 ? $this->tags[$top[$tag - 1]] : $this->tag;
        }
        if (count($edges) !== count($rim)) {
            return false;
        }
        foreach ($edges as [$p, $q]) {
            if (($rim[$p] ?? -1) !== $q) {
                return false;
            }
        }
        foreach ($top as $t) {
            unset($this->tags[$t]);
        }
        array_push($this->xyz, ...$places);
        $new = [];
        $n = 0;
        foreach ($made->tags as $tag) {
            if ($tag === 0) {
                continue;
            }
            $this->tags[$this->next] = $tags[$n];
            for ($k = 0; $k < 3; $k++) {
                $this->corners[3 * $this->next + $k] = $corners[3 * $n + $k];
            }
            if ($tag > 0) {
                $new[] = $this->next;
            }
            $this->next++;
            $n++;
        }
        $this->became += array_fill_keys($top, $new);

        return true;
    }

    /** The piece as it is now, without vertices that no triangle uses. */
    public function mesh(): Mesh
    {
        $number = $xyz = $corners = [];
        foreach ($this->tags as $t => $_) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $p = $this->corners[$k];
                if (! isset($number[$p])) {
                    $number[$p] = count($number);
                    $xyz[] = $this->xyz[3 * $p];
                    $xyz[] = $this->xyz[3 * $p + 1];
                    $xyz[] = $this->xyz[3 * $p + 2];
                }
                $corners[] = $number[$p];
            }
        }

        return Mesh::of($xyz, $corners, array_values($this->tags));
    }
}
