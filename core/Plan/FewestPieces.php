<?php

declare(strict_types=1);

namespace Isotome\Plan;

use Isotome\Fit\Turned;
use Isotome\Geometry\Box;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Nearest;
use Isotome\Mesh\TriangleAreas;
use Isotome\Mesh\Volume;
use Isotome\Mesh\Within;

/**
 * How many pieces a body must become at least, whatever flat cuts are made.
 *
 * Guarantees a true bound: no plan has fewer. By volume; by places of the body that are farther apart than the space from corner to corner, of which each needs a piece of its own; and by the search over all turns, which proves that one
 * piece is not enough. When cuts remove a gap, such a place is the middle of a ball within the body: slabs cover no ball unless their widths add up to its diameter (T. Bang, "A solution of the plank problem", 1951), so something of it stays, and the balls are
 * that much farther apart. What the slabs remove is at most their width times the largest section, which the isodiametric inequality bounds (L. Bieberbach 1915).
 */
final class FewestPieces
{
    /** Places that are looked at. */
    private const PLACES = 1_500;

    /** Sets of far places that are begun. */
    private const STARTS = 24;

    /** One by the plastic number: its multiples and those of its square spread places evenly (M. Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018). */
    private const STEP = 0.7548776662466927;

    /** Share by which a computed distance may be off. */
    private const ROUNDING = 1e-9;

    public static function of(Mesh $mesh, Wishes $wishes): int
    {
        $turned = Turned::into($mesh->xyz, $wishes->space, byHowMuch: false);
        if ($turned->fits()) {
            return 1;
        }
        $fewest = 0;
        $bodies = Bodies::of($mesh);
        foreach ($bodies as $body) {
            $fewest += max(self::byVolume($body, $wishes), self::byFarPlaces($body, $wishes));
        }

        return max($turned->isUnsure() ? 1 : 2, $fewest);
    }

    private static function byVolume(Mesh $mesh, Wishes $wishes): int
    {
        $volume = abs(Volume::of($mesh)) * (1 - self::ROUNDING);
        $lost = $wishes->gap * M_PI_4 * Box::of($mesh->xyz)->diagonal() ** 2;

        // n pieces and the gaps between them hold it: n · space + (n − 1) · lost ≥ volume.
        return max(1, (int) ceil(($volume + $lost) / ($wishes->volume() + $lost) - self::ROUNDING));
    }

    private static function byFarPlaces(Mesh $mesh, Wishes $wishes): int
    {
        $space = $wishes->space;
        $far = sqrt($space->x ** 2 + $space->y ** 2 + $space->z ** 2) * (1 + self::ROUNDING);
        [$places, $inwards] = self::places($mesh);
        $most = self::apart($places, $far);
        if ($wishes->gap <= 0.0 || $most === 1) {
            return $most;
        }
        // With a gap fewer may be provable: as many as balls of the size that so many cuts leave something of.
        $nearest = new Nearest($mesh);
        $within = new Within($mesh);
        for (; $most > 1; $most--) {
            $radius = max(0, $most - 2) * $wishes->gap / 2 * (1 + 1e-6) + self::ROUNDING;
            if (self::apart(self::middles($places, $inwards, $radius, $nearest, $within), $far + 2 * $radius) >= $most) {
                return $most;
            }
        }

        return 1;
    }

    /**
     * How many of the places are all farther apart, found step by step, from several beginnings: of those far enough from all so far the nearest.
     *
     * @param  list<array{float, float, float}>  $places
     */
    private static function apart(array $places, float $far): int
    {
        $count = count($places);
        $best = min(1, $count);
        $least = $far * $far;
        for ($start = 0; $start < min(self::STARTS, $count); $start++) {
            // The first ones are those farthest along directions.
            $nearest = array_fill(0, $count, INF);
            $next = $start;
            for ($n = 0; $next >= 0; $n++) {
                [$x, $y, $z] = $places[$next];
                $next = -1;
                $closest = INF;
                foreach ($places as $i => $at) {
                    $square = ($at[0] - $x) ** 2 + ($at[1] - $y) ** 2 + ($at[2] - $z) ** 2;
                    if ($square < $nearest[$i]) {
                        $nearest[$i] = $square;
                    }
                    if ($nearest[$i] > $least && $nearest[$i] < $closest) {
                        $closest = $nearest[$i];
                        $next = $i;
                    }
                }
            }
            $best = max($best, $n);
        }

        return $best;
    }

