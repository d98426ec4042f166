<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Geometry\Orientation;

/**
 * A triangulation in the plane that can be changed: edges flipped, points inserted, edges divided.
 *
 * Guarantees: whatever is done, every triangle turns left on the page (decided exactly), and the outer edges stay what they
 * were but for those that are divided. Changes that would break this are not made, and the caller is told.
 * Half-edge h = 3 t + k runs from corner k of triangle t to the next one; its twin runs the other way, −1 at the outline.
 */
final class PlanarMesh
{
    /** @var array<int, int> 3 a triangle */
    public array $corner = [];

    /** @var array<int, int> 3 a triangle */
    public array $twin = [];

    /**
     * @param  list<int>  $triangles
     * @param  array<int, float>  $x  on the page: any undistorted-enough projection, unrounded
     * @param  array<int, float>  $y
     * @param  array<int, float>  $u  true to scale, mm
     * @param  array<int, float>  $v
     */
    public function __construct(
        array $triangles,
        public array $x,
        public array $y,
        public array $u,
        public array $v,
    ) {
        $span = (max([-1, ...array_keys($x)]) + 2) | 1;
        $this->corner = $triangles;
        $by = [];
        $twice = [];
        foreach ($triangles as $h => $p) {
            $key = $p * $span + $triangles[self::next($h)];
            if (isset($by[$key])) {
                $twice[$key] = true;
            }
            $by[$key] = $h;
        }
        foreach ($triangles as $h => $p) {
            $q = $triangles[self::next($h)];
            // Edges that several pairs of triangles share are left as they are.
            $this->twin[] = isset($twice[$p * $span + $q]) || isset($twice[$q * $span + $p]) ? -1 : $by[$q * $span + $p] ?? -1;
        }
    }

    public static function next(int $h): int
    {
        return $h % 3 === 2 ? $h - 2 : $h + 1;
    }

    private function turn(int $a, int $b, int $c): int
    {
        return Orientation::of($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $this->x[$c], $this->y[$c]);
    }

    /**
     * Lawson's rule: is the edge's opposite pair of angles larger than a half turn? Source: C. L. Lawson, "Software for C1
     * surface interpolation" (1977). Judged in floating point with a margin: it decides beauty only.
     */
    public function shouldFlip(int $h): bool
    {
        $g = $this->twin[$h];
        if ($g < 0) {
            return false;
        }
        $a = $this->corner[$h];
        $b = $this->corner[self::next($h)];
        $c = $this->corner[self::next(self::next($h))];
        $d = $this->corner[self::next(self::next($g))];
        [$u, $v] = [$this->u, $this->v];
        $cau = $u[$a] - $u[$c];
        $cav = $v[$a] - $v[$c];
        $cbu = $u[$b] - $u[$c];
        $cbv = $v[$b] - $v[$c];
        $dau = $u[$a] - $u[$d];
        $dav = $v[$a] - $v[$d];
        $dbu = $u[$b] - $u[$d];
        $dbv = $v[$b] - $v[$d];
        $cosC = $cau * $cbu + $cav * $cbv;
        $cosD = $dau * $dbu + $dav * $dbv;
        $sinC = abs($cau * $cbv - $cav * $cbu);
        $sinD = abs($dau * $dbv - $dav * $dbu);
        $scale = sqrt(($cau * $cau + $cav * $cav) * ($cbu * $cbu + $cbv * $cbv) * ($dau * $dau + $dav * $dav) * ($dbu * $dbu + $dbv * $dbv));

        return $cosC * $sinD + $sinC * $cosD < -1e-10 * $scale;
    }

    /** Turns the edge in its four-sided surroundings; false when they bend inwards. */
    public function flip(int $h): bool
    {
        $g = $this->twin[$h];
        if ($g < 0) {
            return false;
        }
        $h1 = self::next($h);
        $h2 = self::next($h1);
        $g1 = self::next($g);
        $g2 = self::next($g1);
        $a = $this->corner[$h];
        $b = $this->corner[$h1];
        $c = $this->corner[$h2];
        $d = $this->corner[$g2];
        if ($c === $d || $this->turn($a, $d, $c) <= 0 || $this->turn($d, $b, $c) <= 0) {
            return false;
        }
        // (a b c)(b a d) become (a d c)(d b c): h holds d→c's first triangle.
        $bc = $this->twin[$h1];
        $ca = $this->twin[$h2];
        $ad = $this->twin[$g1];
        $db = $this->twin[$g2];
        $t = $h - $h % 3;
        $s = $g - $g % 3;
        $this->put($t, $a, $d, $c);
        $this->put($s, $d, $b, $c);
        $this->join($t, $ad);
        $this->join($t + 1, $s + 2);
        $this->join($t + 2, $ca);
        $this->join($s, $db);
        $this->join($s + 1, $bc);

        return true;
    }

