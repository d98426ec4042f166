<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Mesh\Mesh;
use Isotome\Number\Orientation;

/**
 * Divides every triangle along a plane, leaving the cut open.
 *
 * Guarantees: a crossed edge is cut once, and all triangles around it share the new vertex; every triangle lands on
 * exactly one side; a triangle in the plane belongs to the side whose material it bounds, so that the rim encloses exactly
 * the section's area. The rim of a mesh without open edges consists of closed outlines.
 */
final class Split
{
    /** @param  float|null  $extent see Sides::of */
    public static function of(Mesh $mesh, Plane $plane, ?float $extent = null): Halves
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $tags = $mesh->tags;
        $sides = Sides::of($xyz, $plane, $extent);

        // Number in its own side for a vertex off the blade, rim point number for one on it.
        $map = [];
        $aheadXyz = [];
        $behindXyz = [];
        $rimXyz = [];
        $ahead = 0;
        $behind = 0;
        $points = 0;
        $i = 0;
        foreach ($sides as $side) {
            if ($side === 2) {
                $map[] = $ahead++;
                $aheadXyz[] = $xyz[$i];
                $aheadXyz[] = $xyz[$i + 1];
                $aheadXyz[] = $xyz[$i + 2];
            } elseif ($side === 1) {
                $map[] = $behind++;
                $behindXyz[] = $xyz[$i];
                $behindXyz[] = $xyz[$i + 1];
                $behindXyz[] = $xyz[$i + 2];
            } else {
                $map[] = $points++;
                $rimXyz[] = $xyz[$i];
                $rimXyz[] = $xyz[$i + 1];
                $rimXyz[] = $xyz[$i + 2];
            }
            $i += 3;
        }

        $nx = $plane->nx;
        $ny = $plane->ny;
        $nz = $plane->nz;
        $offset = $plane->offset;
        $axis = $plane->axis;
        $axisPlace = $axis === null ? 0.0 : $offset * $plane->facing()[$axis];
        [$u, $v] = $plane->pageAxes();
        $odd = count($sides) | 1;
        /** @var array<int, int> $onEdge rim point on a crossed edge; the odd factor keeps keys from sharing their low bits */
        $onEdge = [];
        $aheadCorners = [];
        $behindCorners = [];
        $aheadTags = [];
        $behindTags = [];
        $from = [];
        $to = [];
        $lyingFrom = [];
        $lyingTo = [];

        $i = 0;
        foreach ($tags as $tag) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $i += 3;
            $sa = $sides[$a];
            $sb = $sides[$b];
            $sc = $sides[$c];
            $reach = $sa | $sb | $sc;
            if ($reach === 2) {
                if (($sa & $sb & $sc) === 2) {
                    $aheadCorners[] = $map[$a];
                    $aheadCorners[] = $map[$b];
                    $aheadCorners[] = $map[$c];
                    $aheadTags[] = $tag;

                    continue;
                }
                $ma = $map[$a];
                $mb = $map[$b];
                $mc = $map[$c];
                $aheadCorners[] = $sa === 0 ? $ahead + $ma : $ma;
                $aheadCorners[] = $sb === 0 ? $ahead + $mb : $mb;
                $aheadCorners[] = $sc === 0 ? $ahead + $mc : $mc;
                $aheadTags[] = $tag;
                if ($sa + $sb === 0) {
                    $from[] = $ma;
                    $to[] = $mb;
                } elseif ($sb + $sc === 0) {
                    $from[] = $mb;
                    $to[] = $mc;
                } elseif ($sc + $sa === 0) {
                    $from[] = $mc;
                    $to[] = $ma;
                } else {
                    continue;
                }
                $lyingFrom[] = $from[count($from) - 1];
                $lyingTo[] = $to[count($to) - 1];

                continue;
            }
            if ($reach === 1) {
                if (($sa & $sb & $sc) === 1) {
                    $behindCorners[] = $map[$a];
                    $behindCorners[] = $map[$b];
                    $behindCorners[] = $map[$c];
                    $behindTags[] = $tag;

                    continue;
                }
                $ma = $map[$a];
                $mb = $map[$b];
                $mc = $map[$c];
                $behindCorners[] = $sa === 0 ? $behind + $ma : $ma;
                $behindCorners[] = $sb === 0 ? $behind + $mb : $mb;
                $behindCorners[] = $sc === 0 ? $behind + $mc : $mc;
                $behindTags[] = $tag;
                if ($sa + $sb === 0) {
                    $lyingFrom[] = $ma;
                    $lyingTo[] = $mb;
                } elseif ($sb + $sc === 0) {
                    $lyingFrom[] = $mb;
                    $lyingTo[] = $mc;
                } elseif ($sc + $sa === 0) {
                    $lyingFrom[] = $mc;
                    $lyingTo[] = $ma;
                }

                continue;
            }
            if ($reach === 0) {
                $ma = $map[$a];
                $mb = $map[$b];
                $mc = $map[$c];
                array_push($lyingFrom, $ma, $mb, $mc);
                array_push($lyingTo, $mb, $mc, $ma);
                $turn = Orientation::of(
                    $xyz[3 * $a + $u], $xyz[3 * $a + $v], $xyz[3 * $b + $u], $xyz[3 * $b + $v], $xyz[3 * $c + $u], $xyz[3 * $c + $v],
                );
                if ($turn > 0) {
                    // Faces ahead, so its material is behind.
                    array_push($behindCorners, $behind + $ma, $behind + $mb, $behind + $mc);
                    $behindTags[] = $tag;
                } else {
                    array_push($aheadCorners, $ahead + $ma, $ahead + $mb, $ahead + $mc);
                    $aheadTags[] = $tag;
                    array_push($from, $ma, $mb, $mc);
                    array_push($to, $mb, $mc, $ma);
                }

                continue;
            }

