<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Exception\BrokenPromise;

/**
 * A triangulation on a page, in which segments are kept: where two of them cross, the crossing becomes a point.
 *
 * Guarantees: all triangles turn left and together cover the first one; every segment that was laid in is a chain of their edges. Exact (see Points).
 *
 * Sources: points by splitting triangles and edges, found by walking (O. Devillers, S. Pion, M. Teillaud, "Walking in a triangulation", 2002); segments by
 * flipping the edges that they cross (S. W. Sloan, "A fast algorithm for generating constrained Delaunay triangulations", 1993).
 */
final class Page
{
    /** @var array<int, int> three points a triangle */
    private array $corner = [];

    /** @var array<int, int> the triangle across the edge that is opposite each corner; −1 for none */
    private array $beside = [];

    /** @var array<int, bool> is that edge part of a segment? */
    private array $isFixed = [];

    /** @var array<int, int> a triangle of each point */
    private array $at = [];

    private int $last = 0;

    /** The three points must turn left on the page. */
    public function __construct(private readonly Points $points, private readonly int $u, private readonly int $v, int $a, int $b, int $c)
    {
        $this->put(0, [$a, $b, $c], [-1, -1, -1], [false, false, false]);
    }

    /** @return list<int> three points a triangle */
    public function triangles(): array
    {
        return array_values($this->corner);
    }

    /** @return array<int, true> edges that are part of a segment: the lower point << 32 | the higher one */
    public function kept(): array
    {
        $kept = [];
        foreach ($this->isFixed as $at => $isFixed) {
            if ($isFixed) {
                $p = $this->corner[$at - $at % 3 + ($at + 1) % 3];
                $q = $this->corner[$at - $at % 3 + ($at + 2) % 3];
                $kept[$p < $q ? $p << 32 | $q : $q << 32 | $p] = true;
            }
        }

        return $kept;
    }

    /** A point within the first triangle, or on its border. */
    public function insert(int $point): void
    {
        if (isset($this->at[$point])) {
            return;
        }
        [$t, $edge] = $this->locate($point);
        if ($edge < 0) {
            $this->splitTriangle($t, $point);
        } else {
            $this->splitEdge($t, $edge, $point);
        }
    }

    /** A segment between two points that were inserted. */
    public function connect(int $p, int $q): void
    {
        $waiting = [[$p, $q]];
        while ($waiting !== []) {
            [$p, $q] = array_pop($waiting);
            $through = $p === $q ? null : $this->lay($p, $q);
            if ($through !== null) {
                $waiting[] = [$through, $q];
                $waiting[] = [$p, $through];
            }
        }
    }

    /** @return int|null a point on the segment, by which it is to be laid in two parts; null when it is laid */
    private function lay(int $p, int $q): ?int
    {
        foreach ($this->around($p) as [$t, $i]) {
            $r = $this->corner[3 * $t + ($i + 1) % 3];
            $l = $this->corner[3 * $t + ($i + 2) % 3];
            if ($r === $q || $l === $q) {
                $this->fix($t, ($i + ($r === $q ? 2 : 1)) % 3);

                return null;
            }
            $ofR = $this->turn($p, $q, $r);
            if ($ofR === 0 && $this->isAhead($p, $q, $r)) {
                return $r;
            }
            $ofL = $this->turn($p, $q, $l);
            if ($ofL === 0 && $this->isAhead($p, $q, $l)) {
                return $l;
            }
            if ($ofR < 0 && $ofL > 0) {
                return $this->cross($p, $q, $t, $i);
            }
        }

        throw new BrokenPromise('A segment of an arrangement leads out of its triangle; this is an error of the program.');
    }

    /** Lays a segment that leaves its first triangle through the edge opposite the corner i. */
    private function cross(int $p, int $q, int $t, int $i): ?int
    {
        $crossed = [];
        while (true) {
            $r = $this->corner[3 * $t + ($i + 1) % 3];
            $l = $this->corner[3 * $t + ($i + 2) % 3];
            if ($this->isFixed[3 * $t + $i]) {
                $point = $this->points->crossing($p, $q, $r, $l, $this->u, $this->v);
                $this->splitEdge($t, $i, $point);

                return $point;
            }
            $crossed[] = [$r, $l];
            $s = $this->beside[3 * $t + $i];
            $j = $this->cornerNot($s, $r, $l);
            $d = $this->corner[3 * $s + $j];
            if ($d === $q) {
                break;
            }
            $way = $this->turn($p, $q, $d);
            if ($way === 0) {
                return $d;
            }
            // The edge that it leaves by lies opposite the corner that is left behind.
            $i = $this->indexOf($s, $way > 0 ? $l : $r);
            $t = $s;
        }
        $this->flipAll($p, $q, $crossed);
        [$t, $i] = $this->edge($p, $q);
        $this->fix($t, $i);

        return null;
    }

