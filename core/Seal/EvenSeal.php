<?php

declare(strict_types=1);

namespace Isotome\Seal;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\Mark;
use SplPriorityQueue;

/**
 * Closes a cut with an even mesh: triangles of angles of at least 20° where the outline allows it, their size graded.
 *
 * The lean triangles are made Delaunay by flips (C. L. Lawson 1977) and refined with circumcentres (J. Ruppert, "A Delaunay
 * refinement algorithm for quality 2-dimensional mesh generation", J. Algorithms 18, 1995). Sizes start from the lengths of
 * the outline's edges, which are the surrounding skin's, and grow inwards; or from a given length. Rim edges may get new points,
 * which both sides take over alike; rim edges on an earlier cut face get them only by the given length, from the edge alone, so that
 * a neighbour of that face, cut by the same blade, divides it alike. Guarantees of LeanSeal hold; outlines that cross are closed leanly.
 */
final class EvenSeal
{
    /** Ratio of circumradius to shortest edge beyond which a triangle is refined: a smallest angle of 20.6°. */
    private const RATIO = 1.42;

    /** How much longer edges may be for each millimetre inwards. */
    private const GRADE = 0.3;

    private const MOST_POINTS = 2_000_000;

    private PlanarMesh $mesh;

    /** @var array<int, float> wanted edge length at each point, mm */
    private array $size = [];

    /** @var array<int, array<int, int>> rim edges that are there now: from → to → number of the original edge, −1 when it must stay */
    private array $rim = [];

    /** @var array<int, list<array{float, int}>> share and point, for each original edge */
    private array $onEdge = [];

    /** @var list<int> ends and surface tag of the original rim edges */
    private array $edgeFrom = [];

    /** @var list<int> */
    private array $edgeTo = [];

    /** @var array<int, int> */
    private array $edgeTag = [];

    /** @var array<int, array<int, int>>|null outer half-edges by their ends, valid while only outer edges are divided */
    private ?array $outerAt = null;

    /** @var list<float> */
    private array $newXyz = [];

    private int $points;

    private int $splits = 0;

    /** @var array<int, float> see takeLeast, mm */
    private array $least = [];

    /** @var SplPriorityQueue<float, array{int, int, int, int}> triangles by their circumradius */
    private SplPriorityQueue $queue;

    /** @param  array{int, int}  $page */
    private function __construct(
        private readonly Rim $outlines,
        private readonly ?float $edge,
        private readonly array $page,
    ) {
        $this->points = intdiv(count($outlines->xyz), 3);
        $this->queue = new SplPriorityQueue;
    }

    /**
     * @param  float|null  $edge  edge length, mm; null to follow the surrounding skin
     *
     * @throws BadBlade when the edge length would give more than two million points
     */
    public static function of(Rim $rim, ?float $edge): Cap
    {
        return (new self($rim, $edge, $rim->plane->pageAxes()))->run();
    }

