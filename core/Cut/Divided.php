<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Isotome\Geometry\Plane;
use Isotome\Mesh\Mark;
use Isotome\Mesh\Mesh;
use Isotome\Seal\Rim;

/**
 * The triangles that a plane touches or crosses, divided along it, and the rim between the two sides.
 *
 * Corners of the parts are numbers of the mesh's vertices, or −1 − k for rim point k. Rim points are the vertices on the plane, in their order, then
 * the places where edges are crossed. Guarantees: a crossed edge is cut once, and all triangles around it share the new point; every triangle
 * lands on exactly one side; a triangle in the plane belongs to the side whose material it bounds.
 */
final class Divided
{
    /** @var list<int> corners of the parts ahead */
    public array $ahead = [];

    /** @var list<int> */
    public array $aheadTags = [];

    /** @var list<int> corners of the parts behind */
    public array $behind = [];

    /** @var list<int> */
    public array $behindTags = [];

    /** @var list<int> for each touched triangle how many corners there are ahead after it */
    public array $aheadUpTo = [];

    /** @var list<int> the same behind */
    public array $behindUpTo = [];

    /** Faces ahead that were kept whole for the next blade of a series; their corners are counted as those of the parts. */
    public Quads $aheadQuads;

    public Rim $rim;

    /** @var array<int, int> rim point of each vertex on the plane */
    private array $pointOf;

    /** @var list<float> coordinates of the rim's points */
    private array $points = [];

    /** @var array<int, int> rim point on a crossed edge; the odd factor keeps keys from sharing their low bits */
    private array $onEdge = [];

    private readonly int $odd;

    /** @var list<int> */
    private array $from = [];

    /** @var list<int> */
    private array $to = [];

    /** @var list<int> */
    private array $rimTags = [];

    /** @var array<int, array<int, bool>> edges on the plane of triangles beside it: from, to, whether behind */
    private array $beside = [];

    /**
     * @param  list<float>  $xyz
     * @param  list<int>  $sides  see Sides::of
     */
    private function __construct(private array $xyz, private array $sides, private readonly Plane $plane)
    {
        $this->odd = count($sides) | 1;
        $on = array_keys($sides, 0, true);
        $this->pointOf = array_flip($on);
        foreach ($on as $v) {
            $this->points[] = $xyz[3 * $v];
            $this->points[] = $xyz[3 * $v + 1];
            $this->points[] = $xyz[3 * $v + 2];
        }
        $this->aheadQuads = new Quads();
        $this->rim = new Rim($plane, [], [], [], [], []);
    }

    /**
     * @param  list<int>  $corners
     * @param  list<int>  $sides  see Sides::of
     * @return list<int> the triangles that are not wholly on one side, in order
     */
    public static function touched(array $corners, array $sides): array
    {
        $touched = [];
        $count = count($corners);
        for ($i = 0, $t = 0; $i < $count; $i += 3, $t++) {
            $side = $sides[$corners[$i]];
            if ($side !== $sides[$corners[$i + 1]] || $side !== $sides[$corners[$i + 2]] || $side === 0) {
                $touched[] = $t;
            }
        }

        return $touched;
    }

    /**
     * @param  list<int>  $sides  see Sides::of
     * @param  list<int>  $touched  triangles that are not wholly on one side, in order
     * @param  Quads|null  $quads  see Split::of
     */
    public static function of(Mesh $mesh, array $sides, array $touched, Plane $plane, ?Quads $quads = null): self
    {
        $divided = new self($mesh->xyz, $sides, $plane);
        $lying = $divided->triangles($mesh->corners, $mesh->tags, $touched, $quads !== null);
        if ($quads !== null) {
            $divided->quads($quads);
        }
        $divided->lying($lying, $mesh->corners, $mesh->tags);
        $divided->shutRim($lying, $mesh->corners);

        return $divided;
    }

