<?php

declare(strict_types=1);

// Bodies of 1,000,000 triangles to cut: a ball, a tube along a torus knot, and a gyroid within a ball.

use Isotome\Mesh\Mesh;

require_once __DIR__.'/../vendor/autoload.php';

/** A tube of radius 9 along the knot that winds twice and three times about a torus; 2 × $along × $round triangles. */
function knot(int $along = 2500, int $round = 200): Mesh
{
    $place = static function (float $t): array {
        $r = 40 + 16 * cos(3 * $t);

        return [$r * cos(2 * $t), $r * sin(2 * $t), 24 * sin(3 * $t)];
    };
    $xyz = $corners = [];
    for ($i = 0; $i < $along; $i++) {
        $t = 2 * M_PI * $i / $along;
        $p = $place($t);
        [$ahead, $behind] = [$place($t + 1e-4), $place($t - 1e-4)];
        $tangent = array_map(static fn (float $a, float $b): float => $a - $b, $ahead, $behind);
        $length = sqrt(array_sum(array_map(static fn (float $c): float => $c * $c, $tangent)));
        $tangent = array_map(static fn (float $c): float => $c / $length, $tangent);
        // Never along the tangent: the knot winds about Z.
        $u = [$tangent[1], -$tangent[0], 0.0];
        $length = hypot($u[0], $u[1]);
        $u = [$u[0] / $length, $u[1] / $length, 0.0];
        $v = [$tangent[1] * $u[2] - $tangent[2] * $u[1], $tangent[2] * $u[0] - $tangent[0] * $u[2], $tangent[0] * $u[1] - $tangent[1] * $u[0]];
        for ($k = 0; $k < $round; $k++) {
            [$c, $s] = [9 * cos(2 * M_PI * $k / $round), 9 * sin(2 * M_PI * $k / $round)];
            array_push($xyz, $p[0] + $c * $u[0] + $s * $v[0], $p[1] + $c * $u[1] + $s * $v[1], $p[2] + $c * $u[2] + $s * $v[2]);
            [$a, $b] = [$i * $round + $k, $i * $round + ($k + 1) % $round];
            [$d, $e] = [(($i + 1) % $along) * $round + $k, (($i + 1) % $along) * $round + ($k + 1) % $round];
            array_push($corners, $a, $b, $e, $a, $e, $d);
        }
    }

    return Mesh::of($xyz, $corners);
}

