<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Closure;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Measure\Inertia;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Mesh\TriangleAreas;

/**
 * How symmetric a body is over a plane: how far its reflection lies from it, and the plane for which that is least.
 *
 * Places are vertices, evenly chosen in their order when there are many, and as many points spread evenly over the surface: the largest deviation is
 * of all of them, the mean of the points. The points follow a sequence of low discrepancy (M. Roberts, "The unreasonable effectiveness of
 * quasirandom sequences", 2018: multiples of the plastic number's powers), so that the same mesh always has the same ones. The best plane starts from the principal axes (for a body of even density a plane of symmetry is square to one of them) and is refined by
 * turns of finding nearest places and the plane that reflects onto them best (P. J. Besl, N. D. McKay, "A method for registration
 * of 3-D shapes", 1992, for a reflection: the plane's normal is an eigenvector of the pairs' second moments).
 */
final readonly class Symmetry
{
    public const PLACES = 8000;

    /** One by the plastic number, the root of x³ = x + 1. */
    private const STEP = 0.7548776662466927;

    private const COARSE = 320;

    private const ROUNDS = 40;

    /** Planes that start this many times worse than the best one are not refined. */
    private const HOPELESS = 9.0;

    private function __construct(
        public Plane $plane,
        public float $largest,
        public float $mean,
    ) {
    }

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public static function of(Mesh $mesh, Plane $plane, int $places = self::PLACES, ?Nearest $nearest = null, ?Closure $progress = null): self
    {
        $nearest ??= new Nearest($mesh);
        $largest = $sum = 0.0;
        $at = [];
        foreach (self::chosen($mesh, intdiv($places, 2)) as $v) {
            array_push($at, $mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]);
        }
        $corners = count($at);
        array_push($at, ...self::spread($mesh, intdiv($places, 2)));
        $reflected = Reflect::places($at, $plane);
        for ($i = 0, $count = count($reflected); $i < $count; $i += 3) {
            if ($progress !== null && $i % 3072 === 0) {
                $progress($i / $count);
            }
            [$d] = $nearest->to($reflected[$i], $reflected[$i + 1], $reflected[$i + 2]);
            $largest = max($largest, $d);
            $sum += $i >= $corners ? $d : 0.0;
        }

        return new self($plane, $largest, $count > $corners ? 3 * $sum / ($count - $corners) : 0.0);
    }

    /**
     * The plane over which the body is most like its own reflection, and how like.
     *
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     */
    public static function best(Mesh $mesh, int $places = self::PLACES, ?Nearest $nearest = null, ?Closure $progress = null): self
    {
        $inertia = Inertia::of($mesh);
        $centre = abs($inertia->volume) > 0.0 ? $inertia->centroid : self::middle($mesh);
        $nearest ??= new Nearest($mesh);
        $vertices = self::chosen($mesh, self::COARSE);
        $starts = [];
        foreach (Jacobi::vectors($inertia->tensor) as $axis) {
            $plane = Plane::through($centre, $axis);
            $starts[] = [self::square($mesh, $nearest, $vertices, $plane), $plane];
        }
        usort($starts, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $best = null;
        $least = INF;
        foreach ($starts as $n => [$start, $plane]) {
            $progress === null || $progress($n / 6);
            if ($start > self::HOPELESS * $starts[0][0] && $best !== null) {
                break;
            }
            [$plane, $mean] = self::refined($mesh, $nearest, $vertices, $plane);
            if ($mean < $least) {
                $least = $mean;
                $best = $plane;
            }
        }

        return self::of($mesh, $best ?? Plane::through($centre, [1.0, 0.0, 0.0]), $places, $nearest, $progress === null ? null : static fn (float $share) => $progress(0.5 + 0.5 * $share));
    }

    /**
     * The mean of squared deviations.
     *
     * @param  list<int>  $vertices
     */
    private static function square(Mesh $mesh, Nearest $nearest, array $vertices, Plane $plane): float
    {
        $sum = 0.0;
        foreach ($vertices as $v) {
            $at = Reflect::places([$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]], $plane);
            $sum += $nearest->to($at[0], $at[1], $at[2])[0] ** 2;
        }

        return $sum / max(1, count($vertices));
    }

    /**
     * @param  list<int>  $vertices
     * @return array{Plane, float} the plane, and the mean of squared deviations
     */
    private static function refined(Mesh $mesh, Nearest $nearest, array $vertices, Plane $plane): array
    {
        $best = $plane;
        $least = INF;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $p = $q = [];
            $sum = 0.0;
            foreach ($vertices as $v) {
                $at = [$mesh->xyz[3 * $v], $mesh->xyz[3 * $v + 1], $mesh->xyz[3 * $v + 2]];
                $reflected = Reflect::places($at, $plane);
                [$d, $x, $y, $z] = $nearest->to($reflected[0], $reflected[1], $reflected[2]);
                $p[] = $at;
                $q[] = [$x, $y, $z];
                $sum += $d * $d;
            }
            $mean = $sum / max(1, count($vertices));
            if ($mean >= $least * (1 - 1e-4)) {
                break;
            }
            $least = $mean;
            $best = $plane;
            $next = self::fitted($p, $q, $plane);
            if ($next === null) {
                break;
            }
            $plane = $next;
        }

        return [$best, $least];
    }

    /**
     * The plane whose reflection takes p nearest to q, in the sum of squares: |p − 2n(n·p − d) − q|² is least when n is the eigenvector of
     * the least eigenvalue of the symmetric part of Σ p qᵗ about the means, and the plane passes through the middle of the means.
     *
     * @param  list<array{float, float, float}>  $p
     * @param  list<array{float, float, float}>  $q
     */
    private static function fitted(array $p, array $q, Plane $near): ?Plane
    {
        $n = count($p);
        $mp = $mq = [0.0, 0.0, 0.0];
        foreach ($p as $i => $place) {
            for ($k = 0; $k < 3; $k++) {
                $mp[$k] += $place[$k] / $n;
                $mq[$k] += $q[$i][$k] / $n;
            }
        }
        $m = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        foreach ($p as $i => $place) {
            for ($k = 0; $k < 3; $k++) {
                for ($l = 0; $l < 3; $l++) {
                    $m[$k][$l] += (($place[$k] - $mp[$k]) * ($q[$i][$l] - $mq[$l]) + ($place[$l] - $mp[$l]) * ($q[$i][$k] - $mq[$k])) / 2;
                }
            }
        }
        $values = Jacobi::of($m);
        $normal = $values[0][1];
        $least = $values[0][0];
        foreach ($values as [$value, $vector]) {
            if ($value < $least) {
                $least = $value;
                $normal = $vector;
            }
        }
        // Another plane of the body's is not refined towards.
        if (abs($normal[0] * $near->nx + $normal[1] * $near->ny + $normal[2] * $near->nz) < 0.7) {
            return null;
        }
        if ($normal[0] * $near->nx + $normal[1] * $near->ny + $normal[2] * $near->nz < 0) {
            $normal = [-$normal[0], -$normal[1], -$normal[2]];
        }

        return Plane::through([($mp[0] + $mq[0]) / 2, ($mp[1] + $mq[1]) / 2, ($mp[2] + $mq[2]) / 2], $normal);
    }

    /** @return list<int> */
    private static function chosen(Mesh $mesh, int $places): array
    {
        $vertices = $mesh->vertexCount();
        if ($vertices <= $places) {
            return $vertices === 0 ? [] : range(0, $vertices - 1);
        }
        $chosen = [];
        for ($n = 0; $n < $places; $n++) {
            $chosen[] = intdiv($n * $vertices, $places);
        }

        return $chosen;
    }

    /** @return list<float> about so many points, 3 numbers each, as many on every triangle as its area asks for */
    private static function spread(Mesh $mesh, int $points): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $areas = TriangleAreas::of($mesh);
        $all = array_sum($areas);
        if ($all <= 0.0) {
            return [];
        }
        $at = [];
        $left = 0.5;
        $n = 0;
        foreach ($areas as $t => $area) {
            $left += $points * $area / $all;
            for (; $left >= 1.0; $left--) {
                $n++;
                $s = fmod(0.5 + $n * self::STEP, 1.0);
                $r = fmod(0.5 + $n * self::STEP * self::STEP, 1.0);
                if ($s + $r > 1.0) {
                    [$s, $r] = [1 - $s, 1 - $r];
                }
                for ($k = 0; $k < 3; $k++) {
                    $from = $xyz[3 * $corners[3 * $t] + $k];
                    $at[] = $from + $s * ($xyz[3 * $corners[3 * $t + 1] + $k] - $from) + $r * ($xyz[3 * $corners[3 * $t + 2] + $k] - $from);
                }
            }
        }

        return $at;
    }

    /** @return array{float, float, float} */
    private static function middle(Mesh $mesh): array
    {
        $box = Box::of($mesh->xyz);

        return [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
    }
}
