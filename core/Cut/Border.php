<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Cap;

/**
 * The strip of one side of a cut along its rim, closed by the cap: the parts of divided triangles and the cap's triangles. It is small beside the
 * mesh, so all that has to be told apart and joined at a cut is done on it alone.
 */
final class Border
{
    /** @var array<int, int> shell of the whole for each shell of the strip */
    private array $shells = [];

    /** @var array<int, int> a vertex of the mesh for each shell of the strip that has any */
    private array $anchors = [];

    /**
     * @param  list<int>  $vertices  the first vertices of the strip, by numbers of the mesh
     * @param  list<int>  $upTo  corners of parts up to each touched triangle
     * @param  list<int>  $shellOf  shell of each vertex of the strip, −1 for one without triangles
     * @param  list<int>  $tags  of the strip's triangles
     */
    private function __construct(
        public readonly array $vertices,
        public readonly array $upTo,
        public readonly array $tags,
        private readonly Mesh $strip,
        private readonly array $shellOf,
    ) {
    }

    public static function of(Mesh $mesh, Divided $divided, bool $isBehind, Cap $cap, int $tag): self
    {
        $parts = $isBehind ? $divided->behind : $divided->ahead;
        $local = [];
        foreach ($parts as $v) {
            if ($v >= 0 && ! isset($local[$v])) {
                $local[$v] = count($local);
            }
        }
        $vertices = array_keys($local);
        $base = count($vertices);
        $corners = [];
        foreach ($parts as $v) {
            $corners[] = $v < 0 ? $base + ~$v : $local[$v];
        }
        $xyz = [];
        $all = $mesh->xyz;
        foreach ($vertices as $v) {
            $xyz[] = $all[3 * $v];
            $xyz[] = $all[3 * $v + 1];
            $xyz[] = $all[3 * $v + 2];
        }
        foreach ($divided->rim->xyz as $coordinate) {
            $xyz[] = $coordinate;
        }
        $strip = Closing::shut([$xyz, $corners, $isBehind ? $divided->behindTags : $divided->aheadTags], [[$divided->rim, $cap, $isBehind, $base]], $tag);

        return new self($vertices, $isBehind ? $divided->behindUpTo : $divided->aheadUpTo, $strip->tags, $strip, Bodies::shells($strip));
    }

    /**
     * What hangs together by the strip.
     *
     * @param  array<int, int>  $parent  see Parting
     * @return array<int, int>
     */
    public function join(array $parent): array
    {
        foreach ($this->vertices as $n => $v) {
            $shell = $this->shellOf[$n];
            $other = $this->anchors[$shell] ?? -1;
            if ($other < 0) {
                $this->anchors[$shell] = $v;

                continue;
            }
            while (($p = $parent[$v]) !== $v) {
                $v = $parent[$v] = $parent[$p];
            }
            while (($p = $parent[$other]) !== $other) {
                $other = $parent[$other] = $parent[$p];
            }
            if ($v < $other) {
                $parent[$other] = $v;
            } else {
                $parent[$v] = $other;
            }
        }

        return $parent;
    }

    /**
     * Gives shells of the strip their numbers among all.
     *
     * @param  array<int, int>  $parent  see Parting
     * @param  array<int, int>  $numbers  of the shells that have vertices of the mesh, by the lowest of them
     * @return list<int> the numbers of those that have none, from the first that is free
     */
    public function number(array $parent, array $numbers, int $free): array
    {
        $new = [];
        foreach ($this->shellOf as $shell) {
            if ($shell < 0 || isset($this->shells[$shell])) {
                continue;
            }
            $v = $this->anchors[$shell] ?? -1;
            if ($v < 0) {
                $this->shells[$shell] = $free;
                $new[] = $free++;

                continue;
            }
            while ($parent[$v] !== $v) {
                $v = $parent[$v];
            }
            $this->shells[$shell] = $numbers[$v];
        }

        return $new;
    }

    /**
     * The strip's triangles by codes of their corners, see Parting; its own vertices go to the end of the lists of their groups.
     *
     * @param  list<int>  $codes
     * @param  list<list<float>>  $places  changed in place: copies of the lists would cost more than all the rest
     * @param  list<int>  $groupOf
     * @return list<int> codes of the corners, −1 for those of no group
     */
    public function placed(array $codes, array &$places, array $groupOf): array
    {
        $xyz = $this->strip->xyz;
        $known = count($this->vertices);
        $own = [];
        foreach ($this->shellOf as $n => $shell) {
            if ($n < $known) {
                $own[] = $codes[$this->vertices[$n]];

                continue;
            }
            $group = $shell < 0 ? -1 : $groupOf[$this->shells[$shell]];
            if ($group < 0) {
                $own[] = -1;

                continue;
            }
            $own[] = ($group << 32) + intdiv(count($places[$group]), 3);
            $places[$group][] = $xyz[3 * $n];
            $places[$group][] = $xyz[3 * $n + 1];
            $places[$group][] = $xyz[3 * $n + 2];
        }
        $corners = [];
        foreach ($this->strip->corners as $v) {
            $corners[] = $own[$v];
        }

        return $corners;
    }
}
