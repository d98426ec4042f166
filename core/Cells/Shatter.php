<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Closure;
use Isotome\Cut\Outcome;
use Isotome\Cut\Seal;
use Isotome\Exception\BadMesh;
use Isotome\Exception\BrokenPromise;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\EdgeCheck;
use Isotome\Mesh\LargestFirst;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\NearOrigin;
use Isotome\Mesh\Together;
use Isotome\Mesh\Volume;

/**
 * Cuts a body into shards with a cells blade.
 *
 * Guarantees: from a watertight body, sealed, every shard is watertight; neighbours have the same vertices and triangles (turned over) on the
 * face between them; nothing is lost but the kerf; the same settings give the same bytes. Shards come in the order of their cells, and
 * within a cell the largest first.
 */
final class Shatter
{
    private const ATTEMPTS = 4;

    private const ROUNDS = 6;

    /**
     * @param  int  $tag  surface tag of the new faces
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return Outcome|null null when one cell holds the whole body
     *
     * @throws BadMesh when the body has open edges and is to be sealed
     */
    public static function of(Mesh $mesh, CellsBlade $blade, ShatterSettings $settings, int $tag, ?Closure $progress = null): ?Outcome
    {
        $near = NearOrigin::of($mesh);
        if ($near !== null) {
            $outcome = self::of($near->there($mesh), $blade->movedBy([-$near->by[0], -$near->by[1], -$near->by[2]]), $settings, $tag, $progress);

            return $outcome === null ? null : new Outcome(array_map($near->back(...), $outcome->bodies), $outcome->unclosed, $outcome->sound);
        }
        if ($settings->wall > 0.0) {
            $mesh = Hollow::of($mesh, $settings->wall, $tag);
        }
        if ($settings->seal !== Seal::Open) {
            self::refuseOpen($mesh);
        }
        $bodies = Bodies::of($mesh);
        $least = $settings->smallest * abs(Volume::of($mesh));
        $shards = [];
        $sound = true;
        $met = count($bodies) > 1 && $settings->wall > 0.0;
        /** @var array<int, list<Mesh>> $byCell */
        $byCell = [];
        $rough = [];
        foreach ($bodies as $n => $body) {
            $step = static fn (float $share) => $progress !== null ? $progress(($n + $share) / count($bodies)) : null;
            [$parts, $isSound] = self::divided($body, $mesh, $blade, $settings, $tag, $step, $rough);
            $sound = $sound && $isSound;
            $met = $met || count($parts) > 1;
            foreach ($parts as $cell => $part) {
                $byCell[$cell][] = $part;
            }
        }
        if (! $met && ($byCell === [] || count($byCell) === 1)) {
            return null;
        }
        ksort($byCell);
        foreach ($byCell as $parts) {
            if (! $settings->apart) {
                $shards[] = Together::of($parts);

                continue;
            }
            $own = [];
            foreach ($parts as $part) {
                array_push($own, ...Bodies::of($part));
            }
            array_push($shards, ...LargestFirst::of($own));
        }
        if ($least > 0.0 && $settings->kerf <= 0.0 && $settings->seal !== Seal::Open) {
            $shards = JoinSmall::of($shards, $least, $tag);
        }
        $progress !== null && $progress(1.0);

        return count($shards) < 2 && $settings->wall <= 0.0 && $settings->kerf <= 0.0 ? null : new Outcome($shards, [], $sound);
    }

    /** @throws BadMesh */
    public static function refuseOpen(Mesh $mesh): void
    {
        $edges = EdgeCheck::of($mesh);
        if (! $edges->isWatertight()) {
            throw new BadMesh(sprintf(
                'The piece has %d edges that are open or shared wrongly, so its shards cannot be sealed; mend it first, give it a wall, or leave the shards open.',
                $edges->openEdges + $edges->nonmanifoldEdges + $edges->flippedEdges,
            ));
        }
    }

    /**
     * @param  Closure(float): mixed  $progress
     * @param  array<int, Complex>  $rough  rough walls of each attempt, the same for all bodies of the piece
     * @return array{array<int, Mesh>, bool}
     */
    private static function divided(Mesh $body, Mesh $whole, CellsBlade $blade, ShatterSettings $settings, int $tag, Closure $progress, array &$rough): array
    {
        $edge = $settings->seal === Seal::Even ? $settings->edge ?? self::meanEdge($body) : null;
        $standIn = StandIn::of($whole);
        $joins = $settings->kerf > 0.0 && $settings->smallest > 0.0;
        $least = $joins ? $settings->smallest * abs(Volume::of($whole)) : 0.0;
        $without = $joins && $blade->hasSites() ? self::tooSmall($body, $whole, $blade, $least) : [];
        for ($attempt = 0; ; $attempt++) {
            $progress(0.05);
            try {
                $space = $blade->within($standIn, $attempt, $without);
                $progress(0.15);
                if ($joins && ! $blade->hasSites()) {
                    [$volumes, $areas] = ShardMeasures::of(Overlay::of($body, $space));
                    $space = JoinCells::of($space, $blade, $volumes, $areas, $least);
                }
                $complex = match (true) {
                    $settings->grain !== null => $space = $rough[$attempt] ??= RoughWalls::of($space, $settings->grain, $standIn->box, $settings->kerf, progress: static fn (float $share) => $progress(0.15 + 0.25 * $share)),
                    $settings->kerf > 0.0 => Kerf::of($space, $settings->kerf),
                    default => $space,
                };
                $overlay = Overlay::of($body, $complex, $space, $settings->kerf / 2, $edge, $settings->seal === Seal::Open);
                $progress(0.6);
                [$parts, $unsound] = Shards::of($body, $complex, $overlay, $tag, $settings->seal !== Seal::Open, $edge);
            } catch (BrokenPromise $broken) {
                if ($attempt + 1 >= self::ATTEMPTS) {
                    throw $broken;
                }

                continue;
            }
            // A list of points may lie so that cells end exactly in a face: a hair to the side they do not.
            if ($unsound > 0 && $attempt === 0 && $blade->by === 'points') {
                continue;
            }

            return [$parts, $unsound === 0];
        }
    }

    /**
     * With a kerf there is no common face to sew along: points whose shard is too small are left out, and their neighbours take its place.
     *
     * @return array<int, true> by number
     */
    private static function tooSmall(Mesh $body, Mesh $whole, CellsBlade $blade, float $least): array
    {
        $count = intdiv(count($blade->sites(StandIn::of($whole))), 3);
        $number = range(0, $count - 1);
        $without = [];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $space = $blade->complex($whole, 0, $without);
            [$volumes] = ShardMeasures::of(Overlay::of($body, $space));
            $small = [];
            foreach ($volumes as $cell => $volume) {
                if ($volume < $least) {
                    $small[$number[$cell]] = true;
                }
            }
            if ($small === [] || count($without) + count($small) > $count - 2) {
                break;
            }
            $without += $small;
            $number = array_values(array_filter($number, static fn (int $n): bool => ! isset($without[$n])));
        }

        return $without;
    }

    private static function meanEdge(Mesh $mesh): float
    {
        return sqrt(Volume::measure($mesh)->area / max(1, $mesh->triangleCount()) * 4 / sqrt(3));
    }
}