    /**
     * Vertices, those farthest along some directions first, and places spread over large faces.
     *
     * @return array{list<array{float, float, float}>, list<array{float, float, float}>} places, and the way into the body at each, of any length
     */
    private static function places(Mesh $mesh): array
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $inwards = array_fill(0, count($xyz), 0.0);
        $areas = TriangleAreas::of($mesh);
        // Faces smaller than a square of this side are told by their vertices.
        $side = sqrt(2 * array_sum($areas) / self::PLACES);
        $spread = $ways = [];
        foreach ($areas as $t => $area) {
            $a = 3 * $corners[3 * $t];
            $b = 3 * $corners[3 * $t + 1];
            $c = 3 * $corners[3 * $t + 2];
            $ux = $xyz[$b] - $xyz[$a];
            $uy = $xyz[$b + 1] - $xyz[$a + 1];
            $uz = $xyz[$b + 2] - $xyz[$a + 2];
            $vx = $xyz[$c] - $xyz[$a];
            $vy = $xyz[$c + 1] - $xyz[$a + 1];
            $vz = $xyz[$c + 2] - $xyz[$a + 2];
            $nx = $uz * $vy - $uy * $vz;
            $ny = $ux * $vz - $uz * $vx;
            $nz = $uy * $vx - $ux * $vy;
            foreach ([$a, $b, $c] as $at) {
                $inwards[$at] += $nx;
                $inwards[$at + 1] += $ny;
                $inwards[$at + 2] += $nz;
            }
            $count = (int) (2 * $area / ($side * $side));
            for ($i = 0; $i < $count; $i++) {
                $p = fmod(self::STEP * ($i + 1), 1.0);
                $q = fmod(self::STEP ** 2 * ($i + 1), 1.0);
                [$p, $q] = $p + $q > 1.0 ? [1 - $p, 1 - $q] : [$p, $q];
                $spread[] = [$xyz[$a] + $p * $ux + $q * $vx, $xyz[$a + 1] + $p * $uy + $q * $vy, $xyz[$a + 2] + $p * $uz + $q * $vz];
                $ways[] = [$nx, $ny, $nz];
            }
        }
        $places = $into = [];
        foreach (self::chosen($mesh) as $v) {
            $places[] = [$xyz[3 * $v], $xyz[3 * $v + 1], $xyz[3 * $v + 2]];
            $into[] = [$inwards[3 * $v], $inwards[3 * $v + 1], $inwards[3 * $v + 2]];
        }

        return [[...$places, ...$spread], [...$into, ...$ways]];
    }

    /** @return list<int> vertices */
    private static function chosen(Mesh $mesh): array
    {
        $chosen = [];
        for ($n = 0; $n < 13; $n++) {
            // All ways to look along the axes, the diagonals of faces and those of the cube: −1, 0 and 1.
            $number = $n + 14;
            $distances = Part::distances($mesh, [(float) ($number % 3 - 1), (float) (intdiv($number, 3) % 3 - 1), (float) (intdiv($number, 9) - 1)]);
            foreach (Part::ends($distances) as $end) {
                $chosen[(int) array_search($end, $distances, true)] = true;
            }
        }
        $count = $mesh->vertexCount();
        $step = max(1, intdiv($count, self::PLACES));
        for ($v = 0; $v < $count; $v += $step) {
            $chosen[$v] = true;
        }

        return array_keys($chosen);
    }

    /**
     * Middles of balls within the body that touch its skin near the places.
     *
     * @param  list<array{float, float, float}>  $places
     * @param  list<array{float, float, float}>  $inwards
     * @return list<array{float, float, float}>
     */
    private static function middles(array $places, array $inwards, float $radius, Nearest $nearest, Within $within): array
    {
        $middles = [];
        foreach ($places as $n => [$x, $y, $z]) {
            [$nx, $ny, $nz] = $inwards[$n];
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            // At a corner the ball lies deeper than its radius.
            foreach ($length > 0.0 ? [1.0001, 1.8] : [] as $times) {
                $step = $times * $radius / $length;
                $at = [$x + $step * $nx, $y + $step * $ny, $z + $step * $nz];
                if ($nearest->to(...$at)[0] >= $radius * (1 - 1e-9) && $within->has(...$at)) {
                    $middles[] = $at;
                    break;
                }
            }
        }

        return $middles;
    }
}
