<?php

declare(strict_types=1);

namespace Isotome\Seal;

/**
 * Triangles between rim edges on the page, whatever the edges are.
 *
 * Outlines that do not come back are set aside (unclosed). What is left is triangulated exactly when the outlines do not
 * cross (sound); crossing ones are closed each with the holes inside it. Every rim edge that is kept gets one triangle.
 */
final readonly class RimTriangulation
{
    /**
     * @param  list<int>  $triangles  counter-clockwise seen from ahead
     * @param  list<int>  $from  the closed outlines' edges
     * @param  list<int>  $to
     * @param  list<list<int>>  $unclosed
     */
    private function __construct(
        public array $triangles,
        public array $from,
        public array $to,
        public array $unclosed,
        public bool $sound,
    ) {
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    public static function of(array $x, array $y, array $from, array $to): self
    {
        $unclosed = [];
        if (! self::comesBack($from, $to)) {
            $outlines = Outlines::of($from, $to);
            $unclosed = $outlines->open;
            [$from, $to] = self::edges($outlines->closed);
        }
        if ($from === []) {
            return new self([], [], [], $unclosed, true);
        }
        $triangles = self::sweep($x, $y, $from, $to);

        return new self($triangles ?? self::closeCrossing($x, $y, $from, $to), $from, $to, $unclosed, $triangles !== null);
    }

    /**
     * Triangles of outlines that come back, run round their area to its left, and do not cross; null for all others.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int>|null
     */
    public static function exact(array $x, array $y, array $from, array $to): ?array
    {
        $swept = self::comesBack($from, $to) ? SweepTriangulation::of($x, $y, $from, $to) : null;

        return $swept !== null && $swept['sound'] ? $swept['triangles'] : null;
    }

    /**
     * The area exactly, for outlines that do not cross; also for a body turned inside out, whose outlines all run the other
     * way round.
     *
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int>|null
     */
    private static function sweep(array $x, array $y, array $from, array $to): ?array
    {
        $swept = SweepTriangulation::of($x, $y, $from, $to);
        if ($swept !== null && $swept['sound']) {
            return $swept['triangles'];
        }
        $swept = SweepTriangulation::of($x, $y, $to, $from);

        return $swept !== null && $swept['sound'] ? array_reverse($swept['triangles']) : null;
    }

    /**
     * @param  list<int>  $from
     * @param  list<int>  $to
     */
    private static function comesBack(array $from, array $to): bool
    {
        sort($from);
        sort($to);

        return $from === $to;
    }

    /**
     * @param  list<list<int>>  $loops
     * @return array{list<int>, list<int>}
     */
    private static function edges(array $loops): array
    {
        $from = [];
        $to = [];
        foreach ($loops as $loop) {
            $p = $loop[count($loop) - 1];
            foreach ($loop as $q) {
                $from[] = $p;
                $to[] = $q;
                $p = $q;
            }
        }

        return [$from, $to];
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int>
     */
    private static function closeCrossing(array $x, array $y, array $from, array $to): array
    {
        $outer = [];
        $holes = [];
        foreach (Outlines::of($from, $to)->closed as $loop) {
            $area = Polygon::area($x, $y, $loop);
            if ($area > 0) {
                $outer[] = [$area, $loop];
            } else {
                $holes[] = [$area, $loop];
            }
        }
        // Smallest first: a hole belongs to the smallest outline around it.
        usort($outer, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $groups = [];
        foreach ($outer as [, $loop]) {
            $groups[] = [$loop];
        }
        foreach ($holes as [, $hole]) {
            $home = null;
            foreach ($outer as $g => [, $loop]) {
                if (Polygon::encloses($x, $y, $loop, $x[$hole[0]], $y[$hole[0]])) {
                    $home = $g;
                    break;
                }
            }
            if ($home === null) {
                $groups[] = [$hole];
            } else {
                $groups[$home][] = $hole;
            }
        }
        $triangles = [];
        foreach ($groups as $group) {
            [$groupFrom, $groupTo] = self::edges($group);
            $swept = self::sweep($x, $y, $groupFrom, $groupTo);
            if ($swept !== null) {
                array_push($triangles, ...$swept);

                continue;
            }
            foreach ($group as $loop) {
                array_push($triangles, ...self::closeAlone($x, $y, $loop));
            }
        }

        return $triangles;
    }

    /**
     * @param  array<int, float>  $x
     * @param  array<int, float>  $y
     * @param  list<int>  $loop
     * @return list<int>
     */
    private static function closeAlone(array $x, array $y, array $loop): array
    {
        [$from, $to] = self::edges([$loop]);
        $swept = self::sweep($x, $y, $from, $to);
        if ($swept !== null) {
            return $swept;
        }
        $turned = Polygon::area($x, $y, $loop) < 0;
        $triangles = EarClipping::of($x, $y, $turned ? array_reverse($loop) : $loop);

        return $turned ? array_reverse($triangles) : $triangles;
    }
}
