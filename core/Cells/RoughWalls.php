<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Closure;
use Isotome\Check\Crossings as SelfCrossings;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\ClipToBox;
use Isotome\Mesh\Mesh;
use LogicException;

/**
 * The walls between cells with a grain: triangles of about one size, all moved the way the grain says for their places, so that walls which met at an edge still meet there. What lies behind and
 * ahead of them are the shards; these need not be convex any more (Complex::$isRough).
 *
 * With a kerf each shard has walls of its own, half the kerf further in, with the same triangles, moved the same way: so the two sides keep their distance along the facing of the flat wall. The rims
 * of the walls, which lie beyond the body, stay.
 */
final class RoughWalls
{
    /** Triangles of all walls. */
    private const MOST = 300_000;

    /** Halvings by which the largest height is found that does not cross itself. */
    private const ROUNDS = 6;

    /** Edges shorter than so many kerfs are joined to one vertex. */
    private const SHORT = [0.5, 1.5];

    /** Rounds over the walls of a vertex at most, see inwards(). */
    private const TURNS = 200;

    /**
     * @param  Complex  $complex  the flat walls, without a kerf
     * @param  Box  $box  around the body
     * @param  float  $kerf  mm
     * @param  int  $gap  the shard that the kerf takes away
     * @param  Closure(float): mixed|null  $progress  called with the share done; it may throw to cancel
     *
     * @throws BadBlade when the walls would cross themselves or have too many triangles
     */
    public static function of(Complex $complex, Grain $grain, Box $box, float $kerf = 0.0, int $gap = -1, ?Closure $progress = null): Complex
    {
        $progress ??= static fn (float $share): null => null;
        $shards = range(0, max($complex->labels - 1, $gap));
        foreach (self::candidates($complex, $kerf) as [$walls, $isApart]) {
            [$xyz, $corners, $behind, $ahead, $ways] = self::even($walls, $grain, $box, $kerf, $gap, $isApart, $progress);
            $moved = self::moved($xyz, $ways, 1.0);
            if (! self::crosses($moved, $corners, $box, $progress)) {
                return new Complex($moved, array_chunk($corners, 3), $behind, $ahead, $shards, isRough: true);
            }
            if (! $isApart || ! self::crosses($xyz, $corners, $box, $progress)) {
                self::refuse($xyz, $ways, $corners, $box, $grain, $progress);
            }
        }
        throw new LogicException('The last candidate is not apart, so it is taken or refused.');
    }

    /**
     * The flat walls to begin with, to be tried in turn until their sides do not cross. With a kerf, edges shorter than it are joined first, because the sides of their neighbours would cross; the
     * last candidate is what a flat kerf leaves of the cells: each side has triangles of its own there, so only a smaller height is possible without crossing.
     *
     * @return iterable<array{Complex, bool}> walls, and whether each is shared by two shards, which the kerf then moves apart
     */
    private static function candidates(Complex $complex, float $kerf): iterable
    {
        if ($kerf <= 0.0) {
            yield [$complex, false];

            return;
        }
        foreach (self::SHORT as $times) {
            yield [ShortEdges::joined($complex, $times * $kerf), true];
        }
        yield [Kerf::of($complex, $kerf), false];
    }

    /**
     * The flat walls in triangles, and the ways that their vertices are moved.
     *
     * @param  Closure(float): mixed  $progress
     * @return array{list<float>, list<int>, list<int>, list<int>, array<int, array{float, float, float}>} coordinates, corners, shards behind and ahead of each triangle, ways of the vertices
     */
    private static function even(Complex $complex, Grain $grain, Box $box, float $kerf, int $gap, bool $isApart, Closure $progress): array
    {
        $around = [];
        foreach ([$box->min, $box->max] as $side => $corner) {
            foreach ($corner as $c) {
                $around[] = $c + ($side === 0 ? -1 : 1) * ($grain->reach() + $kerf + 2 * $grain->edge);
            }
        }
        /** @var array{float, float, float, float, float, float} $around */
        $walls = self::walls($complex, $box, $gap, $kerf > 0.0 && ! $isApart);
        self::refuseTooMany($complex, array_keys($walls), $around, $grain->edge, $isApart ? 2 : 1);
        $xyz = $complex->xyz;
        [$onEdge, $stays] = self::edges($complex, array_keys($walls), $xyz, $grain->edge, $around);
        $triangles = [];
        foreach ($walls as $f => $_) {
            $progress(0.5 * count($triangles) / count($walls));
            $plane = [$complex->planes[4 * $f], $complex->planes[4 * $f + 1], $complex->planes[4 * $f + 2], $complex->planes[4 * $f + 3]];
            $triangles[$f] = EvenFacet::of($xyz, $complex->loops[$f], self::rim($complex->loops[$f], $onEdge), $plane, $grain->edge, $around);
        }

        return $isApart ? self::apart($complex, $walls, $triangles, $xyz, $stays, $grain, $kerf, $gap) : self::together($complex, $walls, $triangles, $xyz, $stays, $grain, $kerf, $gap);
    }

