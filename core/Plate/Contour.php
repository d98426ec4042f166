<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Mesh\Mesh;

/**
 * The outline of what a closed body covers, as seen from above: the edges between faces that look up and others.
 *
 * Guarantees: the true outline is among the edges, and all of them lie within what is covered; so places are apart from the body exactly when they are apart from these. How often the edges go round a place is the number of faces
 * above it that look up.
 *
 * Source: contour edges of a mesh, A. Appel, "The notion of quantitative invisibility and the machine rendering of solids", 1967.
 */
final readonly class Contour
{
    /** Cells along the longer side of where two contours come near each other. */
    private const CELLS = 64;

    /**
     * @param  list<float>  $edges  x, y of the beginning and of the end of each, mm; what is covered to the left
     * @param  array{float, float, float, float}  $box  from x, from y, to x, to y
     */
    private function __construct(
        public array $edges,
        public array $box,
    ) {
    }

    public static function of(Mesh $mesh): self
    {
        $xyz = $mesh->xyz;
        $corners = $mesh->corners;
        $ends = [];
        for ($i = 0, $count = count($corners); $i < $count; $i += 3) {
            $a = $corners[$i];
            $b = $corners[$i + 1];
            $c = $corners[$i + 2];
            $x = $xyz[3 * $a];
            $y = $xyz[3 * $a + 1];
            if (($xyz[3 * $b] - $x) * ($xyz[3 * $c + 1] - $y) - ($xyz[3 * $b + 1] - $y) * ($xyz[3 * $c] - $x) <= 0.0) {
                continue;
            }
            // What two such faces have in common, one after the other, is none.
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                if (isset($ends[$q << 32 | $p])) {
                    unset($ends[$q << 32 | $p]);
                } else {
                    $ends[$p << 32 | $q] = true;
                }
            }
        }
        $edges = [];
        foreach ($ends as $key => $_) {
            $p = 3 * ($key >> 32);
            $q = 3 * ($key & 0xFFFFFFFF);
            array_push($edges, $xyz[$p], $xyz[$p + 1], $xyz[$q], $xyz[$q + 1]);
        }

        return new self($edges, self::boxOf($edges));
    }

    /** Turned about the upright through the origin, by the angle with this cosine and sine, then moved. */
    public function moved(float $cos, float $sin, float $x, float $y): self
    {
        $edges = [];
        foreach ($this->edges as $i => $px) {
            if ($i % 2 === 0) {
                $py = $this->edges[$i + 1];
                $edges[] = $cos * $px - $sin * $py + $x;
                $edges[] = $sin * $px + $cos * $py + $y;
            }
        }

        return new self($edges, self::boxOf($edges));
    }

    /** Is a place covered? Of one just on the outline either may be said. */
    public function covers(float $x, float $y): bool
    {
        if ($x < $this->box[0] || $x > $this->box[2] || $y < $this->box[1] || $y > $this->box[3]) {
            return false;
        }
        $edges = $this->edges;
        $winding = 0;
        for ($i = 0, $count = count($edges); $i < $count; $i += 4) {
            $ay = $edges[$i + 1];
            $by = $edges[$i + 3];
            if (($ay <= $y) === ($by <= $y)) {
                continue;
            }
            $side = ($edges[$i + 2] - $edges[$i]) * ($y - $ay) - ($x - $edges[$i]) * ($by - $ay);
            if ($ay <= $y) {
                $winding += $side > 0.0 ? 1 : 0;
            } else {
                $winding -= $side < 0.0 ? 1 : 0;
            }
        }

        return $winding > 0;
    }

    /** How far the farthest place of it is from another one, mm. */
    public function reachFrom(float $x, float $y): float
    {
        $most = 0.0;
        for ($i = 0, $count = count($this->edges); $i < $count; $i += 2) {
            $square = ($this->edges[$i] - $x) ** 2 + ($this->edges[$i + 1] - $y) ** 2;
            $most = $square > $most ? $square : $most;
        }

        return sqrt($most);
    }

    /**
     * How near two bodies are, if they are nearer than a distance.
     *
     * @param  float  $within  mm
     * @return array{float, float, float}|null mm, 0 when one is above the other; and a place between them, or where they overlap. Null when they are that far apart or farther
     */
    public function near(self $other, float $within): ?array
    {
        $x0 = max($this->box[0], $other->box[0]) - $within;
        $y0 = max($this->box[1], $other->box[1]) - $within;
        $x1 = min($this->box[2], $other->box[2]) + $within;
        $y1 = min($this->box[3], $other->box[3]) + $within;
        if ($x0 > $x1 || $y0 > $y1 || $this->edges === [] || $other->edges === []) {
            return null;
        }
        $zone = [$x0, $y0, $x1, $y1];
        $mine = self::inside($this->edges, $zone);
        $theirs = self::inside($other->edges, $zone);
        $cell = max($within, $x1 - $x0, $y1 - $y0) / self::CELLS;
        $cells = [];
        $e = $other->edges;
        foreach ($theirs as $i) {
            foreach (self::cells($zone, $cell, min($e[$i], $e[$i + 2]), min($e[$i + 1], $e[$i + 3]), max($e[$i], $e[$i + 2]), max($e[$i + 1], $e[$i + 3])) as $at) {
                $cells[$at][] = $i;
            }
        }
        $best = null;
        $least = $within;
        foreach ($mine as $i) {
            [$ax, $ay, $bx, $by] = [$this->edges[$i], $this->edges[$i + 1], $this->edges[$i + 2], $this->edges[$i + 3]];
            $met = [];
            foreach (self::cells($zone, $cell, min($ax, $bx) - $least, min($ay, $by) - $least, max($ax, $bx) + $least, max($ay, $by) + $least) as $at) {
                foreach ($cells[$at] ?? [] as $j) {
                    $met[$j] = true;
                }
            }
            foreach ($met as $j => $_) {
                $found = self::between($ax, $ay, $bx, $by, $other->edges[$j], $other->edges[$j + 1], $other->edges[$j + 2], $other->edges[$j + 3]);
                if ($found[0] < $least || ($best === null && $found[0] <= 0.0)) {
                    $least = $found[0];
                    $best = $found;
                }
                if ($least <= 0.0) {
                    return $best;
                }
            }
        }
        // No outlines cross: one may still lie wholly above the other.
        foreach ([[$this, $other], [$other, $this]] as [$one, $under]) {
            if ($under->covers($one->edges[0], $one->edges[1])) {
                return [0.0, $one->edges[0], $one->edges[1]];
            }
        }

        return $best;
    }

    /**
     * @param  list<float>  $edges
     * @param  array{float, float, float, float}  $zone
     * @return list<int> where the edges begin whose boxes reach into a zone
     */
    private static function inside(array $edges, array $zone): array
    {
        [$x0, $y0, $x1, $y1] = $zone;
        $some = [];
        for ($i = 0, $count = count($edges); $i < $count; $i += 4) {
            $ax = $edges[$i];
            $ay = $edges[$i + 1];
            $bx = $edges[$i + 2];
            $by = $edges[$i + 3];
            if (($ax >= $x0 || $bx >= $x0) && ($ax <= $x1 || $bx <= $x1) && ($ay >= $y0 || $by >= $y0) && ($ay <= $y1 || $by <= $y1)) {
                $some[] = $i;
            }
        }

        return $some;
    }

    /**
     * @param  array{float, float, float, float}  $zone
     * @return list<int> numbers of the cells that a box reaches into; what is outside of the zone counts as its nearest cell
     */
    private static function cells(array $zone, float $cell, float $ax, float $ay, float $bx, float $by): array
    {
        $column = static fn (float $x): int => max(0, min(self::CELLS, (int) floor(($x - $zone[0]) / $cell)));
        $row = static fn (float $y): int => max(0, min(self::CELLS, (int) floor(($y - $zone[1]) / $cell)));
        $cells = [];
        for ($k = $row($ay), $last = $row($by); $k <= $last; $k++) {
            for ($j = $column($ax), $end = $column($bx); $j <= $end; $j++) {
                $cells[] = $k * (self::CELLS + 1) + $j;
            }
        }

        return $cells;
    }

    /** @return array{float, float, float} the distance of two line segments, 0 where they cross, and a place between them */
    private static function between(float $ax, float $ay, float $bx, float $by, float $cx, float $cy, float $dx, float $dy): array
    {
        $ux = $bx - $ax;
        $uy = $by - $ay;
        $vx = $dx - $cx;
        $vy = $dy - $cy;
        $cross = $ux * $vy - $uy * $vx;
        if ($cross !== 0.0) {
            $s = (($cx - $ax) * $vy - ($cy - $ay) * $vx) / $cross;
            $t = (($cx - $ax) * $uy - ($cy - $ay) * $ux) / $cross;
            if ($s >= 0.0 && $s <= 1.0 && $t >= 0.0 && $t <= 1.0) {
                return [0.0, $ax + $s * $ux, $ay + $s * $uy];
            }
        }
        $best = [INF, 0.0, 0.0];
        foreach ([[$ax, $ay, $cx, $cy, $vx, $vy], [$bx, $by, $cx, $cy, $vx, $vy], [$cx, $cy, $ax, $ay, $ux, $uy], [$dx, $dy, $ax, $ay, $ux, $uy]] as [$px, $py, $qx, $qy, $wx, $wy]) {
            $long = $wx * $wx + $wy * $wy;
            $t = $long > 0.0 ? max(0.0, min(1.0, (($px - $qx) * $wx + ($py - $qy) * $wy) / $long)) : 0.0;
            $away = hypot($px - $qx - $t * $wx, $py - $qy - $t * $wy);
            if ($away < $best[0]) {
                $best = [$away, ($px + $qx + $t * $wx) / 2, ($py + $qy + $t * $wy) / 2];
            }
        }

        return $best;
    }

    /**
     * @param  list<float>  $edges
     * @return array{float, float, float, float}
     */
    private static function boxOf(array $edges): array
    {
        $box = [INF, INF, -INF, -INF];
        for ($i = 0, $count = count($edges); $i < $count; $i += 2) {
            $x = $edges[$i];
            $y = $edges[$i + 1];
            $box = [$x < $box[0] ? $x : $box[0], $y < $box[1] ? $y : $box[1], $x > $box[2] ? $x : $box[2], $y > $box[3] ? $y : $box[3]];
        }

        return $box;
    }
}
