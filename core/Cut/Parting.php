<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Cavities;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Cap;
use Isotome\Seal\Rim;

/**
 * A mesh parted by one plane. What hangs together is found before any triangle is moved, so that each goes straight to the list of its body and is
 * never moved twice, however many bodies come out.
 *
 * Guarantees those of FlatCut; triangles and vertices of every body keep their order.
 */
final class Parting
{
    public readonly Rim $rim;

    private readonly Divided $divided;

    /** @var list<int> see Sides::of */
    private array $sides;

    /** @var list<int> see Divided::touched */
    private array $touched = [];

    /** @var array<int, int> for each vertex one that hangs together with it on its side and is not higher; the lowest points to itself */
    private array $parent = [];

    private bool $hasAhead = false;

    private bool $hasBehind = false;

    private function __construct(private readonly Mesh $mesh, Plane $plane)
    {
        $this->sides = Sides::of($mesh->xyz, $plane);
        $this->join();
        $this->divided = Divided::of($mesh, $this->sides, $this->touched, $plane);
        $this->rim = $this->divided->rim;
        $this->hasAhead = $this->hasAhead || $this->divided->ahead !== [];
        $this->hasBehind = $this->hasBehind || $this->divided->behind !== [];
    }

    public static function of(Mesh $mesh, Plane $plane): self
    {
        return new self($mesh, $plane);
    }

    /** Has either side no triangle? */
    public function isOneSided(): bool
    {
        return ! $this->hasAhead || ! $this->hasBehind;
    }

    /**
     * The bodies of one or both sides with the cap on them; those behind come first, each side's in the order of their lowest
     * vertices. Nothing is kept for a second time, so this works once.
     *
     * @param  int  $tag  surface tag of the cap's triangles
     * @return array{list<Mesh>, list<Mesh>} behind and ahead; none of a side that is not wanted
     */
    public function bodies(Cap $cap, int $tag, bool $wantsBehind, bool $wantsAhead): array
    {
        $parent = $this->parent;
        $this->parent = [];
        $borders = [];
        $needed = [];
        foreach ([[Sides::BEHIND, $wantsBehind], [Sides::AHEAD, $wantsAhead]] as [$side, $isWanted]) {
            if ($isWanted) {
                $borders[$side] = Border::of($this->mesh, $this->divided, $side === Sides::BEHIND, $cap, $tag);
                $parent = $borders[$side]->join($parent);
                $needed += array_fill_keys($borders[$side]->vertices, true);
            }
        }
        [$numbers, $sideOf] = $this->shells($parent, $needed, $wantsBehind, $wantsAhead);
        unset($needed);
        $this->sides = [];
        foreach ($borders as $side => $border) {
            foreach ($border->number($parent, $numbers, count($sideOf)) as $_) {
                $sideOf[] = $side;
            }
        }
        $shells = $this->gathered($parent, $numbers, array_keys($sideOf), count($sideOf), $borders);
        $lists = [];
        foreach ([Sides::BEHIND, Sides::AHEAD] as $side) {
            $lists[] = $this->withCavities($parent, $numbers, array_keys($sideOf, $side, true), $shells, $borders);
        }

        return [$lists[0], $lists[1]];
    }

    /**
     * The bodies of a side: its shells, cavities with the shells around them.
     *
     * @param  array<int, int>  $parent
     * @param  array<int, int>  $numbers  of the shells, by their lowest vertices
     * @param  list<int>  $mine  the shells of the side
     * @param  list<Mesh>  $shells
     * @param  array<int, Border>  $borders
     * @return list<Mesh>
     */
    private function withCavities(array $parent, array $numbers, array $mine, array $shells, array $borders): array
    {
        $apart = array_map(static fn (int $shell): Mesh => $shells[$shell], $mine);
        $homes = count($apart) > 1 ? Cavities::homes($apart) : array_keys($apart);
        if ($homes === array_keys($apart)) {
            return array_map(Bodies::isWhole(...), $apart);
        }
        $bodies = 0;
        $body = [];
        foreach ($homes as $n => $home) {
            if ($home === $n) {
                $body[$n] = $bodies++;
            }
        }
        $groupOf = array_fill(0, count($shells), -1);
        foreach ($homes as $n => $home) {
            $groupOf[$mine[$n]] = $body[$home];
        }

        return $this->gathered($parent, $numbers, array_values($groupOf), $bodies, $borders);
    }

