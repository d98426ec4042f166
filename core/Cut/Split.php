<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Geometry\Sides;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Rim;

/**
 * Divides every triangle along a plane, leaving the cut open.
 *
 * Guarantees: a crossed edge is cut once, and all triangles around it share the new vertex; every triangle lands on
 * exactly one side; a triangle in the plane belongs to the side whose material it bounds, so that the rim encloses exactly
 * the section's area. The rim of a mesh without open edges consists of closed outlines.
 */
final class Split
{
    private const LYING = 1 << 40;

    /**
     * @param  float|null  $extent see Sides::of
     * @param  bool|null  $onlyBehind  only the triangles wholly behind, or wholly ahead, are wanted: the other side lacks its own
     * @param  Quads|null  $quads  faces beside the triangles, that an earlier blade of a series left; when given, the side ahead keeps such
     *                             faces whole too, for the next blade
     */
    public static function of(Mesh $mesh, Plane $plane, ?float $extent = null, ?bool $onlyBehind = null, ?Quads $quads = null): Halves
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $tags = $mesh->tags;
        $sides = Sides::of($xyz, $plane, $extent);
        $keepsQuads = $quads !== null;
        /** @var list<int> $aheadQuads */
        $aheadQuads = [];
        /** @var list<int> $quadTags */
        $quadTags = [];

        // One number a vertex tells side and place: 0 and up is ahead, below 0 (its complement) behind, from LYING up on the
        // blade. So the common triangles, wholly on one side, are told by one test.
        $map = [];
        $aheadXyz = [];
        $behindXyz = [];
        $rimXyz = [];
        $ahead = 0;
        $behind = 0;
        $points = 0;
        $i = 0;
        $isAheadWanted = $onlyBehind !== true;
        $isBehindWanted = $onlyBehind !== false;
        foreach ($sides as $side) {
            if ($side === 2) {
                $map[] = $ahead++;
                if ($isAheadWanted) {
                    $aheadXyz[] = $xyz[$i];
                    $aheadXyz[] = $xyz[$i + 1];
                    $aheadXyz[] = $xyz[$i + 2];
                }
            } elseif ($side === 1) {
                $map[] = ~$behind;
                $behind++;
                if ($isBehindWanted) {
                    $behindXyz[] = $xyz[$i];
                    $behindXyz[] = $xyz[$i + 1];
                    $behindXyz[] = $xyz[$i + 2];
                }
            } else {
                $map[] = self::LYING + $points++;
                $rimXyz[] = $xyz[$i];
                $rimXyz[] = $xyz[$i + 1];
                $rimXyz[] = $xyz[$i + 2];
            }
            $i += 3;
        }

        $odd = count($sides) | 1;
        /** @var array<int, int> $onEdge rim point on a crossed edge; the odd factor keeps keys from sharing their low bits */
        $onEdge = [];
        $aheadCorners = [];
        $behindCorners = [];
        $aheadTags = [];
        $behindTags = [];
        /** @var list<int> $from */
        $from = [];
        /** @var list<int> $to */
        $to = [];
        /** @var list<int> $rimTags */
        $rimTags = [];
        /** @var list<array{int, int, int}> $lying triangles on the blade, by rim points */
        $lying = [];
        $lyingTags = [];
        /** @var array<int, array<int, bool>> $beside edges on the blade of triangles beside it */
        $beside = [];

