<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Exception\BadMesh;
use Isotome\Geometry\ErrorBound;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Tree;

/**
 * Several meshes in one space, divided along all lines in which any of their triangles meet: of one mesh with itself too. What lies on each other is there once.
 *
 * Guarantees: two of the resulting triangles share a corner, a whole edge, or nothing; each is a part of the triangles that it names. Decisions are exact.
 *
 * Source: Q. Zhou, E. Grinspun, D. Zorin, A. Jacobson, "Mesh arrangements for solid geometry" (2016): resolve all crossings, then triangulate plane by plane.
 */
final readonly class Arrangement
{
    /** Pairs of triangles that meet: beyond that neither memory nor patience would last. */
    private const MOST_PAIRS = 3_000_000;

    /**
     * @param  array<int, true>  $joined  given points at which several vertices lie
     * @param  list<int>  $given  three points a triangle, of all meshes one after the other; without area ones are left out
     * @param  list<int>  $mesh  which mesh each is of
     * @param  list<int>  $source  which triangle of that mesh it is
     * @param  list<int>  $corners  three points a triangle of the arrangement
     * @param  int  $whole  so many of them, the first ones, met nothing and are given ones as they were
     * @param  list<int>  $part  the given triangle that each is a part of: its number, counted from 1, negative where it looks the other way
     * @param  array<int, list<int>>  $more  further ones of those that are parts of several
     * @param  Tree  $tree  of the given triangles
     * @param  bool  $isSelfMet  whether triangles of one mesh meet other than as neighbours do
     */
    private function __construct(
        public Points $points,
        public array $joined,
        public array $given,
        public array $mesh,
        public array $source,
        public array $corners,
        public int $whole,
        public array $part,
        public array $more,
        public Tree $tree,
        public bool $isSelfMet,
    ) {
    }

    /** @return non-empty-list<int> all given triangles that one of the arrangement is a part of */
    public function parts(int $t): array
    {
        return [$this->part[$t], ...($this->more[$t] ?? [])];
    }

    /**
     * @param  list<Mesh>  $meshes
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     *
     * @throws BadMesh when more pairs of triangles meet than can be dealt with
     */
    public static function of(array $meshes, ?Closure $progress = null, int $mostPairs = self::MOST_PAIRS): self
    {
        [$xyz, $joined, $given, $mesh, $source] = self::together($meshes);
        $points = new Points($xyz);
        [$given, $mesh, $source] = self::withArea($points, $given, $mesh, $source);
        $part = static fn (float $from, float $to): ?Closure => $progress === null ? null : static fn (float $share) => $progress($from + ($to - $from) * $share);
        $whole = Mesh::of($xyz, $given);
        $tree = Tree::of($whole);
        $crossings = Crossings::of($whole, $tree, $part(0.0, 0.6), $mostPairs + 1);
        $pairs = $crossings->pairs;
        if (count($pairs) > $mostPairs) {
            throw new BadMesh('More than '.number_format($mostPairs).' pairs of faces cross each other; simplify the meshes, or take fewer at once.');
        }
        $segments = $singles = $group = [];
        $isSelfMet = false;
        foreach ([...$pairs, ...$crossings->doubled] as [$t, $s]) {
            if ($mesh[$t] === $mesh[$s]) {
                $isSelfMet = true;
                break;
            }
        }
        foreach ($pairs as $n => [$t, $s]) {
            self::tell($part(0.6, 0.8), $n, count($pairs));
            $shared = Contact::of($points, self::triangle($given, $t), self::triangle($given, $s));
            foreach ([$t, $s] as $one) {
                $group[$one] ??= $one;
                if (count($shared ?? []) === 2) {
                    $segments[$one][] = $shared;
                } elseif (count($shared ?? []) === 1) {
                    $singles[$one][] = $shared[0];
                }
            }
            if ($shared === null) {
                self::join($group, $t, $s);
            }
        }
        // Triangles with the same three corners are divided together, or they might be divided differently.
        foreach ($crossings->doubled as [$t, $s]) {
            $group[$t] ??= $t;
            $group[$s] ??= $s;
            self::join($group, $t, $s);
        }
        $planes = [];
        foreach (array_keys($group) as $t) {
            $planes[self::root($group, $t)][] = $t;
        }
        $corners = $first = $more = [];
        for ($t = 0, $count = count($mesh); $t < $count; $t++) {
            if (! isset($group[$t])) {
                $corners[] = $given[3 * $t];
                $corners[] = $given[3 * $t + 1];
                $corners[] = $given[3 * $t + 2];
                $first[] = $t + 1;
            }
        }
        $whole = count($first);
        $n = 0;
        foreach ($planes as $triangles) {
            self::tell($part(0.8, 1.0), $n++, count($planes));
            $some = $loose = [];
            foreach ($triangles as $t) {
                array_push($some, ...($segments[$t] ?? []));
                array_push($loose, ...($singles[$t] ?? []));
            }
            [$made, $of] = self::plane($points, $given, $triangles, $some, $loose);
            array_push($corners, ...$made);
            foreach ($of as $several) {
                if (count($several) > 1) {
                    $more[count($first)] = array_slice($several, 1);
                }
                $first[] = $several[0];
            }
        }

        return new self($points, $joined, $given, $mesh, $source, $corners, $whole, $first, $more, $tree, $isSelfMet);
    }

    /**
     * Now and then how far it is.
     *
     * @param  Closure(float): void|null  $progress
     */
    private static function tell(?Closure $progress, int $n, int $of): void
    {
        if ($progress !== null && $n % 256 === 0) {
            $progress($n / $of);
        }
    }

    /**
     * @param  list<Mesh>  $meshes
     * @return array{list<float>, array<int, true>, list<int>, list<int>, list<int>} places, each once; those of several vertices; corners; mesh and triangle of each
     */
    private static function together(array $meshes): array
    {
        $places = new Places;
        $given = $of = $source = [];
        foreach ($meshes as $m => $mesh) {
            $number = $places->of($mesh);
            foreach ($mesh->tags as $t => $_) {
                $given[] = $number[$mesh->corners[3 * $t]];
                $given[] = $number[$mesh->corners[3 * $t + 1]];
                $given[] = $number[$mesh->corners[3 * $t + 2]];
                $of[] = $m;
                $source[] = $t;
            }
        }

        return [$places->xyz, $places->shared, $given, $of, $source];
    }

    /**
     * Without triangles that are lines or points: whatever they joined is joined by what touches it.
     *
     * @param  list<int>  $given
     * @param  list<int>  $mesh
     * @param  list<int>  $source
     * @return array{list<int>, list<int>, list<int>}
     */
    private static function withArea(Points $points, array $given, array $mesh, array $source): array
    {
        $xyz = $points->xyz;
        $kept = $of = $from = [];
        foreach ($mesh as $t => $m) {
            [$a, $b, $c] = $triangle = self::triangle($given, $t);
            if ($a === $b || $b === $c || $c === $a || (! self::surelyHasArea($xyz, $a, $b, $c) && Contact::page($points, $triangle) === [0, 0])) {
                continue;
            }
            $kept[] = $a;
            $kept[] = $b;
            $kept[] = $c;
            $of[] = $m;
            $from[] = $source[$t];
        }

        return [$kept, $of, $from];
    }

    /**
     * Seen along one of the axes, by the filter of Isotome\Geometry\Orientation.
     *
     * @param  list<float>  $xyz
     */
    private static function surelyHasArea(array $xyz, int $a, int $b, int $c): bool
    {
        $a *= 3;
        $b *= 3;
        $c *= 3;
        $ux = $xyz[$b] - $xyz[$a];
        $uy = $xyz[$b + 1] - $xyz[$a + 1];
        $vx = $xyz[$c] - $xyz[$a];
        $vy = $xyz[$c + 1] - $xyz[$a + 1];
        $one = $ux * $vy;
        $two = $uy * $vx;
        if (abs($one - $two) > 2 * ErrorBound::ORIENT_2D * (abs($one) + abs($two)) + 1e-290) {
            return true;
        }
        $uz = $xyz[$b + 2] - $xyz[$a + 2];
        $vz = $xyz[$c + 2] - $xyz[$a + 2];
        $one = $uy * $vz;
        $two = $uz * $vy;
        if (abs($one - $two) > 2 * ErrorBound::ORIENT_2D * (abs($one) + abs($two)) + 1e-290) {
            return true;
        }
        $one = $uz * $vx;
        $two = $ux * $vz;

        return abs($one - $two) > 2 * ErrorBound::ORIENT_2D * (abs($one) + abs($two)) + 1e-290;
    }

    /**
     * @param  list<int>  $given
     * @return array{int, int, int}
     */
    private static function triangle(array $given, int $t): array
    {
        return [$given[3 * $t], $given[3 * $t + 1], $given[3 * $t + 2]];
    }

    /** @param  array<int, int>  $group */
    private static function root(array &$group, int $t): int
    {
        while ($group[$t] !== $t) {
            $group[$t] = $group[$group[$t]];
            $t = $group[$t];
        }

        return $t;
    }

    /** @param  array<int, int>  $group */
    private static function join(array &$group, int $t, int $s): void
    {
        $a = self::root($group, $t);
        $b = self::root($group, $s);
        $group[max($a, $b)] = min($a, $b);
    }

    /**
     * Divides triangles that lie in one plane.
     *
     * @param  list<int>  $given
     * @param  non-empty-list<int>  $triangles
     * @param  list<list<int>>  $segments
     * @param  list<int>  $loose  further points in it
     * @return array{list<int>, list<non-empty-list<int>>} corners and parts, see above
     */
    private static function plane(Points $points, array $given, array $triangles, array $segments, array $loose): array
    {
        $first = self::triangle($given, $triangles[0]);
        [$u, $v] = Contact::page($points, $first);
        if (count($triangles) === 1) {
            $page = new Page($points, $u, $v, ...$first);
            $beyond = [];
        } else {
            $beyond = self::around($points, $given, $triangles, $u, $v);
            $page = new Page($points, $u, $v, ...$beyond);
            foreach ($triangles as $t) {
                foreach (self::triangle($given, $t) as $k => $point) {
                    $page->insert($point);
                    $segments[] = [$point, $given[3 * $t + ($k + 1) % 3]];
                }
            }
        }
        foreach ($loose as $point) {
            $page->insert($point);
        }
        foreach ($segments as [$p, $q]) {
            $page->insert($p);
            $page->insert($q);
        }
        foreach ($segments as [$p, $q]) {
            $page->connect($p, $q);
        }
        $made = $page->triangles();
        if ($beyond === []) {
            return [$made, array_fill(0, intdiv(count($made), 3), [$triangles[0] + 1])];
        }

        return self::assigned($points, $given, $triangles, $made, $beyond, $u, $v);
    }

    /**
     * @param  list<int>  $given
     * @param  non-empty-list<int>  $triangles
     * @return array{int, int, int} a triangle far around them on the page
     */
    private static function around(Points $points, array $given, array $triangles, int $u, int $v): array
    {
        $x = $y = [];
        foreach ($triangles as $t) {
            foreach (self::triangle($given, $t) as $point) {
                $x[] = $points->xyz[3 * $point + $u];
                $y[] = $points->xyz[3 * $point + $v];
            }
        }
        $midX = (min($x) + max($x)) / 2;
        $midY = (min($y) + max($y)) / 2;
        $far = 64.0 * (max($x) - min($x) + max($y) - min($y));

        return [$points->onPage($midX - $far, $midY - $far, $u, $v), $points->onPage($midX + $far, $midY - $far, $u, $v), $points->onPage($midX, $midY + $far, $u, $v)];
    }

    /**
     * Of which given triangles each one on a page is a part; without those that are of none.
     *
     * @param  list<int>  $given
     * @param  non-empty-list<int>  $triangles
     * @param  list<int>  $made
     * @param  list<int>  $beyond  corners of the first triangle of the page
     * @return array{list<int>, list<non-empty-list<int>>}
     */
    private static function assigned(Points $points, array $given, array $triangles, array $made, array $beyond, int $u, int $v): array
    {
        $ways = [];
        foreach ($triangles as $t) {
            $ways[$t] = $points->turn($given[3 * $t], $given[3 * $t + 1], $given[3 * $t + 2], $u, $v);
        }
        $grid = new PageGrid($points, $given, $triangles, $u, $v);
        $corners = $parts = [];
        for ($i = 0, $count = count($made); $i < $count; $i += 3) {
            $three = [$made[$i], $made[$i + 1], $made[$i + 2]];
            if (array_intersect($three, $beyond) !== []) {
                continue;
            }
            $of = [];
            foreach ($grid->at($three[0]) as $t) {
                // Their edges are on the page: what is not wholly within one is wholly outside.
                $triangle = self::triangle($given, $t);
                if (Contact::isWithin($points, $three[0], $triangle, $u, $v) && Contact::isWithin($points, $three[1], $triangle, $u, $v) && Contact::isWithin($points, $three[2], $triangle, $u, $v)) {
                    $of[] = $ways[$t] * ($t + 1);
                }
            }
            if ($of !== []) {
                array_push($corners, ...$three);
                $parts[] = $of;
            }
        }

        return [$corners, $parts];
    }
}
