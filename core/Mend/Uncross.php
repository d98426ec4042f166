<?php

declare(strict_types=1);

namespace Isotome\Mend;

use Closure;
use Isotome\Check\Crossings;
use Isotome\Exception\BadMesh;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Places;
use Isotome\Mesh\Together;
use Isotome\Solid\Combined;

/**
 * Makes solids of closed bodies whose own faces cross: what they wind around once or more often is material (Isotome\Solid\Combined). Bodies that cross each other only
 * stay as they are, each for itself.
 *
 * Guarantees: a mesh without such a body comes back as it is; bodies that do not cross themselves keep every vertex and every triangle.
 */
final class Uncross
{
    /**
     * @param  Mesh  $mesh  watertight
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return array{mesh: Mesh, bodies: int} and how many bodies were made solid
     */
    public static function of(Mesh $mesh, ?Closure $progress = null): array
    {
        $pairs = self::pairs($mesh, $progress);
        if ($pairs === []) {
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
        $count = 0;
        foreach ($bodies as $b => $body) {
            $solids = isset($crossed[$b]) ? self::solids($body) : [];
            $isSolid = $solids !== [] && array_filter($solids, static fn (Mesh $solid): bool => ! EdgeCheck::of($solid)->isWatertight()) === [];
            array_push($made, ...($isSolid ? $solids : [$body]));
            $count += $isSolid ? 1 : 0;
        }
        if ($count === 0) {
            return ['mesh' => $mesh, 'bodies' => 0];
        }
        $whole = Together::of($made);

        return ['mesh' => Mesh::of($whole->xyz, $whole->corners, array_map(static fn (int $t): int => $mesh->tags[$t], $whole->tags)), 'bodies' => $count];
    }

    /** @return list<Mesh> none when that is too much to be worked out */
    private static function solids(Mesh $body): array
    {
        try {
            return array_column(Combined::unite([$body]), 0);
        } catch (BadMesh) {
            return [];
        }
    }

    /**
     * Pairs of faces that cross. Parts that touch with vertices of their own at one place do not.
     *
     * @param  Closure(float): void|null  $progress
     * @return list<array{int, int}>
     */
    public static function pairs(Mesh $mesh, ?Closure $progress = null): array
    {
        return Crossings::of(Places::joined($mesh), progress: $progress)->pairs;
    }
}
