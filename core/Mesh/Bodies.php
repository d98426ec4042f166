<?php

declare(strict_types=1);

namespace Isotome\Mesh;

/**
 * Separates a mesh into its bodies.
 *
 * A shell is what hangs together by shared vertices; a closed shell that is turned inside out is a cavity and stays with the
 * smallest closed shell around it. Guarantees: every triangle lands in exactly one body, triangles and vertices keep their
 * order, and vertices that no triangle uses are left out. A mesh of one shell that uses all its vertices comes back as it is.
 */
final class Bodies
{
    private const FEW = 4;

    /** @var \WeakMap<Mesh, int>|null shells of meshes that were counted, or that were made of so many, as long as they are there */
    private static ?\WeakMap $counted = null;

    /** @return list<Mesh> in the order of their first triangles */
    public static function of(Mesh $mesh): array
    {
        if ($mesh->isEmpty()) {
            return [];
        }
        $parent = self::joined($mesh);
        if (self::roots($parent) === 1) {
            return [self::isOne($mesh)];
        }
        $shellOf = self::numbered($parent);
        $shells = ($shellOf === [] ? -1 : max($shellOf)) + 1;
        if ($shells === 1) {
            return in_array(-1, $shellOf, true) ? self::pick($mesh, $shellOf, [0], 1) : [$mesh];
        }
        $parts = self::pick($mesh, $shellOf, range(0, $shells - 1), $shells);
        $home = Cavities::homes($parts);
        $body = [];
        $bodies = 0;
        foreach ($parts as $s => $_) {
            if ($home[$s] === $s) {
                $body[$s] = $bodies++;
            }
        }
        if ($bodies === $shells) {
            return array_map(self::isOne(...), $parts);
        }
        $bodyOf = [];
        foreach ($home as $s => $h) {
            $bodyOf[$s] = $body[$h];
        }

        return self::pick($mesh, $shellOf, $bodyOf, $bodies);
    }

    /** The number of shells, cavities counted for themselves. */
    public static function shellCount(Mesh $mesh): int
    {
        self::$counted ??= new \WeakMap();
        if (! isset(self::$counted[$mesh])) {
            $shells = self::shells($mesh);
            self::$counted[$mesh] = $shells === [] ? 0 : max($shells) + 1;
        }

        return self::$counted[$mesh];
    }

    /** Tells that a mesh is one shell, so that nobody has to count. */
    public static function isOne(Mesh $mesh): Mesh
    {
        self::$counted ??= new \WeakMap();
        self::$counted[$mesh] = 1;

        return $mesh;
    }

    /** @return list<int> shell of each vertex, numbered by lowest vertex; −1 for a vertex without triangles */
    public static function shells(Mesh $mesh): array
    {
        return self::numbered(self::joined($mesh));
    }

