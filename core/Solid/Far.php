<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Box;
use Isotome\Mesh\InBox;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Tree;

/**
 * The triangles of meshes that nothing comes near, by what hangs together over their vertices: all of it lies on the same side of all other meshes.
 */
final class Far
{
    /** Rays beyond which a tree is made, so that not each of them passes all triangles. */
    private const RAYS = 24;

    private int $rays = 0;

    /** @var array<int, Tree> */
    private array $trees = [];

    /** @var array<int, list<int>> the triangles of each tree's mesh */
    private array $ofTree = [];

    /** @var array<int, array<int, list<int>>> by axis and mesh, see column() */
    private array $columns = [];

    /** @var array{array{float, float, float}, array{float, float, float}}|null see nearBox() */
    private ?array $around = null;

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<list<int>>  $near  triangles of each mesh, in rising order
     * @param  list<list<bool>>  $isNear  by mesh and triangle
     * @param  list<list<int>>  $partOf  of each vertex: the part that it is a corner of, through all meshes; −1 for a vertex without far triangles
     * @param  int  $parts  how many there are
     * @param  array<int, array<int, int>>  $border  by mesh, vertices that near and far triangles share, and their parts
     */
    private function __construct(
        public readonly array $meshes,
        public readonly array $near,
        public readonly array $isNear,
        public readonly array $partOf,
        public readonly int $parts,
        public readonly array $border,
    ) {
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  list<list<int>>  $near  triangles of each mesh
     * @return self where no part is alone: of one that no near triangle touches a triangle is taken to be near
     */
    public static function of(array $meshes, array $near): self
    {
        $isNear = $partOf = $border = [];
        $parts = 0;
        foreach ($meshes as $m => $mesh) {
            $is = array_fill(0, max(1, $mesh->triangleCount()), false);
            foreach ($near[$m] as $t) {
                $is[$t] = true;
            }
            $is = array_values($is);
            $first = $parts;
            [$of, $parts] = self::numbered(self::joined($mesh, $is), $parts);
            $border[$m] = self::border($mesh, $near[$m], $of);
            $alone = array_diff_key(array_fill($first, $parts - $first, true), array_flip($border[$m]));
            for ($t = 0; $alone !== []; $t++) {
                $part = $is[$t] ? -1 : $of[$mesh->corners[3 * $t]];
                if (isset($alone[$part])) {
                    unset($alone[$part]);
                    $is[$t] = true;
                    $near[$m][] = $t;
                    $border[$m] += [$mesh->corners[3 * $t] => $part, $mesh->corners[3 * $t + 1] => $part, $mesh->corners[3 * $t + 2] => $part];
                }
            }
            $isNear[] = $is;
            $partOf[] = $of;
        }

        return new self($meshes, $near, $isNear, $partOf, $parts, $border);
    }

    /**
     * @param  array<int, int>  $parent
     * @param  int  $parts  so many there are of meshes before
     * @return array{list<int>, int} the part of each vertex, −1 without far triangles; and how many parts there are now
     */
    private static function numbered(array $parent, int $parts): array
    {
        $times = array_count_values($parent);
        /** @var list<int> $of */
        $of = [];
        // A vertex that no other one points to has no far triangle.
        foreach ($parent as $v => $p) {
            if ($p !== $v) {
                $of[] = $of[$p];
            } elseif ($times[$v] > 1) {
                $of[] = $parts++;
            } else {
                $of[] = -1;
            }
        }

        return [$of, $parts];
    }

    /** A mesh of the near triangles alone, with their tags, in the order of the list. */
    public function active(int $m): Mesh
    {
        $mesh = $this->meshes[$m];
        $number = $xyz = $corners = $tags = [];
        foreach ($this->near[$m] as $t) {
            $tags[] = $mesh->tags[$t];
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $v = $mesh->corners[$k];
                if (! isset($number[$v])) {
                    $number[$v] = count($number);
                    array_push($xyz, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
                }
                $corners[] = $number[$v];
            }
        }

        return Mesh::of($xyz, $corners, $tags);
    }

    /**
     * Far triangles put beside what was made of near ones.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $numbers  vertices, three a triangle
     * @param  array<int, array<int, int>>  $pointOf  by mesh and vertex, where near and far triangles meet
     * @param  array<int, int>  $vertexAt  by point
     * @param  list<bool|null>  $sides  of each part, whether it is turned over; null leaves it out
     * @return array{list<float>, list<int>, list<int>, list<int>} coordinates and vertices; mesh and tag of each triangle that was added
     */
    public function beside(array $xyz, array $numbers, array $pointOf, array $vertexAt, array $sides): array
    {
        $next = intdiv(count($xyz), 3);
        $of = $tags = [];
        foreach ($this->meshes as $m => $mesh) {
            $all = $mesh->xyz;
            $corners = $mesh->corners;
            $own = $mesh->tags;
            if ($own === []) {
                continue;
            }
            $partOf = $this->partOf[$m];
            $known = [];
            foreach ($pointOf[$m] ?? [] as $v => $point) {
                $known[$v] = $vertexAt[$point] ?? -1;
            }
            /** @var list<int> $map */
            $map = [];
            foreach ($partOf as $v => $part) {
                if ($part < 0 || $sides[$part] === null) {
                    $map[] = -1;
                } elseif (($known[$v] ?? -1) >= 0) {
                    $map[] = $known[$v];
                } else {
                    $map[] = $next++;
                    $xyz[] = $all[3 * $v];
                    $xyz[] = $all[3 * $v + 1];
                    $xyz[] = $all[3 * $v + 2];
                }
            }
            foreach ($this->isNear[$m] as $t => $isNear) {
                if ($isNear) {
                    continue;
                }
                $i = 3 * $t;
                $a = $corners[$i];
                $isTurned = $sides[$partOf[$a]];
                if ($isTurned === null) {
                    continue;
                }
                $numbers[] = $map[$a];
                if ($isTurned) {
                    $numbers[] = $map[$corners[$i + 2]];
                    $numbers[] = $map[$corners[$i + 1]];
                } else {
                    $numbers[] = $map[$corners[$i + 1]];
                    $numbers[] = $map[$corners[$i + 2]];
                }
                $tags[] = $own[$t];
            }
            $of[] = array_fill(0, count($tags) - array_sum(array_map(count(...), $of)), $m);
        }

        return [$xyz, $numbers, array_merge(...$of), $tags];
    }

    /** @return list<int> axes along which rays were asked for */
    public function axes(): array
    {
        return array_keys($this->columns);
    }

    /**
     * Far triangles whose boxes meet a box.
     *
     * @param  array{float, float, float}  $low
     * @param  array{float, float, float}  $high
     * @return list<array{int, array{float, float, float}, array{float, float, float}, array{float, float, float}}> mesh and corners
     */
    public function around(array $low, array $high): array
    {
        $this->rays++;
        $found = [];
        foreach ($this->meshes as $m => $mesh) {
            $corners = $mesh->corners;
            $xyz = $mesh->xyz;
            foreach ($this->rays > self::RAYS ? $this->byTree($m, $low, $high) : InBox::of($mesh, $this->column($m, $high), $low, $high) as $t) {
                $at = static fn (int $k): array => [$xyz[3 * $corners[$k]], $xyz[3 * $corners[$k] + 1], $xyz[3 * $corners[$k] + 2]];
                $found[] = [$m, $at(3 * $t), $at(3 * $t + 1), $at(3 * $t + 2)];
            }
        }

        return $found;
    }

    /**
     * @param  array{float, float, float}  $low
     * @param  array{float, float, float}  $high
     * @return list<int>
     */
    private function byTree(int $m, array $low, array $high): array
    {
        if (! isset($this->trees[$m])) {
            $mesh = $this->meshes[$m];
            $some = $corners = [];
            foreach ($mesh->tags as $t => $_) {
                if (! $this->isNear[$m][$t]) {
                    $some[] = $t;
                    $corners[] = $mesh->corners[3 * $t];
                    $corners[] = $mesh->corners[3 * $t + 1];
                    $corners[] = $mesh->corners[3 * $t + 2];
                }
            }
            $this->trees[$m] = Tree::of(Mesh::of($mesh->xyz, $corners));
            $this->ofTree[$m] = $some;
        }
        $found = $this->ofTree[$m] === [] ? [] : $this->trees[$m]->around([$low[0], $high[0], $low[1], $high[1], $low[2], $high[2]]);

        return array_map(fn (int $n): int => $this->ofTree[$m][$n], $found);
    }

    /**
     * The far triangles that rays along an axis can meet: rays begin among near triangles.
     *
     * @param  array{float, float, float}  $high  of a ray: endless along its axis
     * @return list<int>
     */
    private function column(int $m, array $high): array
    {
        $axis = (int) array_search(INF, $high, true);
        if (! isset($this->columns[$axis][$m])) {
            [$low, $high] = $this->around ??= $this->nearBox();
            $high[$axis] = INF;
            $isNear = $this->isNear[$m];
            $this->columns[$axis][$m] = array_values(array_filter(InBox::of($this->meshes[$m], array_keys($this->meshes[$m]->tags), $low, $high), static fn (int $t): bool => ! $isNear[$t]));
        }

        return $this->columns[$axis][$m];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} least and greatest coordinates of near triangles, and a little beyond */
    private function nearBox(): array
    {
        $xyz = [];
        foreach (array_keys($this->meshes) as $m) {
            array_push($xyz, ...$this->active($m)->xyz);
        }
        $box = Box::of($xyz);
        $wide = 1e-9 * max(array_map(abs(...), [...$box->min, ...$box->max]));

        return [[$box->min[0] - $wide, $box->min[1] - $wide, $box->min[2] - $wide], [$box->max[0] + $wide, $box->max[1] + $wide, $box->max[2] + $wide]];
    }

    /**
     * Union-find over the vertices of far triangles, as in Bodies.
     *
     * @param  list<bool>  $isNear
     * @return array<int, int>
     */
    private static function joined(Mesh $mesh, array $isNear): array
    {
        $corners = $mesh->corners;
        $parent = $mesh->vertexCount() === 0 ? [] : range(0, $mesh->vertexCount() - 1);
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $p = $parent[$a];
            if (($p === $parent[$b] && $p === $parent[$c]) || $isNear[intdiv($i, 3)]) {
                continue;
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
            $root = min($a, $b, $c);
            $parent[$a] = $parent[$b] = $parent[$c] = $root;
        }

        return $parent;
    }

    /**
     * @param  list<int>  $near
     * @param  list<int>  $partOf
     * @return array<int, int> parts by vertex
     */
    private static function border(Mesh $mesh, array $near, array $partOf): array
    {
        $border = [];
        foreach ($near as $t) {
            for ($k = 3 * $t; $k < 3 * $t + 3; $k++) {
                $v = $mesh->corners[$k];
                if ($partOf[$v] >= 0) {
                    $border[$v] = $partOf[$v];
                }
            }
        }

        return $border;
    }
}
