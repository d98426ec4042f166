<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Format\Precision;
use Isotome\Format\Rounded as Held;
use Isotome\Geometry\Extent;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;

/**
 * Solids that stay solids in a file of 32-bit floats. Where parts are nearly flush, a solid has details that doubles tell apart and files do not, and rounded faces go
 * through each other. There the solid's corners are moved to a grid that such floats hold exactly, what then crosses is resolved again, and so on until nothing does.
 *
 * Guarantees: a solid that files can hold comes back as it is. Of another one, corners that files hold and that are on no face that crosses in the file stay; the others
 * move by about what the file would have moved them.
 *
 * Source: the idea of iterated snap rounding (D. Halperin, E. Packer, Computational Geometry 23, 2002), which is for segments in a plane and always ends; here a few rounds are tried.
 */
final class FileProof
{
    /** So often what crosses is resolved again. Of 1,000 results of unlucky pairs, 80 need one round, 20 two, a few up to six. */
    private const ROUNDS = 10;

    /** So many rounds that leave no fewer crossings than there were before, and it is given up. */
    private const WORSE = 5;

    /** The same of a large solid: each round takes about as long as the solid took. */
    private const WORSE_OF_LARGE = 2;

    /** Triangles from which on a solid is large. */
    private const LARGE = 50_000;

    /** Lines of the grid within the largest coordinate: the fraction of a 32-bit float has so many places (IEEE 754). */
    private const LINES = 2.0 ** 24;

    /** @var \WeakMap<Mesh, true>|null solids of which rounded faces were seen to cross, as long as they are there */
    private static ?\WeakMap $doubts = null;

    /** @var \WeakMap<Mesh, int>|null faces that cross in files, of solids for which no way was found, as long as they are there */
    private static ?\WeakMap $crossing = null;

    /** Tells that of a solid rounded faces were seen to cross. */
    public static function isInDoubt(Mesh $solid): Mesh
    {
        self::$doubts ??= new \WeakMap();
        self::$doubts[$solid] = true;

        return $solid;
    }

    /** Faces of a solid that cross in files of 32-bit floats, because no way was found for them. */
    public static function crossing(Mesh $solid): int
    {
        return self::$crossing[$solid] ?? 0;
    }

    /** @param  int  $faces  that cross in files, more than none */
    public static function sentence(int $faces): string
    {
        return ($faces === 1 ? '1 face is' : "$faces faces are").' closer to others than the 32-bit numbers of STL, 3MF and GLB files tell apart, and would cross them there; OBJ, PLY and OFF files hold them as they are.';
    }

    /** Tells how many they are, of a mesh that was made of such solids. */
    public static function isCrossing(Mesh $solid, int $faces): Mesh
    {
        self::$crossing ??= new \WeakMap();
        self::$crossing[$solid] = $faces;

        return $solid;
    }

    /**
     * @param  Mesh  $solid  that the kernel made; one that is not in doubt comes back at once
     * @param  Closure(float): void|null  $progress  called with 1, as this comes after the work; it may throw to cancel
     * @return Mesh the solid as it was when no way was found: then crossing() tells
     */
    public static function of(Mesh $solid, ?Closure $progress = null): Mesh
    {
        if (! isset(self::$doubts[$solid])) {
            return $solid;
        }
        $tick = $progress === null ? null : static fn (float $share) => $progress(1.0);
        $held = Held::of($solid);
        $least = PHP_INT_MAX;
        $worse = $faces = 0;
        for ($round = 0; $round <= self::ROUNDS; $round++) {
            $pairs = $held->isEmpty() ? [] : Crossings::of(Places::joined($held), progress: $tick)->pairs;
            if ($pairs === []) {
                return $round === 0 || $held->isEmpty() ? $solid : $held;
            }
            $faces = $round === 0 ? count(array_unique(array_merge(...$pairs))) : $faces;
            $worse += count($pairs) >= $least ? 1 : 0;
            if ($worse >= ($held->triangleCount() < self::LARGE ? self::WORSE : self::WORSE_OF_LARGE)) {
                break;
            }
            $least = min($least, count($pairs));
            $moved = Combined::solid([self::moved($held, $pairs)], static fn (array $windings): bool => $windings[0] > 0, $tick);
            $held = Held::of(self::moved($moved, []));
        }

        return self::isCrossing($solid, $faces);
    }

    /**
     * Corners of faces that cross, and those that files do not hold, moved to the grid.
     *
     * @param  list<array{int, int}>  $pairs  of faces
     */
    private static function moved(Mesh $mesh, array $pairs): Mesh
    {
        $isCrossed = [];
        foreach ($pairs as $pair) {
            foreach ($pair as $t) {
                for ($i = 3 * $t; $i < 3 * $t + 3; $i++) {
                    $isCrossed[$mesh->corners[$i]] = true;
                }
            }
        }
        $step = 2.0 ** ceil(log(max(Extent::of($mesh->xyz), 1e-30), 2.0)) / self::LINES;
        $held = Precision::single()->nearest($mesh->xyz);
        $xyz = [];
        foreach ($mesh->xyz as $i => $coordinate) {
            $xyz[] = isset($isCrossed[intdiv($i, 3)]) || $held[$i] !== $coordinate ? round($coordinate / $step) * $step : $coordinate;
        }

        return Held::of(Mesh::of($xyz, $mesh->corners, $mesh->tags));
    }
}