    /**
     * Each wall as it is. Beside a gap it is moved as the middle of the gap is.
     *
     * @param  array<int, array{int, int}>  $walls
     * @param  array<int, list<int>>  $triangles
     * @param  list<float>  $xyz
     * @param  array<int, true>  $stays
     * @return array{list<float>, list<int>, list<int>, list<int>, array<int, array{float, float, float}>} as above
     */
    private static function together(Complex $complex, array $walls, array $triangles, array $xyz, array $stays, Grain $grain, float $kerf, int $gap): array
    {
        $corners = $behind = $ahead = $ways = [];
        foreach ($walls as $f => [$b, $a]) {
            $to = $kerf / 2 * (($a === $gap ? 1 : 0) - ($b === $gap ? 1 : 0));
            [$x, $y, $z] = [$to * $complex->planes[4 * $f], $to * $complex->planes[4 * $f + 1], $to * $complex->planes[4 * $f + 2]];
            foreach ($triangles[$f] as $k => $p) {
                $corners[] = $p;
                if ($k % 3 === 0) {
                    $behind[] = $b;
                    $ahead[] = $a;
                }
                if (! isset($ways[$p]) && ! isset($stays[$p])) {
                    $ways[$p] = $grain->way($xyz[3 * $p] + $x, $xyz[3 * $p + 1] + $y, $xyz[3 * $p + 2] + $z);
                }
            }
        }

        return [$xyz, $corners, $behind, $ahead, $ways];
    }

    /**
     * Each wall twice, once for each of its shards.
     *
     * @param  array<int, array{int, int}>  $walls
     * @param  array<int, list<int>>  $triangles
     * @param  list<float>  $xyz
     * @param  array<int, true>  $stays
     * @return array{list<float>, list<int>, list<int>, list<int>, array<int, array{float, float, float}>} as above
     */
    private static function apart(Complex $complex, array $walls, array $triangles, array $xyz, array $stays, Grain $grain, float $kerf, int $gap): array
    {
        /** @var array<int, array<int, list<array{float, float, float}>>> $facings shard → vertex → facings of its walls there, out of the shard */
        $facings = [];
        foreach ($walls as $f => [$behind, $ahead]) {
            $n = [$complex->planes[4 * $f], $complex->planes[4 * $f + 1], $complex->planes[4 * $f + 2]];
            foreach (array_unique($triangles[$f]) as $p) {
                $facings[$behind][$p][] = $n;
                $facings[$ahead][$p][] = [-$n[0], -$n[1], -$n[2]];
            }
        }
        $made = $ways = $number = $corners = $behinds = $aheads = $way = [];
        foreach ($walls as $f => $shards) {
            foreach ($shards as $side => $shard) {
                foreach ($triangles[$f] as $k => $p) {
                    if (! isset($number[$shard][$p])) {
                        $number[$shard][$p] = $new = intdiv(count($made), 3);
                        $in = self::inwards($facings[$shard][$p], $kerf / 2, max($kerf, 0.45 * $grain->edge));
                        array_push($made, $xyz[3 * $p] + $in[0], $xyz[3 * $p + 1] + $in[1], $xyz[3 * $p + 2] + $in[2]);
                        if (! isset($stays[$p])) {
                            $ways[$new] = $way[$p] ??= $grain->way($xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2]);
                        }
                    }
                    $corners[] = $number[$shard][$p];
                    if ($k % 3 === 0) {
                        $behinds[] = $side === 0 ? $shard : $gap;
                        $aheads[] = $side === 0 ? $gap : $shard;
                    }
                }
            }
        }