/** One side of a gyroid within a ball of radius 50, by marching tetrahedra on a grid of $n cubes (six to a cube, about its diagonal). */
function gyroid(int $n = 149): Mesh
{
    $at = static function (int $i, int $j, int $k) use ($n): array {
        return [104 * ($i / $n - 0.5), 104 * ($j / $n - 0.5), 104 * ($k / $n - 0.5)];
    };
    $w = $n + 1;
    $values = [];
    for ($k = 0; $k <= $n; $k++) {
        for ($j = 0; $j <= $n; $j++) {
            for ($i = 0; $i <= $n; $i++) {
                [$x, $y, $z] = $at($i, $j, $k);
                $f = 6.0 * (sin($x / 7) * cos($y / 7) + sin($y / 7) * cos($z / 7) + sin($z / 7) * cos($x / 7)) + 1.5;
                $value = min($f, 50.0 - sqrt($x * $x + $y * $y + $z * $z));
                // Never nought: every vertex is inside or outside.
                $values[] = $value == 0.0 ? 1e-9 : $value;
            }
        }
    }
    $xyz = $corners = $onEdge = [];
    $vertex = static function (int $p, int $q) use (&$xyz, &$onEdge, $values, $w, $at): int {
        [$p, $q] = $p < $q ? [$p, $q] : [$q, $p];
        $key = $p * $w * $w * $w + $q;
        if (! isset($onEdge[$key])) {
            $a = $at($p % $w, intdiv($p, $w) % $w, intdiv($p, $w * $w));
            $b = $at($q % $w, intdiv($q, $w) % $w, intdiv($q, $w * $w));
            $t = $values[$p] / ($values[$p] - $values[$q]);
            $onEdge[$key] = intdiv(count($xyz), 3);
            array_push($xyz, $a[0] + $t * ($b[0] - $a[0]), $a[1] + $t * ($b[1] - $a[1]), $a[2] + $t * ($b[2] - $a[2]));
        }

        return $onEdge[$key];
    };
    $paths = [[1, $w], [1, $w * $w], [$w, 1], [$w, $w * $w], [$w * $w, 1], [$w * $w, $w]];
    for ($k = 0; $k < $n; $k++) {
        for ($j = 0; $j < $n; $j++) {
            for ($i = 0; $i < $n; $i++) {
                $o = $i + $w * ($j + $w * $k);
                foreach ($paths as $n6 => [$one, $two]) {
                    $tet = [$o, $o + $one, $o + $one + $two, $o + 1 + $w + $w * $w];
                    $in = array_values(array_filter($tet, static fn (int $p): bool => $values[$p] > 0));
                    if ($in === [] || count($in) === 4) {
                        continue;
                    }
                    $out = array_values(array_diff($tet, $in));
                    // Half of the paths run round the diagonal the other way; then the tetrahedron is turned over.
                    $isEven = in_array($n6, [0, 3, 4], true);
                    $order = array_flip($tet);
                    if (count($in) === 2) {
                        $loop = [$vertex($in[0], $out[0]), $vertex($in[0], $out[1]), $vertex($in[1], $out[1]), $vertex($in[1], $out[0])];
                        $signed = permutation([$order[$in[0]], $order[$in[1]], $order[$out[0]], $order[$out[1]]]);
                        $faces = [[$loop[0], $loop[1], $loop[2]], [$loop[0], $loop[2], $loop[3]]];
                    } else {
                        [$alone, $others] = count($in) === 1 ? [$in[0], $out] : [$out[0], $in];
                        $faces = [[$vertex($alone, $others[0]), $vertex($alone, $others[1]), $vertex($alone, $others[2])]];
                        $signed = permutation([$order[$alone], $order[$others[0]], $order[$others[1]], $order[$others[2]]]) * (count($in) === 1 ? 1 : -1);
                    }
                    foreach ($faces as [$a, $b, $c]) {
                        $isEven === ($signed > 0) ? array_push($corners, $a, $b, $c) : array_push($corners, $a, $c, $b);
                    }
                }
            }
        }
    }

    return Mesh::of($xyz, $corners);
}

/** @param  list<int>  $order */
function permutation(array $order): int
{
    $sign = 1;
    foreach ($order as $i => $p) {
        foreach (array_slice($order, $i + 1) as $q) {
            $sign = $p > $q ? -$sign : $sign;
        }
    }

    return $sign;
}

/** A ball of radius 50: 2 × $round × ($up − 1) triangles between its poles. */
function ball(int $round = 1000, int $up = 501): Mesh
{
    $xyz = [0.0, 0.0, -50.0];
    $corners = [];
    for ($i = 1; $i < $up; $i++) {
        [$z, $r] = [-50 * cos(M_PI * $i / $up), 50 * sin(M_PI * $i / $up)];
        for ($k = 0; $k < $round; $k++) {
            array_push($xyz, $r * cos(2 * M_PI * $k / $round), $r * sin(2 * M_PI * $k / $round), $z);
        }
    }
    array_push($xyz, 0.0, 0.0, 50.0);
    $last = intdiv(count($xyz), 3) - 1;
    for ($k = 0; $k < $round; $k++) {
        $next = ($k + 1) % $round;
        array_push($corners, 0, 1 + $next, 1 + $k);
        for ($i = 1; $i < $up - 1; $i++) {
            [$a, $b] = [1 + ($i - 1) * $round + $k, 1 + ($i - 1) * $round + $next];
            array_push($corners, $a, $b, $b + $round, $a, $b + $round, $a + $round);
        }
        array_push($corners, $last, $last - $round + $k, $last - $round + $next);
    }

    return Mesh::of($xyz, $corners);
}