    private function run(): Cap
    {
        $rim = $this->outlines;
        $x = $y = $u = $v = [];
        [$right, $up] = $rim->plane->directions();
        $xyz = $rim->xyz;
        // Counted from one of the points: places far from the origin lose no digits.
        $o = [$xyz[0] ?? 0.0, $xyz[1] ?? 0.0, $xyz[2] ?? 0.0];
        for ($i = 0; $i < 3 * $this->points; $i += 3) {
            $x[] = $xyz[$i + $this->page[0]];
            $y[] = $xyz[$i + $this->page[1]];
            [$dx, $dy, $dz] = [$xyz[$i] - $o[0], $xyz[$i + 1] - $o[1], $xyz[$i + 2] - $o[2]];
            $u[] = $dx * $right[0] + $dy * $right[1] + $dz * $right[2];
            $v[] = $dx * $up[0] + $dy * $up[1] + $dz * $up[2];
        }
        $flat = RimTriangulation::of($x, $y, $rim->from, $rim->to);
        if (! $flat->sound || $flat->from === []) {
            return LeanSeal::of($rim);
        }
        $this->mesh = new PlanarMesh($flat->triangles, $x, $y, $u, $v);
        $this->takeRim($flat->from, $flat->to);
        $this->takeSizes($flat->from, $flat->to);
        if ($this->edge !== null) {
            $this->divideEvenly();
        }
        $this->mesh->relax(array_keys($this->mesh->corner));
        $this->refine();
        $divided = $this->divided();
        [$from, $to] = $this->rimEdges($flat->from, $flat->to);
        $all = [...$xyz, ...$this->newXyz];
        $free = FreeEdges::of(array_values($this->mesh->corner), $from, $to, $this->lyingEdges(), $all);

        return new Cap($free['triangles'], [...$this->newXyz, ...$free['newXyz']], $flat->unclosed, true, $divided);
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private function takeRim(array $from, array $to): void
    {
        $tags = [];
        foreach ($this->outlines->from as $e => $p) {
            $q = $this->outlines->to[$e];
            $tags[$p][$q] = isset($tags[$p][$q]) ? -1 : $this->outlines->tags[$e];
        }
        $this->edgeFrom = $from;
        $this->edgeTo = $to;
        foreach ($from as $e => $p) {
            $q = $to[$e];
            // Edges that lie twice must stay as they are.
            $may = ($tags[$p][$q] ?? -1) >= 0 && ! isset($tags[$q][$p]) && ($this->edge !== null || ! Mark::isInside($tags[$p][$q]));
            $this->rim[$p][$q] = $may ? $e : -1;
            $this->edgeTag[$e] = $tags[$p][$q] ?? -1;
        }
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private function takeSizes(array $from, array $to): void
    {
        $sum = $edges = $shortest = [];
        foreach ($from as $e => $p) {
            $q = $to[$e];
            $length = $this->distance($p, $q);
            $shortest[$p] = min($shortest[$p] ?? INF, $length);
            $shortest[$q] = min($shortest[$q] ?? INF, $length);
            foreach ([$p, $q] as $point) {
                $sum[$point] = ($sum[$point] ?? 0.0) + $length;
                $edges[$point] = ($edges[$point] ?? 0) + 1;
            }
        }
        $this->takeLeast($from, $to, $shortest);
        foreach ($sum as $point => $length) {
            $mean = $length / $edges[$point];
            $this->size[$point] = $this->edge === null ? $mean : min($this->edge, max($mean, 0.2 * $this->edge));
        }
        if ($this->edge !== null) {
            $area = 0.0;
            $corner = $this->mesh->corner;
            for ($i = 0, $count = count($corner); $i < $count; $i += 3) {
                $area += $this->area($corner[$i], $corner[$i + 1], $corner[$i + 2]);
            }
            if (! is_finite($area) || $area > 0.43 * $this->edge * $this->edge * self::MOST_POINTS || array_sum($sum) > 2 * $this->edge * self::MOST_POINTS) {
                throw new BadBlade(sprintf(
                    'An even seal of %.3f mm² with edges of %g mm would need more than two million points; give an edge length of at least %.2g mm.',
                    $area, $this->edge, max(sqrt($area / (0.43 * self::MOST_POINTS)), array_sum($sum) / (2 * self::MOST_POINTS)) * 1.01,
                ));
            }
        }
    }

    /**
     * How short a rim edge may get by being divided: half of the shortest edge at its ends, or of the way from there to a wall across.
     *
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @param  array<int, float>  $shortest
     */
    private function takeLeast(array $from, array $to, array $shortest): void
    {
        $mesh = $this->mesh;
        $mesh->relax(array_keys($mesh->corner));
        foreach ($mesh->twin as $h => $g) {
            if ($g >= 0) {
                continue;
            }
            $a = $mesh->corner[$h];
            $b = $mesh->corner[PlanarMesh::next($h)];
            $c = $mesh->corner[PlanarMesh::next(PlanarMesh::next($h))];
            if (! isset($this->rim[$b][$c]) && ! isset($this->rim[$c][$a])) {
                $across = 2 * $this->area($a, $b, $c) / max($this->distance($a, $b), 1e-300);
                foreach ([$a, $b, $c] as $point) {
                    if ($across > 0.0) {
                        $shortest[$point] = min($shortest[$point] ?? INF, $across);
                    }
                }
            }
        }
        foreach ($from as $e => $p) {
            $this->least[$e] = 0.5 * min($shortest[$p], $shortest[$to[$e]], 0.2 * ($this->edge ?? INF));
        }
    }

    /** Rim edges into equal parts near the given length: the number and the places follow from the edge alone. */
    private function divideEvenly(): void
    {
        $queue = [];
        foreach ($this->mesh->twin as $h => $g) {
            if ($g >= 0) {
                continue;
            }
            $p = $this->mesh->corner[$h];
            $q = $this->mesh->corner[PlanarMesh::next($h)];
            if (($this->rim[$p][$q] ?? -1) >= 0) {
                $queue[] = [$h, $p, $q];
            }
        }
        foreach ($queue as [, $p, $q]) {
            $parts = (int) round($this->distance($p, $q) / (float) $this->edge);
            $edge = $this->rim[$p][$q];
            $at = $p;
            for ($n = 1; $n < $parts; $n++) {
                $h = $this->outer($at, $q);
                $share = $n / $parts;
                $point = $this->pointOnEdge($p, $q, $share, ($parts - $n) / $parts);
                if ($h === null || ! $this->divideRim($h, $point, $edge, $share)) {
                    break;
                }
                $at = $point;
            }
            foreach (array_column($this->onEdge[$edge] ?? [], 1) as $point) {
                $this->size[$point] = (float) $this->edge;
            }
            // What the length alone gave is final on an earlier cut face.
            if (($this->edgeTag[$edge] ?? 0) > 0 && Mark::isInside($this->edgeTag[$edge])) {
                $this->freeze($p, $q, $edge);
            }
        }
    }

    private function freeze(int $p, int $q, int $edge): void
    {
        $at = $p;
        foreach ([...array_column($this->onEdge[$edge] ?? [], 1), $q] as $next) {
            if (isset($this->rim[$at][$next])) {
                $this->rim[$at][$next] = -1;
            }
            $at = $next;
        }
    }

    private function outer(int $p, int $q): ?int
    {
        if ($this->outerAt === null) {
            $this->outerAt = [];
            foreach ($this->mesh->twin as $h => $g) {
                if ($g < 0) {
                    $this->outerAt[$this->mesh->corner[$h]][$this->mesh->corner[PlanarMesh::next($h)]] = $h;
                }
            }
        }

        return $this->outerAt[$p][$q] ?? null;
    }

    /** A point on the original edge p → q, computed from its lesser end so that it is the same seen from either side. */
    private function pointOnEdge(int $p, int $q, float $share, float $rest): int
    {
        $a = $this->place($p);
        $b = $this->place($q);
        $isLesser = ($a <=> $b) <= 0;
        $place = [];
        for ($k = 0; $k < 3; $k++) {
            $place[] = $isLesser ? $a[$k] + $share * ($b[$k] - $a[$k]) : $b[$k] + $rest * ($a[$k] - $b[$k]);
        }
        $mesh = $this->mesh;
        $point = $this->points + intdiv(count($this->newXyz), 3);
        array_push($this->newXyz, ...$place);
        $mesh->x[$point] = $place[$this->page[0]];
        $mesh->y[$point] = $place[$this->page[1]];
        $mesh->u[$point] = $mesh->u[$p] + $share * ($mesh->u[$q] - $mesh->u[$p]);
        $mesh->v[$point] = $mesh->v[$p] + $share * ($mesh->v[$q] - $mesh->v[$p]);
        $this->size[$point] = min($this->size[$p] ?? INF, $this->size[$q] ?? INF);

        return $point;
    }

    private function divideRim(int $h, int $point, int $edge, float $share): bool
    {
        $a = $this->mesh->corner[$h];
        $b = $this->mesh->corner[PlanarMesh::next($h)];
        $around = $this->mesh->divide($h, $point);
        if ($around === null) {
            array_splice($this->newXyz, -3);
            unset($this->mesh->x[$point], $this->mesh->y[$point], $this->mesh->u[$point], $this->mesh->v[$point], $this->size[$point]);

            return false;
        }
        unset($this->rim[$a][$b]);
        $this->rim[$a][$point] = $edge;
        $this->rim[$point][$b] = $edge;
        $this->onEdge[$edge][] = [$share, $point];
        if ($this->outerAt !== null) {
            unset($this->outerAt[$a][$b]);
            // Dividing turns the triangle round, so its other outer edges have moved too.
            foreach ([$h - $h % 3, $around[1] - 1] as $t) {
                for ($k = $t; $k < $t + 3; $k++) {
                    if ($this->mesh->twin[$k] < 0) {
                        $this->outerAt[$this->mesh->corner[$k]][$this->mesh->corner[PlanarMesh::next($k)]] = $k;
                    }
                }
            }
        }

        return true;
    }

    private function refine(): void
    {
        $this->outerAt = null;
        foreach (array_keys($this->mesh->corner) as $h) {
            if ($h % 3 === 0) {
                $this->consider(intdiv($h, 3));
            }
        }
        $mostSplits = 1000 + 4 * count($this->outlines->from);
        $most = self::MOST_POINTS;
        while (! $this->queue->isEmpty() && $most-- > 0) {
            /** @var array{int, int, int, int} $next */
            $next = $this->queue->extract();
            [$t, $a, $b, $c] = $next;
            $corner = $this->mesh->corner;
            if ($corner[3 * $t] !== $a || $corner[3 * $t + 1] !== $b || $corner[3 * $t + 2] !== $c) {
                continue;
            }
            unset($corner);
            $centre = $this->circumcentre($a, $b, $c);
            if ($centre === null) {
                continue;
            }
            [$u, $v] = $centre;
            [$x, $y, $place] = $this->onPage($a, $u, $v);
            $found = $this->mesh->locate($t, $x, $y);
            if ($found === null) {
                continue;
            }
            [$where, $edge] = $found;
            $barred = $edge >= 0 && $this->mesh->twin[$edge] < 0 ? $edge : $this->encroached($where, $u, $v);
            if ($barred >= 0) {
                if ($this->splits < $mostSplits && $this->split($barred)) {
                    $this->splits++;
                    $this->consider($t);
                }

                continue;
            }
            if ($this->isCrowded($where, $u, $v, 0.7 * hypot($u - $this->mesh->u[$a], $v - $this->mesh->v[$a]))) {
                continue;
            }
            $point = $this->points + intdiv(count($this->newXyz), 3);
            array_push($this->newXyz, ...$place);
            $mesh = $this->mesh;
            $mesh->x[$point] = $x;
            $mesh->y[$point] = $y;
            $mesh->u[$point] = $u;
            $mesh->v[$point] = $v;
            $around = $edge >= 0 ? $mesh->divide($edge, $point) : $mesh->insert($where, $point);
            if ($around === null) {
                array_splice($this->newXyz, -3);
                unset($mesh->x[$point], $mesh->y[$point], $mesh->u[$point], $mesh->v[$point]);

                continue;
            }
            $this->size[$point] = $this->sizeAt($a, $b, $c, $u, $v);
            $this->settle($around);
        }
    }

    /** @param  list<int>  $around */
    private function settle(array $around): void
    {
        $changed = $this->mesh->relax($around);
        foreach ($around as $h) {
            $changed[intdiv($h, 3)] = true;
        }
        foreach ($changed as $t => $_) {
            $this->consider($t);
        }
    }

    /** Puts the triangle into the queue when it is too large or too thin. */
    private function consider(int $t): void
    {
        $corner = $this->mesh->corner;
        [$a, $b, $c] = [$corner[3 * $t], $corner[3 * $t + 1], $corner[3 * $t + 2]];
        unset($corner);
        $ab = $this->distance($a, $b);
        $bc = $this->distance($b, $c);
        $ca = $this->distance($c, $a);
        $area = $this->area($a, $b, $c);
        $shortest = min($ab, $bc, $ca);
        if ($area <= 1e-14 * $shortest * max($ab, $bc, $ca) || $shortest <= 0.0) {
            return;
        }
        $radius = $ab * $bc * $ca / (4 * $area);
        $want = min($this->size[$a], $this->size[$b], $this->size[$c]) + self::GRADE * $radius;
        if ($this->edge !== null) {
            $want = min($want, $this->edge);
        }
        if ($radius > 0.78 * $want || ($radius > self::RATIO * $shortest && ! $this->isOutlineCorner($t))) {
            $this->queue->insert([$t, $a, $b, $c], $radius);
        }
    }

    /** Does the triangle's smallest angle lie between two rim edges? Then nothing can be done about it. */
    private function isOutlineCorner(int $t): bool
    {
        $twin = $this->mesh->twin;
        $outer = [$twin[3 * $t] < 0, $twin[3 * $t + 1] < 0, $twin[3 * $t + 2] < 0];
        unset($twin);
        if ((int) $outer[0] + (int) $outer[1] + (int) $outer[2] < 2) {
            return false;
        }
        $corner = $this->mesh->corner;
        $lengths = [];
        for ($k = 0; $k < 3; $k++) {
            $lengths[] = $this->distance($corner[3 * $t + $k], $corner[3 * $t + ($k + 1) % 3]);
        }
        $shortest = (int) array_search(min($lengths), $lengths, true);

        return $outer[($shortest + 1) % 3] && $outer[($shortest + 2) % 3];
    }

    /** @return int a rim edge of the triangles around the point whose circle on it as diameter holds the point; −1 when none does */
    private function encroached(int $t, float $u, float $v): int
    {
        $mesh = $this->mesh;
        $open = [$t];
        $seen = [$t => true];
        while ($open !== []) {
            $s = array_pop($open);
            for ($h = 3 * $s; $h < 3 * $s + 3; $h++) {
                $a = $mesh->corner[$h];
                $b = $mesh->corner[PlanarMesh::next($h)];
                $g = $mesh->twin[$h];
                if ($g < 0) {
                    $au = $mesh->u[$a] - $u;
                    $av = $mesh->v[$a] - $v;
                    $bu = $mesh->u[$b] - $u;
                    $bv = $mesh->v[$b] - $v;
                    $dot = $au * $bu + $av * $bv;
                    $may = ($this->rim[$a][$b] ?? -1) >= 0;
                    // An edge that must stay as it is bars only points that would make a worse triangle on it than 30° at its ends.
                    if ($dot < 0 && ($may || $dot < -0.5 * sqrt(($au * $au + $av * $av) * ($bu * $bu + $bv * $bv)))) {
                        return $h;
                    }

                    continue;
                }
                $next = intdiv($g, 3);
                if (! isset($seen[$next]) && $this->circleHolds($next, $u, $v)) {
                    $seen[$next] = true;
                    $open[] = $next;
                }
            }
        }

        return -1;
    }

    private function circleHolds(int $t, float $u, float $v): bool
    {
        $mesh = $this->mesh;
        [$a, $b, $c] = [$mesh->corner[3 * $t], $mesh->corner[3 * $t + 1], $mesh->corner[3 * $t + 2]];
        $au = $mesh->u[$a] - $u;
        $av = $mesh->v[$a] - $v;
        $bu = $mesh->u[$b] - $u;
        $bv = $mesh->v[$b] - $v;
        $cu = $mesh->u[$c] - $u;
        $cv = $mesh->v[$c] - $v;

        return ($au * $au + $av * $av) * ($bu * $cv - $bv * $cu)
            - ($bu * $bu + $bv * $bv) * ($au * $cv - $av * $cu)
            + ($cu * $cu + $cv * $cv) * ($au * $bv - $av * $bu) > 0;
    }

    /** Is a corner of the triangle nearer than that? Where edges could not be flipped it may be, and refining would not end. */
    private function isCrowded(int $t, float $u, float $v, float $distance): bool
    {
        for ($h = 3 * $t; $h < 3 * $t + 3; $h++) {
            $p = $this->mesh->corner[$h];
            if (hypot($this->mesh->u[$p] - $u, $this->mesh->v[$p] - $v) < $distance) {
                return true;
            }
        }

        return false;
    }

    /** Divides a rim edge in its middle, if it may be. */
    private function split(int $h): bool
    {
        $a = $this->mesh->corner[$h];
        $b = $this->mesh->corner[PlanarMesh::next($h)];
        $edge = $this->rim[$a][$b] ?? -1;
        if ($edge < 0 || $this->distance($a, $b) < 2 * $this->least[$edge]) {
            return false;
        }
        $p = $this->edgeFrom[$edge];
        $q = $this->edgeTo[$edge];
        $low = $a === $p ? 0.0 : $this->shareOf($edge, $a);
        $high = $b === $q ? 1.0 : $this->shareOf($edge, $b);
        $share = ($low + $high) / 2;
        $point = $this->pointOnEdge($p, $q, $share, 1 - $share);
        if (! $this->divideRim($h, $point, $edge, $share)) {
            return false;
        }
        $this->settle([$h - $h % 3 + 2, count($this->mesh->corner) - 2]);

        return true;
    }

    private function shareOf(int $edge, int $point): float
    {
        foreach ($this->onEdge[$edge] ?? [] as [$share, $at]) {
            if ($at === $point) {
                return $share;
            }
        }

        return 0.0;
    }

    /** @return array{float, float}|null */
    private function circumcentre(int $a, int $b, int $c): ?array
    {
        $mesh = $this->mesh;
        $bu = $mesh->u[$b] - $mesh->u[$a];
        $bv = $mesh->v[$b] - $mesh->v[$a];
        $cu = $mesh->u[$c] - $mesh->u[$a];
        $cv = $mesh->v[$c] - $mesh->v[$a];
        $d = 2 * ($bu * $cv - $bv * $cu);
        if ($d <= 0.0) {
            return null;
        }
        $bb = $bu * $bu + $bv * $bv;
        $cc = $cu * $cu + $cv * $cv;
        $u = $mesh->u[$a] + ($cv * $bb - $bv * $cc) / $d;
        $v = $mesh->v[$a] + ($bu * $cc - $cu * $bb) / $d;

        return is_finite($u) && is_finite($v) ? [$u, $v] : null;
    }

    /** @return array{float, float, array{float, float, float}} page coordinates and place in space of a point given by u and v */
    private function onPage(int $near, float $u, float $v): array
    {
        [$right, $up] = $this->outlines->plane->directions();
        $du = $u - $this->mesh->u[$near];
        $dv = $v - $this->mesh->v[$near];
        $from = $this->place($near);
        $place = [
            $from[0] + $du * $right[0] + $dv * $up[0],
            $from[1] + $du * $right[1] + $dv * $up[1],
            $from[2] + $du * $right[2] + $dv * $up[2],
        ];
        // A plane square to an axis keeps that coordinate exactly.
        $place = match ($this->outlines->plane->axis) {
            0 => [$from[0], $place[1], $place[2]],
            1 => [$place[0], $from[1], $place[2]],
            2 => [$place[0], $place[1], $from[2]],
            default => $place,
        };

        return [$place[$this->page[0]], $place[$this->page[1]], $place];
    }

    private function sizeAt(int $a, int $b, int $c, float $u, float $v): float
    {
        $size = $this->edge ?? INF;
        foreach ([$a, $b, $c] as $p) {
            $size = min($size, $this->size[$p] + self::GRADE * hypot($this->mesh->u[$p] - $u, $this->mesh->v[$p] - $v));
        }

        return $size;
    }

    private function distance(int $p, int $q): float
    {
        return hypot($this->mesh->u[$q] - $this->mesh->u[$p], $this->mesh->v[$q] - $this->mesh->v[$p]);
    }

    private function area(int $a, int $b, int $c): float
    {
        $mesh = $this->mesh;

        return abs(($mesh->u[$b] - $mesh->u[$a]) * ($mesh->v[$c] - $mesh->v[$a]) - ($mesh->v[$b] - $mesh->v[$a]) * ($mesh->u[$c] - $mesh->u[$a])) / 2;
    }

    /** @return array{float, float, float} */
    private function place(int $p): array
    {
        if ($p < $this->points) {
            return [$this->outlines->xyz[3 * $p], $this->outlines->xyz[3 * $p + 1], $this->outlines->xyz[3 * $p + 2]];
        }
        $i = 3 * ($p - $this->points);

        return [$this->newXyz[$i], $this->newXyz[$i + 1], $this->newXyz[$i + 2]];
    }

    /** @return list<array{int, int, list<int>}> */
    private function divided(): array
    {
        $divided = [];
        ksort($this->onEdge);
        foreach ($this->onEdge as $edge => $points) {
            sort($points);
            $divided[] = [$this->edgeFrom[$edge], $this->edgeTo[$edge], array_column($points, 1)];
        }

        return $divided;
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return array{list<int>, list<int>}
     */
    private function rimEdges(array $from, array $to): array
    {
        $newFrom = $newTo = [];
        foreach ($from as $e => $p) {
            $points = $this->onEdge[$e] ?? [];
            sort($points);
            foreach ([...array_column($points, 1), $to[$e]] as $q) {
                $newFrom[] = $p;
                $newTo[] = $q;
                $p = $q;
            }
        }

        return [$newFrom, $newTo];
    }

    /** @return array<int, int> with keys for the number of points that there are now */
    private function lyingEdges(): array
    {
        $now = $this->points + intdiv(count($this->newXyz), 3);
        $lying = [];
        foreach ($this->outlines->lying as $key => $one) {
            $lying[intdiv($key, $this->points) * $now + $key % $this->points] = $one;
        }

        return $lying;
    }
}
