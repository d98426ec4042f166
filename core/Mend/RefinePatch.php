<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;

/**
 * Refines a patch of triangles to the edge length around it.
 *
 * Source: P. Liepa, "Filling holes in meshes", Symposium on Geometry Processing (2003), section 4 (after R. Pfeifle and H.-P. Seidel):
 * a triangle is divided at its centre while that is farther from its corners than their edge lengths ask for (density factor √2),
 * and inner edges are swapped when the opposite angles add up to more than a half turn. The patch's border stays.
 */
final class RefinePatch
{
    private const DENSITY = 1.4142135623730951;

    private const ROUNDS = 24;

    private const MOST = 200_000;

    /** @var array<int, int> */
    private array $corner;

    /** @var array<int, int> other half-edge, −1 at the border */
    private array $twin = [];

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $triangles
     * @param  array<int, float>  $length  wanted edge length at each vertex of the patch
     * @param  array<int, array<int, true>>  $edges  edges of the mesh outside, by either end
     */
    private function __construct(
        private array $xyz,
        array $triangles,
        private array $length,
        private array $edges,
    ) {
        $this->corner = $triangles;
        $by = [];
        foreach ($triangles as $h => $a) {
            $by[$a][$triangles[self::next($h)]] = $h;
        }
        foreach ($triangles as $h => $a) {
            $b = $triangles[self::next($h)];
            $this->twin[] = $by[$b][$a] ?? -1;
            $this->edges[$a][$b] = true;
            $this->edges[$b][$a] = true;
        }
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $triangles
     * @param  array<int, float>  $length
     * @param  array<int, array<int, true>>  $edges
     * @param  Closure(float): mixed|null  $progress  called with the share done; it may throw to cancel
     * @return array{list<float>, list<int>} all vertices with the new ones at the end, and the patch's corners
     */
    public static function of(array $xyz, array $triangles, array $length, array $edges, ?Closure $progress = null): array
    {
        $patch = new self($xyz, $triangles, $length, $edges);
        $patch->relax();
        for ($round = 0; $round < self::ROUNDS && count($patch->corner) < 3 * self::MOST; $round++) {
            if (! $patch->divide()) {
                break;
            }
            $patch->relax();
            $progress === null || $progress(($round + 1) / self::ROUNDS);
        }

        return [$patch->xyz, array_values($patch->corner)];
    }

    private static function next(int $h): int
    {
        return $h % 3 === 2 ? $h - 2 : $h + 1;
    }

    private function divide(): bool
    {
        $any = false;
        $count = count($this->corner);
        for ($t = 0; $t < $count; $t += 3) {
            [$a, $b, $c] = [$this->corner[$t], $this->corner[$t + 1], $this->corner[$t + 2]];
            $centre = [];
            for ($k = 0; $k < 3; $k++) {
                $centre[] = ($this->xyz[3 * $a + $k] + $this->xyz[3 * $b + $k] + $this->xyz[3 * $c + $k]) / 3;
            }
            $want = ($this->length[$a] + $this->length[$b] + $this->length[$c]) / 3;
            foreach ([$a, $b, $c] as $v) {
                $far = self::DENSITY * sqrt(($centre[0] - $this->xyz[3 * $v]) ** 2 + ($centre[1] - $this->xyz[3 * $v + 1]) ** 2 + ($centre[2] - $this->xyz[3 * $v + 2]) ** 2);
                if ($far <= $want || $far <= $this->length[$v]) {
                    continue 2;
                }
            }
            $p = intdiv(count($this->xyz), 3);
            array_push($this->xyz, ...$centre);
            $this->length[$p] = $want;
            foreach ([$a, $b, $c] as $v) {
                $this->edges[$v][$p] = true;
                $this->edges[$p][$v] = true;
            }
            [$ab, $bc, $ca] = [$this->twin[$t], $this->twin[$t + 1], $this->twin[$t + 2]];
            $s = count($this->corner);
            $r = $s + 3;
            $this->corner[$t + 2] = $p;
            array_push($this->corner, $b, $c, $p, $c, $a, $p);
            $this->join($t, $ab);
            $this->join($s, $bc);
            $this->join($r, $ca);
            $this->join($t + 1, $s + 2);
            $this->join($s + 1, $r + 2);
            $this->join($r + 1, $t + 2);
            $any = true;
        }

        return $any;
    }

    private function join(int $h, int $g): void
    {
        $this->twin[$h] = $g;
        if ($g >= 0) {
            $this->twin[$g] = $h;
        }
    }

    private function relax(): void
    {
        $patience = 20 * count($this->corner);
        $open = array_keys($this->corner);
        while ($open !== [] && $patience-- > 0) {
            $h = array_pop($open);
            $g = $this->twin[$h];
            if ($g < 0) {
                continue;
            }
            [$h1, $h2] = [self::next($h), self::next(self::next($h))];
            [$g1, $g2] = [self::next($g), self::next(self::next($g))];
            [$a, $b, $c, $d] = [$this->corner[$h], $this->corner[$h1], $this->corner[$h2], $this->corner[$g2]];
            if ($c === $d || isset($this->edges[$c][$d]) || $this->angle($a, $c, $b) + $this->angle($a, $d, $b) <= M_PI + 1e-9 || ! $this->mayTurn($a, $b, $c, $d)) {
                continue;
            }
            unset($this->edges[$a][$b], $this->edges[$b][$a]);
            $this->edges[$c][$d] = true;
            $this->edges[$d][$c] = true;
            [$bc, $ca, $ad, $db] = [$this->twin[$h1], $this->twin[$h2], $this->twin[$g1], $this->twin[$g2]];
            $t = $h - $h % 3;
            $s = $g - $g % 3;
            [$this->corner[$t], $this->corner[$t + 1], $this->corner[$t + 2]] = [$a, $d, $c];
            [$this->corner[$s], $this->corner[$s + 1], $this->corner[$s + 2]] = [$d, $b, $c];
            $this->join($t, $ad);
            $this->join($t + 1, $s + 2);
            $this->join($t + 2, $ca);
            $this->join($s, $db);
            $this->join($s + 1, $bc);
            array_push($open, $t, $t + 2, $s, $s + 1);
        }
    }

    private function angle(int $a, int $p, int $b): float
    {
        [$x, $y, $z] = [$this->xyz[3 * $p], $this->xyz[3 * $p + 1], $this->xyz[3 * $p + 2]];
        [$ux, $uy, $uz] = [$this->xyz[3 * $a] - $x, $this->xyz[3 * $a + 1] - $y, $this->xyz[3 * $a + 2] - $z];
        [$vx, $vy, $vz] = [$this->xyz[3 * $b] - $x, $this->xyz[3 * $b + 1] - $y, $this->xyz[3 * $b + 2] - $z];
        $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);

        return atan2($cross, $ux * $vx + $uy * $vy + $uz * $vz);
    }

