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
    /** @var \WeakMap<Mesh, int>|null shells of meshes that were counted, or that were made of so many, as long as they are there */
    private static ?\WeakMap $counted = null;

    /** @var \WeakMap<Mesh, true>|null meshes of one shell that are known to use all of their vertices */
    private static ?\WeakMap $whole = null;

    /** @return list<Mesh> in the order of their first triangles */
    public static function of(Mesh $mesh): array
    {
        if ($mesh->isEmpty()) {
            return [];
        }
        if (isset(self::$whole[$mesh])) {
            return [$mesh];
        }
        $parent = self::joined($mesh);
        if (self::roots($parent) === 1) {
            return [self::isWhole($mesh)];
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
            return array_map(self::isWhole(...), $parts);
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

    /** Tells that a mesh is one shell that uses all of its vertices: it is a body by itself. */
    public static function isWhole(Mesh $mesh): Mesh
    {
        self::$whole ??= new \WeakMap();
        self::$whole[$mesh] = true;

        return self::isOne($mesh);
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
     * Every vertex and triangle to the lists of its part, in one pass each. The lists of one part are at hand at a time: neighbours are mostly of the same.
     *
     * @param  list<int>  $shellOf
     * @param  array<int, int>  $partOf  part of each shell
     * @return list<Mesh>
     */
    private static function pick(Mesh $mesh, array $shellOf, array $partOf, int $parts): array
    {
        /** @var list<list<float>> $places */
        $places = array_fill(0, $parts, []);
        /** @var list<list<int>> $lists */
        $lists = array_fill(0, $parts, []);
        $tagLists = $lists;
        $all = $mesh->xyz;
        /** @var list<int> $codes its part, shifted by 32 bits, and its number there */
        $codes = [];
        /** @var list<int> $list */
        $list = [];
        /** @var list<int> $tagList */
        $tagList = [];
        $xyz = [];
        $at = $next = $i = 0;
        foreach ($shellOf as $shell) {
            if ($shell < 0) {
                $codes[] = -1;
                $i += 3;

                continue;
            }
            $part = $partOf[$shell];
            if ($part !== $at) {
                $places[$at] = $xyz;
                $xyz = $places[$part];
                $places[$part] = [];
                $at = $part;
                $next = ($part << 32) + intdiv(count($xyz), 3);
            }
            $codes[] = $next++;
            $xyz[] = $all[$i];
            $xyz[] = $all[$i + 1];
            $xyz[] = $all[$i + 2];
            $i += 3;
        }
        $places[$at] = $xyz;
        $corners = $mesh->corners;
        $at = $low = $i = 0;
        $high = 1 << 32;
        foreach ($mesh->tags as $tag) {
            $a = $codes[$corners[$i]];
            if ($a < $low || $a >= $high) {
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
            $tagList[] = $tag;
            $i += 3;
        }
        $lists[$at] = $list;
        $tagLists[$at] = $tagList;
        $meshes = [];
        foreach ($places as $part => $xyz) {
            $meshes[] = Mesh::of($xyz, $lists[$part], $tagLists[$part]);
        }

        return $meshes;
    }
}