    /**
     * Puts a point inside a triangle; false when it is not strictly inside.
     *
     * @return list<int>|null the triangles' half-edges that look outwards
     */
    public function insert(int $t, int $p): ?array
    {
        $t *= 3;
        [$a, $b, $c] = [$this->corner[$t], $this->corner[$t + 1], $this->corner[$t + 2]];
        if ($this->turn($a, $b, $p) <= 0 || $this->turn($b, $c, $p) <= 0 || $this->turn($c, $a, $p) <= 0) {
            return null;
        }
        [, $bc, $ca] = [$this->twin[$t], $this->twin[$t + 1], $this->twin[$t + 2]];
        $s = count($this->corner);
        $r = $s + 3;
        $this->put($t, $a, $b, $p);
        $this->put($s, $b, $c, $p);
        $this->put($r, $c, $a, $p);
        $this->join($s, $bc);
        $this->join($r, $ca);
        $this->join($t + 1, $s + 2);
        $this->join($s + 1, $r + 2);
        $this->join($r + 1, $t + 2);

        return [$t, $s, $r];
    }

    /**
     * Divides an edge at a point on it (or so near that all triangles still turn left).
     *
     * @return list<int>|null half-edges opposite to the point; null when a triangle would turn over
     */
    public function divide(int $h, int $p): ?array
    {
        $g = $this->twin[$h];
        $h1 = self::next($h);
        $h2 = self::next($h1);
        [$a, $b, $c] = [$this->corner[$h], $this->corner[$h1], $this->corner[$h2]];
        if ($this->turn($a, $p, $c) <= 0 || $this->turn($p, $b, $c) <= 0) {
            return null;
        }
        $g1 = $g2 = $d = -1;
        if ($g >= 0) {
            $g1 = self::next($g);
            $g2 = self::next($g1);
            $d = $this->corner[$g2];
            if ($this->turn($b, $p, $d) <= 0 || $this->turn($p, $a, $d) <= 0) {
                return null;
            }
        }
        $bc = $this->twin[$h1];
        $ca = $this->twin[$h2];
        $t = $h - $h % 3;
        $s = count($this->corner);
        // (a b c) becomes (a p c)(p b c).
        $this->put($t, $a, $p, $c);
        $this->put($s, $p, $b, $c);
        $this->twin[$t] = -1;
        $this->twin[$s] = -1;
        $this->join($t + 1, $s + 2);
        $this->join($t + 2, $ca);
        $this->join($s + 1, $bc);
        if ($g < 0) {
            return [$t + 2, $s + 1];
        }
        $ad = $this->twin[$g1];
        $db = $this->twin[$g2];
        $q = $g - $g % 3;
        $r = $s + 3;
        // (b a d) becomes (b p d)(p a d).
        $this->put($q, $b, $p, $d);
        $this->put($r, $p, $a, $d);
        $this->join($q + 1, $r + 2);
        $this->join($q + 2, $db);
        $this->join($r + 1, $ad);
        $this->join($t, $r);
        $this->join($s, $q);

        return [$t + 2, $s + 1, $q + 2, $r + 1];
    }

    /**
     * Flips until Lawson's rule holds around these half-edges, or the patience ends.
     *
     * @param  array<int, int>  $open
     * @return array<int, true> triangles that changed
     */
    public function relax(array $open): array
    {
        $changed = [];
        $patience = 10_000 + 40 * count($open);
        while ($open !== [] && $patience-- > 0) {
            $h = array_pop($open);
            $g = $this->twin[$h];
            if ($g < 0 || ! $this->shouldFlip($h) || ! $this->flip($h)) {
                continue;
            }
            $t = $h - $h % 3;
            $s = $g - $g % 3;
            $changed[intdiv($t, 3)] = true;
            $changed[intdiv($s, 3)] = true;
            array_push($open, $t, $t + 2, $s, $s + 1);
        }

        return $changed;
    }

    /**
     * The triangle that holds a point, seen from the middle of another triangle: the way there is straight, so that an outline between
     * them bars it.
     *
     * @return array{int, int}|null null when the way is lost; triangle and −1; or the triangle and its half-edge on which the point lies, or which bars the way
     */
    public function locate(int $t, float $x, float $y): ?array
    {
        [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];
        // Not the very middle: from there symmetric meshes have corners right on the way.
        $fromX = 0.41 * $this->x[$a] + 0.33 * $this->x[$b] + 0.26 * $this->x[$c];
        $fromY = 0.41 * $this->y[$a] + 0.33 * $this->y[$b] + 0.26 * $this->y[$c];
        $entered = -1;
        for ($steps = 64 + (int) (8 * sqrt(count($this->corner))); $steps > 0; $steps--) {
            $on = -1;
            $go = -1;
            for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
                if ($h === $entered) {
                    continue;
                }
                $a = $this->corner[$h];
                $b = $this->corner[self::next($h)];
                $turn = Orientation::of($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $x, $y);
                if ($turn === 0) {
                    $on = $h;
                } elseif ($turn < 0
                    && Orientation::of($fromX, $fromY, $x, $y, $this->x[$a], $this->y[$a]) <= 0
                    && Orientation::of($fromX, $fromY, $x, $y, $this->x[$b], $this->y[$b]) >= 0) {
                    $go = $h;
                    break;
                }
            }
            if ($go < 0) {
                return [$t, $on];
            }
            $entered = $this->twin[$go];
            if ($entered < 0) {
                return [$t, $go];
            }
            $t = intdiv($entered, 3);
        }

        return null;
    }

    private function put(int $t, int $a, int $b, int $c): void
    {
        $this->corner[$t] = $a;
        $this->corner[$t + 1] = $b;
        $this->corner[$t + 2] = $c;
    }

    private function join(int $h, int $g): void
    {
        $this->twin[$h] = $g;
        if ($g >= 0) {
            $this->twin[$g] = $h;
        }
    }
}
