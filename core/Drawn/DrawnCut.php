<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Cells\Overlay;
use Isotome\Cells\Shards;
use Isotome\Cut\Outcome;
use Isotome\Exception\BadBlade;
use Isotome\Exception\BrokenPromise;
use Isotome\Mesh\Bodies;
use Isotome\Mesh\LargestFirst;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\NearOrigin;

/**
 * Cuts a body along what was drawn across the view, or with another blade that divides space.
 *
 * Guarantees: from a watertight body every piece is watertight; without a kerf, neighbours have the same triangles (turned over) where they part; nothing is lost but the kerf. Where a line ends
 * within the body it parts nothing and leaves no trace.
 */
final class DrawnCut
{
    private const ATTEMPTS = 4;

    /**
     * @param  Mesh  $mesh  closed, unless it is a sheet
     * @param  int  $tag  surface tag of the new faces
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @param  bool  $isSheet  an open surface, which is divided and nothing closed
     * @return Outcome|null null when nothing is cut
     *
     * @throws BadBlade when nothing of it would be left
     */
    public static function of(Mesh $mesh, Dividing $blade, int $tag, ?Closure $progress = null, bool $isSheet = false): ?Outcome
    {
        $near = NearOrigin::of($mesh);
        if ($near !== null) {
            $outcome = self::of($near->there($mesh), $blade->movedBy([-$near->by[0], -$near->by[1], -$near->by[2]]), $tag, $progress, $isSheet);

            return $outcome === null ? null : new Outcome(array_map($near->back(...), $outcome->bodies), $outcome->unclosed, $outcome->sound);
        }
        $made = [];
        $isCut = false;
        $sound = true;
        $bodies = Bodies::of($mesh);
        foreach ($bodies as $n => $body) {
            [$parts, $isSound] = self::divided($body, $blade, $tag, static fn (float $share) => $progress === null ? null : $progress(($n + $share) / count($bodies)), $isSheet);
            $sound = $sound && $isSound;
            $own = [];
            foreach ($parts as [$side, $part]) {
                foreach (Bodies::of($part) as $one) {
                    $own[] = [$side, $one];
                }
            }
            $isCut = $isCut || count($own) > 1 || ($own[0][0] ?? 0) === 0;
            array_push($made, ...$own);
        }
        // Bodies that lie on different sides part as well.
        if (! $isCut && count(array_unique(array_column($made, 0))) < 2) {
            return null;
        }
        $kept = [];
        foreach ([-1, 1] as $side) {
            $some = [];
            foreach ($made as [$of, $part]) {
                if ($of === $side && $blade->keeps($side)) {
                    $some[] = $part;
                }
            }
            array_push($kept, ...LargestFirst::of($some, $isSheet));
        }

        if ($kept === []) {
            throw new BadBlade('Nothing would be left of a piece: all of it lies in the kerf or on the side that does not stay; make the kerf smaller, or keep the other side or both.');
        }

        return new Outcome($kept, [], $sound);
    }

    /**
     * @param  Closure(float): mixed  $progress
     * @return array{list<array{int, Mesh}>, bool} sides and parts, and whether outlines did not cross
     */
    private static function divided(Mesh $body, Dividing $blade, int $tag, Closure $progress, bool $isSheet): array
    {
        for ($attempt = 0; ; $attempt++) {
            $progress(0.05);
            try {
                $space = $blade->space($body, $attempt, static fn (float $share) => $progress(0.05 + 0.25 * $share));
                $overlay = Overlay::of($body, $space->complex, isSkinOnly: $isSheet);
                $progress(0.6);
                [$parts, $unsound] = Shards::of($body, $space->complex, $overlay, $tag, ! $isSheet);
            } catch (BrokenPromise $broken) {
                if ($attempt + 1 >= self::ATTEMPTS) {
                    throw $broken;
                }

                continue;
            }
            if ($unsound > 0 && $attempt + 1 < self::ATTEMPTS) {
                continue;
            }
            $progress(1.0);
            $made = [];
            foreach ($parts as $shard => $part) {
                $made[] = [$space->sides[$shard], $part];
            }

            return [$made, $unsound === 0];
        }
    }
}
