<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Mesh\Mark;

/**
 * Takes new points on rim edges over into the triangles of the mesh beside them.
 *
 * A long triangle gets a point of its own near the edge, from which the new points are reached: a fan from its far corner would
 * meet the next blade with all its edges.
 */
final class RimPoints
{
    /**
     * Guarantees that every divided edge is divided in exactly one triangle of this side: the one that the cap meets there.
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     * @param  list<array{int, int, list<int>}>  $divided  rim edge and its new points, by rim points
     * @param  int  $base  vertex of rim point 0
     * @param  int  $newBase  the same for the new points, which are numbered on from the rim's
     * @param  bool  $isBehind  the side behind meets the rim's edges backwards, the side ahead forwards
     * @return array{list<float>, list<int>, list<int>} coordinates, corners, tags
     */
    public static function into(array $xyz, array $corners, array $tags, array $divided, int $base, int $newBase, bool $isBehind): array
    {
        $wanted = [];
        foreach ($divided as [$from, $to, $points]) {
            if ($isBehind) {
                $wanted[$base + $to][$base + $from] = array_reverse($points);
            } else {
                $wanted[$base + $from][$base + $to] = $points;
            }
        }
        /** @var array<int, array<int, list<int>>> $found triangle → first corner → points */
        $found = [];
        $count = count($corners);
        for ($i = 0; $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            if (($a < $base) + ($b < $base) + ($c < $base) > 1) {
                continue;
            }
            foreach ([[$a, $b, 0], [$b, $c, 1], [$c, $a, 2]] as [$p, $q, $k]) {
                if (isset($wanted[$p][$q])) {
                    $found[$i][$k] = $wanted[$p][$q];
                    unset($wanted[$p][$q]);
                }
            }
        }
        foreach ($found as $i => $edges) {
            $tag = $tags[intdiv($i, 3)] = Mark::part($tags[intdiv($i, 3)]);
            $faces = [[$corners[$i], $corners[$i + 1], $corners[$i + 2]]];
            foreach ($edges as $k => $points) {
                $p = $corners[$i + $k];
                $q = $corners[$i + ($k + 1) % 3];
                [$xyz, $faces] = self::fan($xyz, $faces, $p, $q, array_map(static fn (int $point): int => $newBase + $point, $points));
            }
            [$corners[$i], $corners[$i + 1], $corners[$i + 2]] = $faces[0];
            foreach (array_slice($faces, 1) as [$a, $b, $c]) {
                array_push($corners, $a, $b, $c);
                $tags[] = $tag;
            }
        }

        return [$xyz, array_values($corners), array_values($tags)];
    }

    /**
     * @param  list<float>  $xyz
     * @param  list<array{int, int, int}>  $faces
     * @param  list<int>  $points
     * @return array{list<float>, list<array{int, int, int}>}
     */
    private static function fan(array $xyz, array $faces, int $p, int $q, array $points): array
    {
        $result = [];
        foreach ($faces as [$a, $b, $c]) {
            $apex = match (true) {
                $a === $p && $b === $q => $c,
                $b === $p && $c === $q => $a,
                $c === $p && $a === $q => $b,
                default => null,
            };
            if ($apex === null) {
                $result[] = [$a, $b, $c];

                continue;
            }
            $near = self::near($xyz, $p, $q, $apex);
            if ($near !== null) {
                array_push($xyz, ...$near);
                $m = intdiv(count($xyz), 3) - 1;
                array_push($result, [$q, $apex, $m], [$apex, $p, $m]);
                $apex = $m;
            }
            $from = $p;
            foreach ([...$points, $q] as $to) {
                $result[] = [$from, $to, $apex];
                $from = $to;
            }
        }

        return [$xyz, $result];
    }

    /**
     * Half an edge length away from the edge's middle, towards the apex: the same seen from a neighbour, whose edge runs the other way.
     *
     * @param  list<float>  $xyz
     * @return array{float, float, float}|null null when the apex is hardly farther
     */
    private static function near(array $xyz, int $p, int $q, int $apex): ?array
    {
        $middle = $way = [];
        $length = $far = 0.0;
        for ($k = 0; $k < 3; $k++) {
            $middle[] = ($xyz[3 * $p + $k] + $xyz[3 * $q + $k]) / 2;
            $way[] = $xyz[3 * $apex + $k] - $middle[$k];
            $length += ($xyz[3 * $p + $k] - $xyz[3 * $q + $k]) ** 2;
            $far += $way[$k] ** 2;
        }
        $share = $far > 0.0 ? sqrt($length / $far) / 2 : 1.0;

        return $share > 0.35 ? null : [$middle[0] + $share * $way[0], $middle[1] + $share * $way[1], $middle[2] + $share * $way[2]];
    }
}