        $i = 0;
        foreach ($tags as $tag) {
            $ma = $map[$corners[$i]];
            $mb = $map[$corners[$i + 1]];
            $mc = $map[$corners[$i + 2]];
            $either = $ma | $mb | $mc;
            if ($either >= 0 && $either < self::LYING) {
                if ($isAheadWanted) {
                    $aheadCorners[] = $ma;
                    $aheadCorners[] = $mb;
                    $aheadCorners[] = $mc;
                    $aheadTags[] = $tag;
                }
                $i += 3;

                continue;
            }
            if (($ma & $mb & $mc) < 0) {
                if ($isBehindWanted) {
                    $behindCorners[] = ~$ma;
                    $behindCorners[] = ~$mb;
                    $behindCorners[] = ~$mc;
                    $behindTags[] = $tag;
                }
                $i += 3;

                continue;
            }
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $i += 3;
            $sa = $sides[$a];
            $sb = $sides[$b];
            $sc = $sides[$c];
            $reach = $sa | $sb | $sc;
            if ($reach !== 3) {
                // Touches the blade with a corner, an edge, or all of itself.
                $ka = $sa === 0 ? $ma - self::LYING : -1;
                $kb = $sb === 0 ? $mb - self::LYING : -1;
                $kc = $sc === 0 ? $mc - self::LYING : -1;
                if ($reach === 0) {
                    $lying[] = [$ka, $kb, $kc];
                    $lyingTags[] = $tag;

                    continue;
                }
                $isBehind = $reach === 1;
                if ($isBehind) {
                    $behindCorners[] = $sa === 0 ? $behind + $ka : ~$ma;
                    $behindCorners[] = $sb === 0 ? $behind + $kb : ~$mb;
                    $behindCorners[] = $sc === 0 ? $behind + $kc : ~$mc;
                    $behindTags[] = $tag;
                } else {
                    $aheadCorners[] = $sa === 0 ? $ahead + $ka : $ma;
                    $aheadCorners[] = $sb === 0 ? $ahead + $kb : $mb;
                    $aheadCorners[] = $sc === 0 ? $ahead + $kc : $mc;
                    $aheadTags[] = $tag;
                }
                foreach ([[$ka, $kb], [$kb, $kc], [$kc, $ka]] as [$k, $l]) {
                    if ($k >= 0 && $l >= 0) {
                        $beside[$k][$l] = $isBehind;
                        if (! $isBehind) {
                            $from[] = $k;
                            $to[] = $l;
                            $rimTags[] = $tag;
                        }
                    }
                }

                continue;
            }

            // Crossed. Turn the triangle so that p is on the blade, or else alone on its side.
            if ($sa === 0 || ($sb !== 0 && $sb === $sc)) {
                [$p, $q, $r, $sp, $sq] = [$a, $b, $c, $sa, $sb];
            } elseif ($sb === 0 || ($sc !== 0 && $sc === $sa)) {
                [$p, $q, $r, $sp, $sq] = [$b, $c, $a, $sb, $sc];
            } else {
                [$p, $q, $r, $sp, $sq] = [$c, $a, $b, $sc, $sa];
            }
            $cutEdges = $sp === 0 ? [[$q, $r]] : [[$p, $q], [$p, $r]];
            $made = [];
            foreach ($cutEdges as [$first, $second]) {
                if ($first > $second) {
                    [$first, $second] = [$second, $first];
                }
                $key = $first * $odd + $second;
                $point = $onEdge[$key] ?? null;
                if ($point === null) {
                    [$rimXyz[], $rimXyz[], $rimXyz[]] = self::between($xyz, 3 * $first, 3 * $second, $plane);
                    $onEdge[$key] = $point = $points++;
                }
                $made[] = $point;
            }
            $rimTags[] = $tag;
            $mp = $map[$p];
            $mq = $map[$q];
            $mr = $map[$r];
            if ($mq < 0) {
                $mq = ~$mq;
            }
            if ($mr < 0) {
                $mr = ~$mr;
            }
            if ($sp === 0) {
                $mp -= self::LYING;
                $k = $made[0];
                if ($sq === 2) {
                    array_push($aheadCorners, $ahead + $mp, $mq, $ahead + $k);
                    array_push($behindCorners, $behind + $mp, $behind + $k, $mr);
                    $from[] = $k;
                    $to[] = $mp;
                } else {
                    array_push($behindCorners, $behind + $mp, $mq, $behind + $k);
                    array_push($aheadCorners, $ahead + $mp, $ahead + $k, $mr);
                    $from[] = $mp;
                    $to[] = $k;
                }
                $aheadTags[] = $tag;
                $behindTags[] = $tag;

                continue;
            }
            [$k, $l] = $made;
            // The four-sided rest is divided by its shorter diagonal.
            $dx = $rimXyz[3 * $k] - $xyz[3 * $r];
            $dy = $rimXyz[3 * $k + 1] - $xyz[3 * $r + 1];
            $dz = $rimXyz[3 * $k + 2] - $xyz[3 * $r + 2];
            $ex = $rimXyz[3 * $l] - $xyz[3 * $q];
            $ey = $rimXyz[3 * $l + 1] - $xyz[3 * $q + 1];
            $ez = $rimXyz[3 * $l + 2] - $xyz[3 * $q + 2];
            $throughK = $dx * $dx + $dy * $dy + $dz * $dz <= $ex * $ex + $ey * $ey + $ez * $ez;
            if ($sp === 2) {
                array_push($aheadCorners, $mp, $ahead + $k, $ahead + $l);
                $aheadTags[] = $tag;
                if ($throughK) {
                    array_push($behindCorners, $behind + $k, $mq, $mr, $behind + $k, $mr, $behind + $l);
                } else {
                    array_push($behindCorners, $behind + $k, $mq, $behind + $l, $mq, $mr, $behind + $l);
                }
                $behindTags[] = $tag;
                $behindTags[] = $tag;
                $from[] = $k;
                $to[] = $l;
            } else {
                array_push($behindCorners, ~$mp, $behind + $k, $behind + $l);
                $behindTags[] = $tag;
                $from[] = $l;
                $to[] = $k;
                if ($keepsQuads) {
                    array_push($aheadQuads, $ahead + $l, $ahead + $k, $mq, $mr);
                    $quadTags[] = $tag;

                    continue;
                }
                if ($throughK) {
                    array_push($aheadCorners, $ahead + $k, $mq, $mr, $ahead + $k, $mr, $ahead + $l);
                } else {
                    array_push($aheadCorners, $ahead + $k, $mq, $ahead + $l, $mq, $mr, $ahead + $l);
                }
                $aheadTags[] = $tag;
                $aheadTags[] = $tag;
            }
        }
        // The first two corners of a quad lie behind, so the blade meets it once.
        foreach ($quads->tags ?? [] as $n => $tag) {
            $loop = array_slice($quads->corners ?? [], 4 * $n, 4);
            /** @var list<int> $on */
            $on = [];
            /** @var list<int> $aheadLoop */
            $aheadLoop = [];
            $behindLoop = $places = [];
            $enters = $leaves = -1;
            foreach ($loop as $k => $p) {
                $q = $loop[$k === 3 ? 0 : $k + 1];
                $sp = $sides[$p];
                $sq = $sides[$q];
                if ($sp === 2) {
                    $aheadLoop[] = $map[$p];
                    $leaves = $sq === 0 ? $map[$q] - self::LYING : $leaves;
                } else {
                    $behindLoop[] = $sp === 0 ? $behind + $map[$p] - self::LYING : ~$map[$p];
                    array_push($places, $xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2]);
                }
                if ($sp === 0) {
                    $on[] = $map[$p] - self::LYING;
                    $aheadLoop[] = $ahead + $map[$p] - self::LYING;
                    $enters = $sq === 2 ? $map[$p] - self::LYING : $enters;
                }
                if (($sp | $sq) !== 3) {
                    continue;
                }
                [$first, $second] = $p < $q ? [$p, $q] : [$q, $p];
                $key = $first * $odd + $second;
                $point = $onEdge[$key] ?? null;
                if ($point === null) {
                    [$rimXyz[], $rimXyz[], $rimXyz[]] = self::between($xyz, 3 * $first, 3 * $second, $plane);
                    $onEdge[$key] = $point = $points++;
                }
                $behindLoop[] = $behind + $point;
                array_push($places, $rimXyz[3 * $point], $rimXyz[3 * $point + 1], $rimXyz[3 * $point + 2]);
                $aheadLoop[] = $ahead + $point;
                $sp === 1 ? $enters = $point : $leaves = $point;
            }
            foreach (Fan::of($places) as $k => $corner) {
                $behindCorners[] = $behindLoop[$corner];
                if ($k % 3 === 0) {
                    $behindTags[] = $tag;
                }
            }
            if (count($on) === 2) {
                $beside[$on[0]][$on[1]] = true;
            }
            if ($enters < 0 || $leaves < 0) {
                continue;
            }
            $from[] = $leaves;
            $to[] = $enters;
            $rimTags[] = $tag;
            if (count($aheadLoop) === 4) {
                // From the rim on.
                array_push($aheadQuads, $aheadLoop[3], $aheadLoop[0], $aheadLoop[1], $aheadLoop[2]);
                $quadTags[] = $tag;
            } else {
                array_push($aheadCorners, ...$aheadLoop);
                $aheadTags[] = $tag;
            }
        }
        // Freed before the rim's coordinates are copied.
        unset($sides, $map, $onEdge);

        foreach (LyingPatches::areBehind($lying, $rimXyz, $plane->pageAxes(), $beside) as $t => $isBehind) {
            [$a, $b, $c] = $lying[$t];
            if ($isBehind) {
                array_push($behindCorners, $behind + $a, $behind + $b, $behind + $c);
                $behindTags[] = $lyingTags[$t];
            } else {
                array_push($aheadCorners, $ahead + $a, $ahead + $b, $ahead + $c);
                $aheadTags[] = $lyingTags[$t];
                array_push($from, $a, $b, $c);
                array_push($to, $b, $c, $a);
                array_push($rimTags, $lyingTags[$t], $lyingTags[$t], $lyingTags[$t]);
            }
        }
        $lyingEdges = [];
        foreach ($beside as $p => $ends) {
            foreach ($ends as $q => $_) {
                $lyingEdges[$p < $q ? $p * $points + $q : $q * $points + $p] = 1;
            }
        }
        foreach ($lying as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $lyingEdges[$p < $q ? $p * $points + $q : $q * $points + $p] = 1;
            }
        }
        /** @var list<int> $from */
        /** @var list<int> $to */
        /** @var list<int> $rimTags */
        [$from, $to, $rimTags] = self::withoutOpposites($from, $to, $rimTags, $points);
        foreach ($rimXyz as $coordinate) {
            $aheadXyz[] = $coordinate;
            $behindXyz[] = $coordinate;
        }

        return new Halves(
            new Rim($plane, $rimXyz, $from, $to, $rimTags, $lyingEdges),
            [$aheadXyz, $aheadCorners, $aheadTags],
            [$behindXyz, $behindCorners, $behindTags],
            $ahead, $behind, new Quads($aheadQuads, $quadTags),
        );
    }

    /**
     * Where an edge passes the blade; its ends are given in one order, so that all its triangles get the same place.
     *
     * @param  list<float>  $xyz
     * @return array{float, float, float}
     */
    private static function between(array $xyz, int $first, int $second, Plane $plane): array
    {
        $x1 = $xyz[$first];
        $y1 = $xyz[$first + 1];
        $z1 = $xyz[$first + 2];
        $x2 = $xyz[$second];
        $y2 = $xyz[$second + 1];
        $z2 = $xyz[$second + 2];
        $axis = $plane->axis;
        if ($axis === null) {
            $d1 = $plane->nx * $x1 + $plane->ny * $y1 + $plane->nz * $z1 - $plane->offset;
            $d2 = $plane->nx * $x2 + $plane->ny * $y2 + $plane->nz * $z2 - $plane->offset;
            $t = $d1 / ($d1 - $d2);

            return [$x1 + $t * ($x2 - $x1), $y1 + $t * ($y2 - $y1), $z1 + $t * ($z2 - $z1)];
        }
        $place = $plane->offset * $plane->facing()[$axis];
        $d1 = $xyz[$first + $axis] - $place;
        $d2 = $xyz[$second + $axis] - $place;
        $t = $d1 / ($d1 - $d2);

        return [
            $axis === 0 ? $place : $x1 + $t * ($x2 - $x1),
            $axis === 1 ? $place : $y1 + $t * ($y2 - $y1),
            $axis === 2 ? $place : $z1 + $t * ($z2 - $z1),
        ];
    }

    /**
     * Edges that run both ways bound nothing.
     *
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @param  list<int>  $tags
     * @return array{list<int>, list<int>, list<int>}
     */
    private static function withoutOpposites(array $from, array $to, array $tags, int $points): array
    {
        $waiting = [];
        $gone = [];
        foreach ($from as $e => $p) {
            $q = $to[$e];
            $opposite = $q * $points + $p;
            if (isset($waiting[$opposite]) && $waiting[$opposite] !== []) {
                $gone[array_pop($waiting[$opposite])] = true;
                $gone[$e] = true;
            } else {
                $waiting[$p * $points + $q][] = $e;
            }
        }
        if ($gone === []) {
            return [$from, $to, $tags];
        }
        $keptFrom = [];
        $keptTo = [];
        $keptTags = [];
        foreach ($from as $e => $p) {
            if (! isset($gone[$e])) {
                $keptFrom[] = $p;
                $keptTo[] = $to[$e];
                $keptTags[] = $tags[$e];
            }
        }

        return [$keptFrom, $keptTo, $keptTags];
    }
}
