<?php

declare(strict_types=1);

namespace Isotome\Cells;

use Closure;
use Isotome\Cut\FlatBlade;
use Isotome\Cut\FlatCut;
use Isotome\Cut\Outcome;
use Isotome\Cut\Wander;
use Isotome\Exception\BadBlade;
use Isotome\Geometry\Box;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Together;
use Isotome\Mesh\Volume;

/**
 * A quick irregular division: in every round each piece is cut in two through the middle of its own box, along one direction after the other.
 *
 * All that FlatCut guarantees. What is on one side of a cut stays one piece when bodies are not to be apart. A cut that would leave a piece smaller than the smallest is not made.
 */
final class Chop
{
    public const MOST_ROUNDS = 12;

    /**
     * @param  list<array{float, float, float}>  $along  directions, one a round
     * @param  float  $shift  share of the piece's extent, 0 to 0.4, by which a cut leaves the middle by chance
     * @param  float  $tilt  degrees by which it leans by chance, 0 to 45
     * @param  int  $tag  surface tag of the cut faces
     * @param  Closure(float): void|null  $progress
     */
    public static function of(Mesh $mesh, int $rounds, array $along, float $shift, float $tilt, int $seed, ShatterSettings $settings, int $tag, ?Closure $progress = null): ?Outcome
    {
        if ($rounds < 1 || $rounds > self::MOST_ROUNDS || $along === [] || $shift > 0.4) {
            throw new BadBlade("The chop has $rounds rounds and a shift of $shift; give 1 to ".self::MOST_ROUNDS.' rounds, a direction, and a shift of 0 to 0.4.');
        }
        if ($settings->wall > 0.0) {
            $mesh = Hollow::of($mesh, $settings->wall, $tag);
        }
        $least = $settings->smallest * abs(Volume::of($mesh));
        $pieces = [$mesh];
        $unclosed = [];
        $sound = true;
        $cuts = 0;
        for ($round = 0; $round < $rounds; $round++) {
            $next = [];
            foreach ($pieces as $n => $piece) {
                $outcome = self::halved($piece, $along[$round % count($along)], new Wander($shift, $tilt, $seed + 7919 * $round + 104_729 * $n), $settings, $tag);
                if ($outcome === null || ($least > 0.0 && self::smallest($outcome) < $least)) {
                    $next[] = $piece;

                    continue;
                }
                $cuts++;
                $unclosed = [...$unclosed, ...$outcome->unclosed];
                $sound = $sound && $outcome->sound;
                foreach ($outcome->bodies as $body) {
                    $next[] = $body;
                }
            }
            $pieces = $next;
            $progress !== null && $progress(($round + 1) / $rounds);
        }

        return $cuts === 0 ? null : new Outcome($pieces, $unclosed, $sound);
    }

    private static function smallest(Outcome $outcome): float
    {
        $smallest = INF;
        foreach ($outcome->bodies as $body) {
            $smallest = min($smallest, Volume::of($body));
        }

        return $smallest;
    }

    /** @param  array{float, float, float}  $facing */
    private static function halved(Mesh $piece, array $facing, Wander $wander, ShatterSettings $settings, int $tag): ?Outcome
    {
        $box = Box::of($piece->xyz);
        $middle = [($box->min[0] + $box->max[0]) / 2, ($box->min[1] + $box->max[1]) / 2, ($box->min[2] + $box->max[2]) / 2];
        $planes = $wander->overBox([Plane::through($middle, $facing)], $box->min, $box->max);

        $outcome = FlatCut::of($piece, new FlatBlade($planes[0], seal: $settings->seal, kerf: $settings->kerf, edge: $settings->edge), $tag);
        if ($outcome === null || $settings->apart) {
            return $outcome;
        }
        $sides = [];
        foreach ($outcome->bodies as $body) {
            $sides[self::isAhead($body, $planes[0]) ? 1 : 0][] = $body;
        }
        ksort($sides);

        return new Outcome(array_map(Together::of(...), array_values($sides)), $outcome->unclosed, $outcome->sound);
    }

    /** A body lies on one side, but for faces in the plane: its farthest vertex tells. */
    private static function isAhead(Mesh $body, Plane $plane): bool
    {
        $low = $high = 0.0;
        for ($i = 0, $count = count($body->xyz); $i < $count; $i += 3) {
            $d = $plane->nx * $body->xyz[$i] + $plane->ny * $body->xyz[$i + 1] + $plane->nz * $body->xyz[$i + 2] - $plane->offset;
            $low = min($low, $d);
            $high = max($high, $d);
        }

        return $high > -$low;
    }
}