            // Crossed. Turn the triangle so that p is on the blade, or else alone on its side.
            if ($sa === 0 || ($sb !== 0 && $sc !== 0 && $sb === $sc)) {
                [$p, $q, $r] = [$a, $b, $c];
            } elseif ($sb === 0 || ($sa !== 0 && $sc === $sa)) {
                [$p, $q, $r] = [$b, $c, $a];
            } else {
                [$p, $q, $r] = [$c, $a, $b];
            }
            $cutEdges = $sides[$p] === 0 ? [[$q, $r]] : [[$p, $q], [$p, $r]];
            $made = [];
            foreach ($cutEdges as [$first, $second]) {
                if ($first > $second) {
                    [$first, $second] = [$second, $first];
                }
                $key = $first * $odd + $second;
                $point = $onEdge[$key] ?? null;
                if ($point === null) {
                    $x1 = $xyz[3 * $first];
                    $y1 = $xyz[3 * $first + 1];
                    $z1 = $xyz[3 * $first + 2];
                    $x2 = $xyz[3 * $second];
                    $y2 = $xyz[3 * $second + 1];
                    $z2 = $xyz[3 * $second + 2];
                    if ($axis !== null) {
                        $d1 = $xyz[3 * $first + $axis] - $axisPlace;
                        $d2 = $xyz[3 * $second + $axis] - $axisPlace;
                    } else {
                        $d1 = $nx * $x1 + $ny * $y1 + $nz * $z1 - $offset;
                        $d2 = $nx * $x2 + $ny * $y2 + $nz * $z2 - $offset;
                    }
                    $t = $d1 / ($d1 - $d2);
                    $new = [$x1 + $t * ($x2 - $x1), $y1 + $t * ($y2 - $y1), $z1 + $t * ($z2 - $z1)];
                    if ($axis !== null) {
                        $new[$axis] = $axisPlace;
                    }
                    $rimXyz[] = $new[0];
                    $rimXyz[] = $new[1];
                    $rimXyz[] = $new[2];
                    $point = $points++;
                    $onEdge[$key] = $point;
                }
                $made[] = $point;
            }
            $mq = $map[$q];
            $mr = $map[$r];
            if ($sides[$p] === 0) {
                $mp = $map[$p];
                $k = $made[0];
                if ($sides[$q] === 2) {
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
            if ($sides[$p] === 2) {
                array_push($aheadCorners, $map[$p], $ahead + $k, $ahead + $l);
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
                array_push($behindCorners, $map[$p], $behind + $k, $behind + $l);
                $behindTags[] = $tag;
                if ($throughK) {
                    array_push($aheadCorners, $ahead + $k, $mq, $mr, $ahead + $k, $mr, $ahead + $l);
                } else {
                    array_push($aheadCorners, $ahead + $k, $mq, $ahead + $l, $mq, $mr, $ahead + $l);
                }
                $aheadTags[] = $tag;
                $aheadTags[] = $tag;
                $from[] = $l;
                $to[] = $k;
            }
        }
        // Freed before the rim's coordinates are copied.
        unset($sides, $map, $onEdge);

        [$from, $to] = self::withoutOpposites($from, $to, $points);
        foreach ($rimXyz as $coordinate) {
            $aheadXyz[] = $coordinate;
            $behindXyz[] = $coordinate;
        }
        $lying = [];
        foreach ($lyingFrom as $e => $p) {
            $q = $lyingTo[$e];
            $key = $p < $q ? $p * $points + $q : $q * $points + $p;
            $lying[$key] = ($lying[$key] ?? 0) + 1;
        }

        return new Halves(
            $plane,
            Mesh::of($aheadXyz, $aheadCorners, $aheadTags),
            Mesh::of($behindXyz, $behindCorners, $behindTags),
            $ahead, $behind, $rimXyz, $from, $to, $lying,
        );
    }

    /**
     * Edges that run both ways bound nothing.
     *
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return array{list<int>, list<int>}
     */
    private static function withoutOpposites(array $from, array $to, int $points): array
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
            return [$from, $to];
        }
        $keptFrom = [];
        $keptTo = [];
        foreach ($from as $e => $p) {
            if (! isset($gone[$e])) {
                $keptFrom[] = $p;
                $keptTo[] = $to[$e];
            }
        }

        return [$keptFrom, $keptTo];
    }
}