    /**
     * Union-find over shared vertices (R. E. Tarjan 1975; path halving), the lower number staying the root.
     *
     * @return array<int, int> for each vertex one of its shell that is not higher; the lowest of a shell points to itself
     */
    private static function joined(Mesh $mesh): array
    {
        $corners = $mesh->corners;
        $count = count($corners);
        $vertices = $mesh->vertexCount();
        if ($vertices === 0) {
            return [];
        }
        $parent = range(0, $vertices - 1);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            // Most triangles join what hangs together already.
            if ($parent[$a] === $parent[$b] && $parent[$b] === $parent[$c]) {
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

        return $parent;
    }

    /** @param  array<int, int>  $parent */
    private static function roots(array $parent): int
    {
        $roots = 0;
        foreach ($parent as $v => $p) {
            if ($v === $p) {
                $roots++;
            }
        }

        return $roots;
    }

    /**
     * @param  array<int, int>  $parent
     * @return list<int>
     */
    private static function numbered(array $parent): array
    {
        /** @var list<int> $shell */
        $shell = [];
        $shells = 0;
        /** @var array<int, true>|null $lone */
        $lone = null;
        // A root is always lower than what hangs on it, so it has its number already.
        foreach ($parent as $v => $p) {
            if ($p !== $v) {
                $shell[] = $shell[$p];
            } else {
                $shell[] = $shells++;
            }
        }
        // Every triangle joins three vertices, so a shell of one vertex has no triangle.
        foreach (array_count_values($shell) as $s => $size) {
            if ($size === 1) {
                $lone[$s] = true;
            }
        }
        if ($lone === null) {
            return $shell;
        }
        $renumbered = [];
        $next = 0;
        for ($s = 0; $s < $shells; $s++) {
            $renumbered[] = isset($lone[$s]) ? -1 : $next++;
        }

        return array_map(static fn (int $s): int => $renumbered[$s], $shell);
    }

    /**
     * Two parts in one pass each over vertices and triangles: an index of the second part is told by its complement.
     *
     * @param  list<int>  $shellOf
     * @param  array<int, int>  $partOf
     * @return list<Mesh>
     */
    private static function pickTwo(Mesh $mesh, array $shellOf, array $partOf): array
    {
        $allXyz = $mesh->xyz;
        $map = $xyz0 = $xyz1 = [];
        $n0 = $n1 = 0;
        $i = 0;
        foreach ($shellOf as $shell) {
            if ($shell >= 0) {
                if ($partOf[$shell] === 0) {
                    $map[] = $n0++;
                    $xyz0[] = $allXyz[$i];
                    $xyz0[] = $allXyz[$i + 1];
                    $xyz0[] = $allXyz[$i + 2];
                } else {
                    $map[] = ~$n1;
                    $n1++;
                    $xyz1[] = $allXyz[$i];
                    $xyz1[] = $allXyz[$i + 1];
                    $xyz1[] = $allXyz[$i + 2];
                }
            } else {
                $map[] = 0;
            }
            $i += 3;
        }
        $all = $mesh->corners;
        $corners0 = $corners1 = $tags0 = $tags1 = [];
        $i = 0;
        foreach ($mesh->tags as $tag) {
            $a = $map[$all[$i]];
            if ($a >= 0) {
                $corners0[] = $a;
                $corners0[] = $map[$all[$i + 1]];
                $corners0[] = $map[$all[$i + 2]];
                $tags0[] = $tag;
            } else {
                $corners1[] = ~$a;
                $corners1[] = ~$map[$all[$i + 1]];
                $corners1[] = ~$map[$all[$i + 2]];
                $tags1[] = $tag;
            }
            $i += 3;
        }

        return [Mesh::of($xyz0, $corners0, $tags0), Mesh::of($xyz1, $corners1, $tags1)];
    }

    /**
     * One pass a part, into lists of its own: faster than lists of lists while there are few.
     *
     * @param  list<int>  $shellOf
     * @param  array<int, int>  $partOf
     * @return list<Mesh>
     */
    private static function pickFew(Mesh $mesh, array $shellOf, array $partOf, int $parts): array
    {
        $all = $mesh->corners;
        $allXyz = $mesh->xyz;
        $map = $part = [];
        $sizes = array_fill(0, $parts, 0);
        foreach ($shellOf as $shell) {
            if ($shell < 0) {
                $map[] = -1;
                $part[] = -1;
            } else {
                $p = $partOf[$shell];
                $map[] = $sizes[$p];
                $sizes[$p]++;
                $part[] = $p;
            }
        }
        $meshes = [];
        for ($p = 0; $p < $parts; $p++) {
            $xyz = $corners = $tags = [];
            $i = 0;
            foreach ($part as $of) {
                if ($of === $p) {
                    $xyz[] = $allXyz[$i];
                    $xyz[] = $allXyz[$i + 1];
                    $xyz[] = $allXyz[$i + 2];
                }
                $i += 3;
            }
            $i = 0;
            foreach ($mesh->tags as $tag) {
                $a = $all[$i];
                if ($part[$a] === $p) {
                    $corners[] = $map[$a];
                    $corners[] = $map[$all[$i + 1]];
                    $corners[] = $map[$all[$i + 2]];
                    $tags[] = $tag;
                }
                $i += 3;
            }
            $meshes[] = Mesh::of($xyz, $corners, $tags);
        }

        return $meshes;
    }

    /**
     * @param  list<int>  $shellOf
     * @param  array<int, int>  $partOf  part of each shell
     * @return list<Mesh>
     */
    private static function pick(Mesh $mesh, array $shellOf, array $partOf, int $parts): array
    {
        if ($parts === 2) {
            return self::pickTwo($mesh, $shellOf, $partOf);
        }
        if ($parts <= self::FEW) {
            return self::pickFew($mesh, $shellOf, $partOf, $parts);
        }
        $xyz = array_fill(0, $parts, []);
        $corners = array_fill(0, $parts, []);
        $tags = array_fill(0, $parts, []);
        $sizes = array_fill(0, $parts, 0);
        $map = [];
        $i = 0;
        foreach ($shellOf as $shell) {
            if ($shell < 0) {
                $map[] = -1;
            } else {
                $part = $partOf[$shell];
                $map[] = $sizes[$part]++;
                $xyz[$part][] = $mesh->xyz[$i];
                $xyz[$part][] = $mesh->xyz[$i + 1];
                $xyz[$part][] = $mesh->xyz[$i + 2];
            }
            $i += 3;
        }
        $all = $mesh->corners;
        $i = 0;
        foreach ($mesh->tags as $tag) {
            $a = $all[$i];
            $part = $partOf[$shellOf[$a]];
            $corners[$part][] = $map[$a];
            $corners[$part][] = $map[$all[$i + 1]];
            $corners[$part][] = $map[$all[$i + 2]];
            $tags[$part][] = $tag;
            $i += 3;
        }
        $meshes = [];
        foreach ($xyz as $part => $list) {
            $meshes[] = Mesh::of($list, $corners[$part], $tags[$part]);
        }

        return $meshes;
    }
}