    /**
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     * @param  list<int>  $touched
     * @return list<int> triangles that lie on the plane
     */
    private function triangles(array $corners, array $tags, array $touched, bool $keepsQuads): array
    {
        $xyz = $this->xyz;
        $sides = $this->sides;
        $pointOf = $this->pointOf;
        $points = $this->points;
        $onEdge = [];
        $odd = $this->odd;
        $plane = $this->plane;
        /** @var list<int> $ahead */
        $ahead = [];
        /** @var list<int> $behind */
        $behind = [];
        /** @var list<int> $quads */
        $quads = [];
        $aheadTags = $behindTags = $quadTags = $from = $to = $rimTags = $lying = [];
        $next = intdiv(count($points), 3);
        $aheadUpTo = $behindUpTo = [];
        foreach ($touched as $n => $t) {
            if ($n > 0) {
                $aheadUpTo[] = count($ahead);
                $behindUpTo[] = count($behind);
            }
            $a = $corners[3 * $t];
            $b = $corners[3 * $t + 1];
            $c = $corners[3 * $t + 2];
            $sa = $sides[$a];
            $sb = $sides[$b];
            $sc = $sides[$c];
            $reach = $sa | $sb | $sc;
            if ($reach === 0) {
                $lying[] = $t;

                continue;
            }
            $tag = $tags[$t];
            if ($reach !== 3) {
                // Touches the plane with a corner or an edge.
                $ka = $sa === 0 ? $pointOf[$a] : -1;
                $kb = $sb === 0 ? $pointOf[$b] : -1;
                $kc = $sc === 0 ? $pointOf[$c] : -1;
                $isBehind = $reach === 1;
                if ($isBehind) {
                    $behind[] = $ka < 0 ? $a : ~$ka;
                    $behind[] = $kb < 0 ? $b : ~$kb;
                    $behind[] = $kc < 0 ? $c : ~$kc;
                    $behindTags[] = $tag;
                } else {
                    $ahead[] = $ka < 0 ? $a : ~$ka;
                    $ahead[] = $kb < 0 ? $b : ~$kb;
                    $ahead[] = $kc < 0 ? $c : ~$kc;
                    $aheadTags[] = $tag;
                }
                foreach ([[$ka, $kb], [$kb, $kc], [$kc, $ka]] as [$k, $l]) {
                    if ($k >= 0 && $l >= 0) {
                        $this->beside[$k][$l] = $isBehind;
                        if (! $isBehind) {
                            $from[] = $k;
                            $to[] = $l;
                            $rimTags[] = $tag;
                        }
                    }
                }

                continue;
            }

            // Crossed. Turn the triangle so that p is on the plane, or else alone on its side.
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
                    [$points[], $points[], $points[]] = self::between($xyz, 3 * $first, 3 * $second, $plane);
                    $onEdge[$key] = $point = $next++;
                }
                $made[] = $point;
            }
            $rimTags[] = $tag;
            $tag = Mark::part($tag);
            if ($sp === 0) {
                $on = $pointOf[$p];
                $k = $made[0];
                if ($sq === 2) {
                    array_push($ahead, ~$on, $q, ~$k);
                    array_push($behind, ~$on, ~$k, $r);
                    $from[] = $k;
                    $to[] = $on;
                } else {
                    array_push($behind, ~$on, $q, ~$k);
                    array_push($ahead, ~$on, ~$k, $r);
                    $from[] = $on;
                    $to[] = $k;
                }
                $aheadTags[] = $tag;
                $behindTags[] = $tag;

                continue;
            }
            [$k, $l] = $made;
            if ($sp === 1 && $keepsQuads) {
                array_push($behind, $p, ~$k, ~$l);
                $behindTags[] = $tag;
                $from[] = $l;
                $to[] = $k;
                array_push($quads, ~$l, ~$k, $q, $r);
                $quadTags[] = $tag;

                continue;
            }
            // The four-sided rest is divided by its shorter diagonal.
            $dx = $points[3 * $k] - $xyz[3 * $r];
            $dy = $points[3 * $k + 1] - $xyz[3 * $r + 1];
            $dz = $points[3 * $k + 2] - $xyz[3 * $r + 2];
            $ex = $points[3 * $l] - $xyz[3 * $q];
            $ey = $points[3 * $l + 1] - $xyz[3 * $q + 1];
            $ez = $points[3 * $l + 2] - $xyz[3 * $q + 2];
            $rest = $dx * $dx + $dy * $dy + $dz * $dz <= $ex * $ex + $ey * $ey + $ez * $ez
                ? [~$k, $q, $r, ~$k, $r, ~$l]
                : [~$k, $q, ~$l, $q, $r, ~$l];
            if ($sp === 2) {
                array_push($ahead, $p, ~$k, ~$l);
                $aheadTags[] = $tag;
                array_push($behind, ...$rest);
                $behindTags[] = $tag;
                $behindTags[] = $tag;
                $from[] = $k;
                $to[] = $l;
            } else {
                array_push($behind, $p, ~$k, ~$l);
                $behindTags[] = $tag;
                array_push($ahead, ...$rest);
                $aheadTags[] = $tag;
                $aheadTags[] = $tag;
                $from[] = $l;
                $to[] = $k;
            }
        }
        if ($touched !== []) {
            $aheadUpTo[] = count($ahead);
            $behindUpTo[] = count($behind);
        }
        [$this->aheadUpTo, $this->behindUpTo] = [$aheadUpTo, $behindUpTo];
        /** @var list<int> $ahead */
        /** @var list<int> $behind */
        /** @var list<int> $quads */
        /** @var list<int> $from */
        /** @var list<int> $to */
        [$this->points, $this->onEdge, $this->from, $this->to, $this->rimTags] = [$points, $onEdge, $from, $to, $rimTags];
        [$this->ahead, $this->aheadTags, $this->behind, $this->behindTags] = [$ahead, $aheadTags, $behind, $behindTags];
        $this->aheadQuads = new Quads($quads, $quadTags);

        return $lying;
    }

    /** What an earlier blade left. The first two corners of a quad lie behind, so the plane meets it once. */
    private function quads(Quads $quads): void
    {
        $xyz = $this->xyz;
        /** @var list<int> $kept */
        $kept = $this->aheadQuads->corners;
        $keptTags = $this->aheadQuads->tags;
        foreach ($quads->tags as $n => $tag) {
            $loop = array_slice($quads->corners, 4 * $n, 4);
            /** @var list<int> $on */
            $on = [];
            /** @var list<int> $ahead */
            $ahead = [];
            $behind = $places = [];
            $enters = $leaves = -1;
            foreach ($loop as $k => $p) {
                $q = $loop[$k === 3 ? 0 : $k + 1];
                $sp = $this->sides[$p];
                $sq = $this->sides[$q];
                if ($sp === 2) {
                    $ahead[] = $p;
                    $leaves = $sq === 0 ? $this->pointOf[$q] : $leaves;
                } else {
                    $behind[] = $sp === 0 ? ~$this->pointOf[$p] : $p;
                    array_push($places, $xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2]);
                }
                if ($sp === 0) {
                    $on[] = $this->pointOf[$p];
                    $ahead[] = ~$this->pointOf[$p];
                    $enters = $sq === 2 ? $this->pointOf[$p] : $enters;
                }
                if (($sp | $sq) !== 3) {
                    continue;
                }
                $point = $this->pointOn($p, $q);
                $behind[] = ~$point;
                array_push($places, $this->points[3 * $point], $this->points[3 * $point + 1], $this->points[3 * $point + 2]);
                $ahead[] = ~$point;
                $sp === 1 ? $enters = $point : $leaves = $point;
            }
            foreach (Fan::of($places) as $k => $corner) {
                $this->behind[] = $behind[$corner];
                if ($k % 3 === 0) {
                    $this->behindTags[] = $tag;
                }
            }
            if (count($on) === 2) {
                $this->beside[$on[0]][$on[1]] = true;
            }
            if ($enters < 0 || $leaves < 0) {
                continue;
            }
            $this->from[] = $leaves;
            $this->to[] = $enters;
            $this->rimTags[] = $tag;
            if (count($ahead) === 4) {
                // From the rim on.
                array_push($kept, $ahead[3], $ahead[0], $ahead[1], $ahead[2]);
                $keptTags[] = $tag;
            } else {
                array_push($this->ahead, ...$ahead);
                $this->aheadTags[] = $tag;
            }
        }
        $this->aheadQuads = new Quads($kept, $keptTags);
    }

    private function pointOn(int $p, int $q): int
    {
        [$first, $second] = $p < $q ? [$p, $q] : [$q, $p];
        $key = $first * $this->odd + $second;
        if (! isset($this->onEdge[$key])) {
            $this->onEdge[$key] = intdiv(count($this->points), 3);
            array_push($this->points, ...self::between($this->xyz, 3 * $first, 3 * $second, $this->plane));
        }

        return $this->onEdge[$key];
    }

    /**
     * Triangles on the plane: each to the side whose material it bounds.
     *
     * @param  list<int>  $lying
     * @param  list<int>  $corners
     * @param  list<int>  $tags
     */
    private function lying(array $lying, array $corners, array $tags): void
    {
        foreach (LyingPatches::areBehind($this->onPlane($lying, $corners), $this->points, $this->plane->pageAxes(), $this->beside) as $n => $isBehind) {
            $t = $lying[$n];
            [$a, $b, $c] = [$this->pointOf[$corners[3 * $t]], $this->pointOf[$corners[3 * $t + 1]], $this->pointOf[$corners[3 * $t + 2]]];
            if ($isBehind) {
                array_push($this->behind, ~$a, ~$b, ~$c);
                $this->behindTags[] = $tags[$t];
            } else {
                array_push($this->ahead, ~$a, ~$b, ~$c);
                $this->aheadTags[] = $tags[$t];
                array_push($this->from, $a, $b, $c);
                array_push($this->to, $b, $c, $a);
                array_push($this->rimTags, $tags[$t], $tags[$t], $tags[$t]);
            }
        }
    }

    /**
     * @param  list<int>  $lying
     * @param  list<int>  $corners
     * @return list<array{int, int, int}> by rim points
     */
    private function onPlane(array $lying, array $corners): array
    {
        return array_map(fn (int $t): array => [$this->pointOf[$corners[3 * $t]], $this->pointOf[$corners[3 * $t + 1]], $this->pointOf[$corners[3 * $t + 2]]], $lying);
    }

    /**
     * @param  list<int>  $lying
     * @param  list<int>  $corners
     */
    private function shutRim(array $lying, array $corners): void
    {
        $points = intdiv(count($this->points), 3);
        $edges = [];
        foreach ($this->beside as $p => $ends) {
            foreach ($ends as $q => $_) {
                $edges[$p < $q ? $p * $points + $q : $q * $points + $p] = 1;
            }
        }
        foreach ($this->onPlane($lying, $corners) as [$a, $b, $c]) {
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $edges[$p < $q ? $p * $points + $q : $q * $points + $p] = 1;
            }
        }
        [$from, $to, $tags] = self::withoutOpposites($this->from, $this->to, $this->rimTags, $points);
        $this->rim = new Rim($this->plane, $this->points, $from, $to, $tags, $edges);
        // Of no more use, and large.
        $this->xyz = $this->sides = $this->pointOf = $this->points = $this->onEdge = $this->beside = $this->from = $this->to = $this->rimTags = [];
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