    /** The two new triangles must look the same way as the old ones. */
    private function mayTurn(int $a, int $b, int $c, int $d): bool
    {
        $one = $this->normal($a, $d, $c);
        $other = $this->normal($d, $b, $c);
        $before = $this->normal($a, $b, $c);
        $behind = $this->normal($b, $a, $d);
        $sum = [$before[0] + $behind[0], $before[1] + $behind[1], $before[2] + $behind[2]];

        return $one[0] * $sum[0] + $one[1] * $sum[1] + $one[2] * $sum[2] > 0 && $other[0] * $sum[0] + $other[1] * $sum[1] + $other[2] * $sum[2] > 0;
    }

    /** @return array{float, float, float} */
    private function normal(int $a, int $b, int $c): array
    {
        [$ux, $uy, $uz] = [$this->xyz[3 * $b] - $this->xyz[3 * $a], $this->xyz[3 * $b + 1] - $this->xyz[3 * $a + 1], $this->xyz[3 * $b + 2] - $this->xyz[3 * $a + 2]];
        [$vx, $vy, $vz] = [$this->xyz[3 * $c] - $this->xyz[3 * $a], $this->xyz[3 * $c + 1] - $this->xyz[3 * $a + 1], $this->xyz[3 * $c + 2] - $this->xyz[3 * $a + 2]];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }
}