    /** @param  list<array{int, int}>  $crossed  edges that the segment crosses */
    private function flipAll(int $p, int $q, array $crossed): void
    {
        for ($n = 0; $n < count($crossed); $n++) {
            [$x, $y] = $crossed[$n];
            [$t, $i] = $this->edge($x, $y);
            $s = $this->beside[3 * $t + $i];
            $c = $this->corner[3 * $t + $i];
            $d = $this->corner[3 * $s + $this->cornerNot($s, $x, $y)];
            if ($this->turn($c, $d, $x) * $this->turn($c, $d, $y) >= 0) {
                // The four corners are not convex yet.
                $crossed[] = [$x, $y];

                continue;
            }
            $this->flip($t, $i);
            if ($c !== $p && $c !== $q && $d !== $p && $d !== $q && $this->turn($p, $q, $c) * $this->turn($p, $q, $d) < 0) {
                $crossed[] = [$c, $d];
            }
        }
    }

    private function turn(int $i, int $j, int $k): int
    {
        return $this->points->turn($i, $j, $k, $this->u, $this->v);
    }

    /** Of a point on the line from p to q: is it on the side of p where q is? */
    private function isAhead(int $p, int $q, int $o): bool
    {
        foreach ([$this->u, $this->v] as $axis) {
            $way = $this->points->compare($p, $q, $axis);
            if ($way !== 0) {
                return $this->points->compare($p, $o, $axis) === $way;
            }
        }

        return false;
    }

    /** @return array{int, int} a triangle with the point, and the edge of it that the point is on; −1 for none */
    private function locate(int $point): array
    {
        $t = $this->last;
        $before = -1;
        for ($step = 0; $step < 1_000_000; $step++) {
            $on = -1;
            for ($n = 0; $n < 3; $n++) {
                // Another edge first each time: always the same one could lead in a circle.
                $i = ($n + $step) % 3;
                $next = $this->beside[3 * $t + $i];
                if ($next === $before && $next >= 0) {
                    continue;
                }
                $way = $this->turn($this->corner[3 * $t + ($i + 1) % 3], $this->corner[3 * $t + ($i + 2) % 3], $point);
                if ($way < 0) {
                    if ($next < 0) {
                        break 2;
                    }
                    $before = $t;
                    $t = $next;

                    continue 2;
                }
                $on = $way === 0 ? $i : $on;
            }
            if ($on < 0 && $before >= 0) {
                // It came from beyond this edge; the point may be on it.
                for ($i = 0; $i < 3; $i++) {
                    if ($this->beside[3 * $t + $i] === $before && $this->turn($this->corner[3 * $t + ($i + 1) % 3], $this->corner[3 * $t + ($i + 2) % 3], $point) === 0) {
                        $on = $i;
                    }
                }
            }
            $this->last = $t;

            return [$t, $on];
        }

        throw new BrokenPromise('A point of an arrangement lies outside of its triangle; this is an error of the program.');
    }

    private function splitTriangle(int $t, int $p): void
    {
        [$a, $b, $c] = array_slice($this->corner, 3 * $t, 3);
        [$na, $nb, $nc] = array_slice($this->beside, 3 * $t, 3);
        [$fa, $fb, $fc] = array_slice($this->isFixed, 3 * $t, 3);
        $one = intdiv(count($this->corner), 3);
        $two = $one + 1;
        $this->put($t, [$p, $b, $c], [$na, $two, $one], [$fa, false, false]);
        $this->put($one, [$p, $a, $b], [$nc, $t, $two], [$fc, false, false]);
        $this->put($two, [$p, $c, $a], [$nb, $one, $t], [$fb, false, false]);
        $this->relink($nc, $t, $one);
        $this->relink($nb, $t, $two);
    }

    /** By a point on the edge opposite the corner i. */
    private function splitEdge(int $t, int $i, int $p): void
    {
        $c = $this->corner[3 * $t + $i];
        $a = $this->corner[3 * $t + ($i + 1) % 3];
        $b = $this->corner[3 * $t + ($i + 2) % 3];
        $na = $this->beside[3 * $t + ($i + 1) % 3];
        $nb = $this->beside[3 * $t + ($i + 2) % 3];
        $fa = $this->isFixed[3 * $t + ($i + 1) % 3];
        $fb = $this->isFixed[3 * $t + ($i + 2) % 3];
        $f = $this->isFixed[3 * $t + $i];
        $s = $this->beside[3 * $t + $i];
        $one = intdiv(count($this->corner), 3);
        $two = $s < 0 ? -1 : $one + 1;
        $this->put($t, [$c, $a, $p], [$s, $one, $nb], [$f, false, $fb]);
        $this->put($one, [$c, $p, $b], [$two, $na, $t], [$f, $fa, false]);
        $this->relink($na, $t, $one);
        if ($s < 0) {
            return;
        }
        $j = $this->cornerNot($s, $a, $b);
        $d = $this->corner[3 * $s + $j];
        // Seen from there the edge runs from b to a.
        $mb = $this->beside[3 * $s + ($j + 1) % 3];
        $ma = $this->beside[3 * $s + ($j + 2) % 3];
        $gb = $this->isFixed[3 * $s + ($j + 1) % 3];
        $ga = $this->isFixed[3 * $s + ($j + 2) % 3];
        $this->put($s, [$d, $p, $a], [$t, $mb, $two], [$f, $gb, false]);
        $this->put($two, [$d, $b, $p], [$one, $s, $ma], [$f, false, $ga]);
        $this->relink($ma, $s, $two);
    }