    /**
     * Union-find over the triangles wholly on one side (R. E. Tarjan 1975; path halving), the lower number staying the root; the others are listed.
     */
    private function join(): void
    {
        $vertices = $this->mesh->vertexCount();
        if ($vertices === 0) {
            return;
        }
        $corners = $this->mesh->corners;
        $sides = $this->sides;
        $parent = range(0, $vertices - 1);
        $touched = [];
        $hasAhead = $hasBehind = false;
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            // Most triangles join what hangs together already, and so is on one side.
            $p = $parent[$a];
            if ($p === $parent[$b] && $p === $parent[$c]) {
                continue;
            }
            $side = $sides[$a];
            if ($side !== $sides[$b] || $side !== $sides[$c] || $side === 0) {
                $touched[] = intdiv($i, 3);

                continue;
            }
            if ($side === 2) {
                $hasAhead = true;
            } else {
                $hasBehind = true;
            }
            while (($p = $parent[$a]) !== $a) {
                $a = $parent[$a] = $parent[$p];
            }
            while (($p = $parent[$b]) !== $b) {
                $b = $parent[$b] = $parent[$p];
            }
            while (($p = $parent[$c]) !== $c) {
                $c = $parent[$c] = $parent[$p];
            }
            if ($a !== $b || $b !== $c) {
                $root = $a < $b ? $a : $b;
                if ($c < $root) {
                    $root = $c;
                }
                $parent[$a] = $root;
                $parent[$b] = $root;
                $parent[$c] = $root;
            }
        }
        [$this->parent, $this->touched, $this->hasAhead, $this->hasBehind] = [$parent, $touched, $hasAhead, $hasBehind];
    }

    /**
     * @param  array<int, int>  $parent
     * @param  array<int, true>  $needed  vertices that triangles at the border use
     * @return array{array<int, int>, list<int>} numbers of the shells that are wanted, by their lowest vertices; side of each
     */
    private function shells(array $parent, array $needed, bool $wantsBehind, bool $wantsAhead): array
    {
        $wants = [false, $wantsBehind, $wantsAhead];
        $roots = [];
        // A vertex that no other one points to has no triangle wholly on its side.
        foreach (array_count_values($parent) as $v => $times) {
            if (($times > 1 || isset($needed[$v])) && $parent[$v] === $v && $wants[$this->sides[$v]]) {
                $roots[] = $v;
            }
        }
        sort($roots);

        return [array_flip($roots), array_map(fn (int $v): int => $this->sides[$v], $roots)];
    }

    /**
     * Every triangle to its group, in one pass.
     *
     * @param  array<int, int>  $parent
     * @param  array<int, int>  $numbers  of the shells, by their lowest vertices
     * @param  list<int>  $groupOf  of each shell; −1 for none
     * @param  array<int, Border>  $borders
     * @return list<Mesh> by group
     */
    private function gathered(array $parent, array $numbers, array $groupOf, int $groups, array $borders): array
    {
        if ($groups === 0) {
            return [];
        }
        [$codes, $places] = $this->placed($parent, array_map(static fn (int $shell): int => $groupOf[$shell], $numbers), $groups);
        unset($parent);
        $strips = [];
        foreach ($borders as $side => $border) {
            $strips[$side] = $border->placed($codes, $places, $groupOf);
        }
        [$lists, $tags] = $this->sorted($codes, $groups, $borders, $strips);
        // Freed before the tags are made: at ten million triangles that saves 130 MB.
        unset($codes);
        if ($tags === []) {
            $skin = $this->mesh->tags[0] ?? 0;
            $tags = array_map(static fn (array $of): array => $of === [] ? [] : array_fill(0, intdiv(count($of), 3), $skin), $lists);
        }
        // What does not stand in the place of a triangle of the mesh: triangles on the plane, and the caps.
        foreach ($borders as $side => $border) {
            $strip = $strips[$side];
            $count = count($strip);
            for ($i = $border->upTo === [] ? 0 : $border->upTo[count($border->upTo) - 1]; $i < $count; $i += 3) {
                if ($strip[$i] >= 0) {
                    $group = $strip[$i] >> 32;
                    $low = $group << 32;
                    $lists[$group][] = $strip[$i] - $low;
                    $lists[$group][] = $strip[$i + 1] - $low;
                    $lists[$group][] = $strip[$i + 2] - $low;
                    $tags[$group][] = $border->tags[intdiv($i, 3)];
                }
            }
        }
        $meshes = [];
        foreach ($places as $group => $xyz) {
            $meshes[] = Mesh::of($xyz, $lists[$group], $tags[$group]);
        }

        return $meshes;
    }

    /**
     * Every vertex to the list of its group. The list of one group is at hand at a time: neighbours are mostly of the same.
     *
     * @param  array<int, int>  $parent
     * @param  array<int, int>  $groupOf  of the lowest vertex of each shell that is wanted
     * @return array{list<int>, list<list<float>>}  code of each vertex: its group, shifted by 32 bits, and its number there, or −1; coordinates by group
     */
    private function placed(array $parent, array $groupOf, int $groups): array
    {
        $xyz = $this->mesh->xyz;
        /** @var list<list<float>> $places */
        $places = array_fill(0, $groups, []);
        /** @var list<int> $codes */
        $codes = [];
        $list = [];
        $at = $next = $i = 0;
        foreach ($parent as $v => $p) {
            /** @var int $group */
            $group = $p === $v ? ($groupOf[$v] ?? -1) : $codes[$p] >> 32;
            if ($group < 0) {
                $codes[] = -1;
            } else {
                if ($group !== $at) {
                    $places[$at] = $list;
                    $list = $places[$group];
                    $places[$group] = [];
                    $at = $group;
                    $next = ($group << 32) + intdiv(count($list), 3);
                }
                $codes[] = $next++;
                $list[] = $xyz[$i];
                $list[] = $xyz[$i + 1];
                $list[] = $xyz[$i + 2];
            }
            $i += 3;
        }
        $places[$at] = $list;

        return [$codes, $places];
    }

    /**
     * The mesh's triangles, divided ones in the place of what they were parts of, by group.
     *
     * @param  list<int>  $codes
     * @param  array<int, Border>  $borders
     * @param  array<int, list<int>>  $strips  codes of the corners of the borders' triangles
     * @return array{list<list<int>>, list<list<int>>} corners and tags; no tags when those of the mesh are all the same
     */
    private function sorted(array $codes, int $groups, array $borders, array $strips): array
    {
        $corners = $this->mesh->corners;
        $tags = $this->mesh->tags;
        // Mostly all are skin: then none has to be looked up.
        $isMixed = $tags !== [] && min($tags) !== max($tags);
        /** @var list<list<int>> $lists */
        $lists = array_fill(0, $groups, []);
        $tagLists = $lists;
        /** @var list<int> $list */
        $list = [];
        /** @var list<int> $tagList */
        $tagList = [];
        $at = $low = $i = 0;
        $high = 1 << 32;
        $from = [0, 0, 0];
        foreach ([...$this->touched, count($tags)] as $n => $stop) {
            // Between two triangles that are touched, each is wholly on one side.
            for ($stop *= 3; $i < $stop; $i += 3) {
                $a = $codes[$corners[$i]];
                if ($a < $low || $a >= $high) {
                    if ($a < 0) {
                        continue;
                    }
                    $lists[$at] = $list;
                    $tagLists[$at] = $tagList;
                    $at = $a >> 32;
                    $list = $lists[$at];
                    $tagList = $tagLists[$at];
                    $lists[$at] = $tagLists[$at] = [];
                    $low = $at << 32;
                    $high = $low + (1 << 32);
                }
                $list[] = $a - $low;
                $list[] = $codes[$corners[$i + 1]] - $low;
                $list[] = $codes[$corners[$i + 2]] - $low;
                if ($isMixed) {
                    $tagList[] = $tags[intdiv($i, 3)];
                }
            }
            $i += 3;
            foreach ($borders as $side => $border) {
                for ($upTo = $border->upTo[$n] ?? 0; $from[$side] < $upTo; $from[$side] += 3) {
                    $k = $from[$side];
                    $a = $strips[$side][$k];
                    if ($a < 0) {
                        continue;
                    }
                    if ($a >> 32 !== $at) {
                        $lists[$at] = $list;
                        $tagLists[$at] = $tagList;
                        $at = $a >> 32;
                        $list = $lists[$at];
                        $tagList = $tagLists[$at];
                        $lists[$at] = $tagLists[$at] = [];
                        $low = $at << 32;
                        $high = $low + (1 << 32);
                    }
                    $list[] = $a - $low;
                    $list[] = $strips[$side][$k + 1] - $low;
                    $list[] = $strips[$side][$k + 2] - $low;
                    if ($isMixed) {
                        $tagList[] = $border->tags[intdiv($k, 3)];
                    }
                }
            }
        }
        $lists[$at] = $list;
        $tagLists[$at] = $tagList;

        return [$lists, $isMixed ? $tagLists : []];
    }
}