        return [$made, $corners, $behinds, $aheads, $ways];
    }

    /**
     * A short way by which a vertex leaves all its walls by so much, found by going to one after the other in turn (S. Kaczmarz, 1937, here for half-spaces); not farther than given, at sharp edges.
     *
     * @param  list<array{float, float, float}>  $facings
     * @return array{float, float, float}
     */
    private static function inwards(array $facings, float $by, float $most): array
    {
        $x = $y = $z = 0.0;
        for ($round = count($facings) === 1 ? self::TURNS - 1 : 0; $round < self::TURNS; $round++) {
            $isDone = true;
            foreach ($facings as [$nx, $ny, $nz]) {
                $more = -$by - ($nx * $x + $ny * $y + $nz * $z);
                if ($more < -1e-9 * $by) {
                    [$x, $y, $z] = [$x + $more * $nx, $y + $more * $ny, $z + $more * $nz];
                    $isDone = false;
                }
            }
            if ($isDone) {
                break;
            }
        }
        $length = sqrt($x * $x + $y * $y + $z * $z);
        $share = $length > $most && count($facings) > 1 ? $most / $length : 1.0;

        return [$share * $x, $share * $y, $share * $z];
    }

    /**
     * The facets that part shards; those far from the body tell where it is when no wall meets it. What has nothing on one side is the end of all cells, beyond the body, or a side of a gap.
     *
     * @return array<int, array{int, int}> facet → shards behind and ahead
     */
    private static function walls(Complex $complex, Box $box, int $gap, bool $hasGaps): array
    {
        $walls = [];
        $tight = [...$box->min, ...$box->max];
        foreach ($complex->loops as $f => $loop) {
            [$behind, $ahead] = [$complex->behind[$f], $complex->ahead[$f]];
            $isOuter = $behind < 0 || $ahead < 0;
            if ($complex->cuts($f) && (! $isOuter || ($hasGaps && ! self::isBeyond($complex->xyz, $loop, $tight)))) {
                $walls[$f] = [$behind < 0 ? $gap : $complex->label[$behind], $ahead < 0 ? $gap : $complex->label[$ahead]];
            }
        }

        return $walls;
    }

    /**
     * Do all corners lie beyond one side of the box?
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @param  array<int, float>  $box
     */
    private static function isBeyond(array $xyz, array $loop, array $box): bool
    {
        for ($k = 0; $k < 3; $k++) {
            $isBelow = $isAbove = true;
            foreach ($loop as $p) {
                $isBelow = $isBelow && $xyz[3 * $p + $k] < $box[$k];
                $isAbove = $isAbove && $xyz[3 * $p + $k] > $box[$k + 3];
            }
            if ($isBelow || $isAbove) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<int>  $walls
     * @param  array{float, float, float, float, float, float}  $around
     *
     * @throws BadBlade
     */
    private static function refuseTooMany(Complex $complex, array $walls, array $around, float $edge, int $times): void
    {
        $area = 0.0;
        foreach ($walls as $f) {
            $area += self::areaWithin($complex->xyz, $complex->loops[$f], $around);
        }
        $count = 2 * $times * $area / ($edge * $edge);
        if ($count > self::MOST) {
            throw new BadBlade(sprintf('The grain would have about %s triangles; give it edges of at least %.2f mm, or a larger size.', number_format($count), $edge * sqrt($count / self::MOST) + 0.005));
        }
    }

    /**
     * The area of a wall's part within the box, mm².
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $loop
     * @param  array{float, float, float, float, float, float}  $box
     */
    private static function areaWithin(array $xyz, array $loop, array $box): float
    {
        $left = ClipToBox::of(array_map(static fn (int $p): array => [$xyz[3 * $p], $xyz[3 * $p + 1], $xyz[3 * $p + 2]], $loop), array_slice($box, 0, 3), array_slice($box, 3));
        $sum = [0.0, 0.0, 0.0];
        for ($i = 2, $n = count($left); $i < $n; $i++) {
            [$o, $p, $q] = [$left[0], $left[$i - 1], $left[$i]];
            for ($k = 0; $k < 3; $k++) {
                [$l, $m] = [($k + 1) % 3, ($k + 2) % 3];
                $sum[$k] += ($p[$l] - $o[$l]) * ($q[$m] - $o[$m]) - ($p[$m] - $o[$m]) * ($q[$l] - $o[$l]);
            }
        }

        return sqrt($sum[0] ** 2 + $sum[1] ** 2 + $sum[2] ** 2) / 2;
    }

    /**
     * Points on the edges of the walls, the same for all walls at an edge.
     *
     * @param  list<int>  $walls
     * @param  list<float>  $xyz  the points are added
     * @param  array{float, float, float, float, float, float}  $around
     * @return array{array<int, list<int>>, array<int, true>} edge → points from its lower to its higher end; vertices on edges of one wall only
     */
    private static function edges(Complex $complex, array $walls, array &$xyz, float $edge, array $around): array
    {
        $times = [];
        foreach ($walls as $f) {
            $p = $complex->loops[$f][count($complex->loops[$f]) - 1];
            foreach ($complex->loops[$f] as $q) {
                $key = $p < $q ? $p << 32 | $q : $q << 32 | $p;
                $times[$key] = ($times[$key] ?? 0) + 1;
                $p = $q;
            }
        }
        $onEdge = $stays = [];
        foreach ($times as $key => $many) {
            [$p, $q] = [$key >> 32, $key & 0xFFFFFFFF];
            $points = [];
            if (! self::isBeyond($xyz, [$p, $q], $around)) {
                $x = $xyz[3 * $q] - $xyz[3 * $p];
                $y = $xyz[3 * $q + 1] - $xyz[3 * $p + 1];
                $z = $xyz[3 * $q + 2] - $xyz[3 * $p + 2];
                $parts = (int) round(sqrt($x * $x + $y * $y + $z * $z) / $edge);
                for ($n = 1; $n < $parts; $n++) {
                    $points[] = intdiv(count($xyz), 3);
                    array_push($xyz, $xyz[3 * $p] + $x * $n / $parts, $xyz[3 * $p + 1] + $y * $n / $parts, $xyz[3 * $p + 2] + $z * $n / $parts);
                }
            }
            $onEdge[$key] = $points;
            if ($many === 1) {
                foreach ([$p, $q, ...$points] as $one) {
                    $stays[$one] = true;
                }
            }
        }

        return [$onEdge, $stays];
    }

    /**
     * @param  list<int>  $loop
     * @param  array<int, list<int>>  $onEdge
     * @return list<int>
     */
    private static function rim(array $loop, array $onEdge): array
    {
        $rim = [];
        foreach ($loop as $k => $p) {
            $q = $loop[$k + 1 < count($loop) ? $k + 1 : 0];
            array_push($rim, $p, ...($p < $q ? $onEdge[$p << 32 | $q] : array_reverse($onEdge[$q << 32 | $p])));
        }

        return $rim;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<int, array{float, float, float}>  $ways
     * @return list<float>
     */
    private static function moved(array $xyz, array $ways, float $share): array
    {
        foreach ($ways as $p => [$x, $y, $z]) {
            $xyz[3 * $p] += $share * $x;
            $xyz[3 * $p + 1] += $share * $y;
            $xyz[3 * $p + 2] += $share * $z;
        }

        return array_values($xyz);
    }

    /**
     * Do triangles of the walls cross each other within the box?
     *
     * @param  list<float>  $xyz
     * @param  list<int>  $corners
     * @param  Closure(float): mixed  $progress
     */
    private static function crosses(array $xyz, array $corners, Box $box, Closure $progress): bool
    {
        $surface = Mesh::of($xyz, $corners, array_fill(0, intdiv(count($corners), 3), 0));
        foreach (SelfCrossings::of($surface, progress: static function (float $share) use ($progress): void {
            $progress(0.5 + 0.5 * $share);
        })->pairs as [$s, $t]) {
            $low = [-INF, -INF, -INF];
            $high = [INF, INF, INF];
            foreach ([$s, $t] as $one) {
                for ($k = 0; $k < 3; $k++) {
                    $some = [$xyz[3 * $corners[3 * $one] + $k], $xyz[3 * $corners[3 * $one + 1] + $k], $xyz[3 * $corners[3 * $one + 2] + $k]];
                    $low[$k] = max($low[$k], min($some));
                    $high[$k] = min($high[$k], max($some));
                }
            }
            if ($low[0] <= $box->max[0] && $high[0] >= $box->min[0] && $low[1] <= $box->max[1] && $high[1] >= $box->min[1] && $low[2] <= $box->max[2] && $high[2] >= $box->min[2]) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<float>  $xyz
     * @param  array<int, array{float, float, float}>  $ways
     * @param  list<int>  $corners
     * @param  Closure(float): mixed  $progress
     */
    private static function refuse(array $xyz, array $ways, array $corners, Box $box, Grain $grain, Closure $progress): never
    {
        [$good, $bad] = [0.0, 1.0];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $share = ($good + $bad) / 2;
            if (self::crosses(self::moved($xyz, $ways, $share), $corners, $box, $progress)) {
                $bad = $share;
            } else {
                $good = $share;
            }
        }
        $height = floor(1000 * $good * $grain->height) / 1000;
        if ($height <= 0.0) {
            throw new BadBlade('With a grain the blade crosses itself whatever the height is; give the grain a larger size or longer edges, or make the kerf smaller.');
        }
        throw new BadBlade(sprintf(
            'With this grain the blade crosses itself; with a height of at most %.3f mm%s it does not.',
            $height, $grain->fineHeight > 0.0 ? sprintf(', and of %.3f mm for the finer one,', floor(1000 * $good * $grain->fineHeight) / 1000) : '',
        ));
    }
}