    /** The other diagonal of the two triangles beside the edge opposite the corner i. */
    private function flip(int $t, int $i): void
    {
        $c = $this->corner[3 * $t + $i];
        $a = $this->corner[3 * $t + ($i + 1) % 3];
        $b = $this->corner[3 * $t + ($i + 2) % 3];
        $na = $this->beside[3 * $t + ($i + 1) % 3];
        $nb = $this->beside[3 * $t + ($i + 2) % 3];
        $fa = $this->isFixed[3 * $t + ($i + 1) % 3];
        $fb = $this->isFixed[3 * $t + ($i + 2) % 3];
        $s = $this->beside[3 * $t + $i];
        $j = $this->cornerNot($s, $a, $b);
        $d = $this->corner[3 * $s + $j];
        $mb = $this->beside[3 * $s + ($j + 1) % 3];
        $ma = $this->beside[3 * $s + ($j + 2) % 3];
        $gb = $this->isFixed[3 * $s + ($j + 1) % 3];
        $ga = $this->isFixed[3 * $s + ($j + 2) % 3];
        $this->put($t, [$c, $a, $d], [$mb, $s, $nb], [$gb, false, $fb]);
        $this->put($s, [$c, $d, $b], [$ma, $na, $t], [$ga, $fa, false]);
        $this->relink($mb, $s, $t);
        $this->relink($na, $t, $s);
    }

    /**
     * @param  array{int, int, int}  $corners
     * @param  array{int, int, int}  $beside
     * @param  array{bool, bool, bool}  $isFixed
     */
    private function put(int $t, array $corners, array $beside, array $isFixed): void
    {
        for ($k = 0; $k < 3; $k++) {
            $this->corner[3 * $t + $k] = $corners[$k];
            $this->beside[3 * $t + $k] = $beside[$k];
            $this->isFixed[3 * $t + $k] = $isFixed[$k];
            $this->at[$corners[$k]] = $t;
        }
    }

    private function relink(int $t, int $from, int $to): void
    {
        for ($k = 3 * $t; $t >= 0 && $k < 3 * $t + 3; $k++) {
            if ($this->beside[$k] === $from) {
                $this->beside[$k] = $to;

                return;
            }
        }
    }

    private function fix(int $t, int $i): void
    {
        $this->isFixed[3 * $t + $i] = true;
        $s = $this->beside[3 * $t + $i];
        for ($k = 3 * $s; $s >= 0 && $k < 3 * $s + 3; $k++) {
            if ($this->beside[$k] === $t) {
                $this->isFixed[$k] = true;
            }
        }
    }

    private function indexOf(int $t, int $point): int
    {
        return $this->corner[3 * $t] === $point ? 0 : ($this->corner[3 * $t + 1] === $point ? 1 : 2);
    }

    private function cornerNot(int $t, int $x, int $y): int
    {
        for ($k = 0; $k < 2; $k++) {
            $point = $this->corner[3 * $t + $k];
            if ($point !== $x && $point !== $y) {
                return $k;
            }
        }

        return 2;
    }

    /** @return array{int, int} a triangle with the edge between two points, and the corner opposite it */
    private function edge(int $p, int $q): array
    {
        foreach ($this->around($p) as [$t, $i]) {
            if ($this->corner[3 * $t + ($i + 1) % 3] === $q) {
                return [$t, ($i + 2) % 3];
            }
            if ($this->corner[3 * $t + ($i + 2) % 3] === $q) {
                return [$t, ($i + 1) % 3];
            }
        }

        throw new BrokenPromise('An edge of an arrangement is not there; this is an error of the program.');
    }

    /** @return list<array{int, int}> the triangles around a point, and which corner of each it is */
    private function around(int $point): array
    {
        $first = $this->at[$point];
        $found = [];
        // To the left all the way round, or to the border; then from the first to the right.
        foreach ([1, 2] as $way) {
            for ($t = $first; $t >= 0; $t = $this->beside[3 * $t + ($i + $way) % 3]) {
                $i = $this->indexOf($t, $point);
                if ($way === 1 || $t !== $first) {
                    $found[] = [$t, $i];
                }
                if (count($found) > 1 && $this->beside[3 * $t + ($i + $way) % 3] === $first) {
                    return $found;
                }
            }
        }

        return $found;
    }
}
