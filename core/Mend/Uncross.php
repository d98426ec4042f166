<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Exception\BadMesh;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\Boundary;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Together;
use Isotome\Solid\Combined;
use Isotome\Solid\FileProof;

/**
 * Makes solids of bodies that close but cross themselves, or have edges at which more than two of their faces meet: what they wind around once or more often is
 * material (Isotome\Solid\Combined). Bodies that cross each other only stay as they are, each for itself.
 *
 * Guarantees: a mesh without such a body comes back as it is; the other bodies keep every vertex and every triangle.
 */
final class Uncross
{
    /** The share of the work that goes into looking for pairs. */
    private const LOOKING = 0.3;

    /** Pairs that are kept: more bodies than these name may cross themselves, and then stay as they are. */
    private const MOST_PAIRS = 1_000_000;

    /**
     * @param  Mesh  $mesh  what does not close of it stays as it is (Isotome\Mesh\Boundary)
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, bodies: int} and how many bodies were made solid
     */
    public static function of(Mesh $mesh, ?Closure $progress = null): array
    {
        $part = static fn (float $from, float $to): Closure => static function (float $share) use ($progress, $from, $to): void {
            $progress === null ?: $progress($from + ($to - $from) * $share);
        };
        $pairs = self::pairs($mesh, $part(0.0, self::LOOKING));
        if ($pairs === [] && EdgeCheck::of($mesh)->isWatertight()) {
            return ['mesh' => $mesh, 'bodies' => 0];
        }
        $bodies = Bodies::of(Mesh::of($mesh->xyz, $mesh->corners, range(0, $mesh->triangleCount() - 1)));
        $bodyOf = [];
        foreach ($bodies as $b => $body) {
            foreach ($body->tags as $t) {
                $bodyOf[$t] = $b;
            }
        }
        $crossed = [];
        foreach ($pairs as [$t, $s]) {
            if ($bodyOf[$t] === $bodyOf[$s]) {
                $crossed[$bodyOf[$t]] = true;
            }
        }
        $made = [];
        $count = $done = 0;
        foreach ($bodies as $b => $body) {
            $from = $done / $mesh->triangleCount();
            $done += $body->triangleCount();
            $isFaulty = isset($crossed[$b]) || ! EdgeCheck::of($body)->isWatertight();
            $solids = $isFaulty && Boundary::of($body) === [] ? self::solids($body, $part(self::LOOKING + (1 - self::LOOKING) * $from, self::LOOKING + (1 - self::LOOKING) * $done / $mesh->triangleCount())) : null;
            if ($solids === null) {
                $made[] = $body;
            } else {
                array_push($made, ...$solids);
                $count++;
            }
        }
        if ($count === 0 || $made === []) {
            return ['mesh' => $mesh, 'bodies' => 0];
        }
        $whole = Together::of($made);
        $mended = Mesh::of($whole->xyz, $whole->corners, array_map(static fn (int $t): int => $mesh->tags[$t], $whole->tags));

        return ['mesh' => FileProof::isCrossing($mended, array_sum(array_map(FileProof::crossing(...), $made))), 'bodies' => $count];
    }

    /**
     * @param  Closure(float): void  $progress
     * @return list<Mesh>|null none of a body that holds nothing; null when it cannot be worked out
     */
    private static function solids(Mesh $body, Closure $progress): ?array
    {
        try {
            $solids = array_column(Combined::unite([$body], $progress), 0);
            if ($solids === []) {
                // A body turned inside out holds nothing, so it is tried the other way round.
                $solids = array_column(Combined::unite([Mesh::of($body->xyz, array_reverse($body->corners), array_reverse($body->tags))], $progress), 0);
            }
        } catch (BadMesh) {
            return null;
        }
        $solids = array_map(static fn (Mesh $solid): Mesh => FileProof::of($solid, $progress), $solids);
        foreach ($solids as $solid) {
            if (! EdgeCheck::of($solid)->isWatertight()) {
                return null;
            }
        }

        return $solids;
    }

    /**
     * Pairs of faces that cross. Parts that touch with vertices of their own at one place do not.
     *
     * @param  Closure(float): void|null  $progress
     * @return list<array{int, int}>
     */
    public static function pairs(Mesh $mesh, ?Closure $progress = null): array
    {
        return Crossings::of(Places::joined($mesh), progress: $progress, most: self::MOST_PAIRS)->pairs;
    }
}
