<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Cells\Grain;
use Isotome\Cut\KerfSide;
use Isotome\Cut\Outcome;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/** Cuts a body with several rough blades that do not meet, each with a surface of its own. Guarantees all that DrawnCut guarantees, for every cut. */
final class RoughSeriesCut
{
    /**
     * @param  Mesh  $mesh  closed
     * @param  list<Plane>  $planes  from behind to ahead
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return Outcome|null null when every blade misses
     */
    public static function of(Mesh $mesh, array $planes, Grain $grain, float $kerf, KerfSide $side, int $tag, ?Closure $progress = null): ?Outcome
    {
        $bodies = [$mesh];
        $isCut = false;
        $sound = true;
        foreach ($planes as $k => $plane) {
            $blade = new RoughBlade($plane, $grain->again($k), $kerf, $side);
            $next = [];
            foreach ($bodies as $body) {
                $outcome = DrawnCut::of($body, $blade, $tag);
                $isCut = $isCut || $outcome !== null;
                $sound = $sound && ($outcome->sound ?? true);
                array_push($next, ...($outcome->bodies ?? [$body]));
            }
            $bodies = $next;
            $progress === null ?: $progress(($k + 1) / count($planes));
        }

        return $isCut ? new Outcome($bodies, [], $sound) : null;
    }
}
