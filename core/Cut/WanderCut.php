<?php

declare(strict_types=1);

namespace Isotome\Cut;

use Closure;
use Isotome\Geometry\Plane;
use Isotome\Mesh\Mesh;

/**
 * Cuts a mesh with blades that are not quite parallel, one after the other: what is ahead of one blade goes on to the next, so
 * blades that cross inside the body leave one slab more than there are blades, never a checkerboard.
 *
 * Guarantees all that FlatCut guarantees, for every cut.
 */
final class WanderCut
{
    /**
     * @param  list<Plane>  $planes  from behind to ahead
     * @param  FlatBlade  $settings  its plane is not used; both sides are kept
     * @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel
     * @return Outcome|null null when every plane misses
     */
    public static function of(Mesh $mesh, array $planes, FlatBlade $settings, int $tag, ?Closure $progress = null): ?Outcome
    {
        $rest = [$mesh];
        $bodies = $unclosed = [];
        $sound = true;
        $met = 0;
        foreach ($planes as $k => $plane) {
            $next = [];
            foreach ($rest as $body) {
                $outcome = FlatCut::of($body, $settings->on($plane), $tag);
                if ($outcome !== null) {
                    $met++;
                    array_push($unclosed, ...$outcome->unclosed);
                    $sound = $sound && $outcome->sound;
                }
                foreach ($outcome->bodies ?? [$body] as $part) {
                    if (self::isAhead($part, $plane)) {
                        $next[] = $part;
                    } else {
                        $bodies[] = $part;
                    }
                }
            }
            $rest = $next;
            $progress !== null && $progress(($k + 1) / count($planes));
        }

        return $met === 0 ? null : new Outcome([...$bodies, ...$rest], $unclosed, $sound);
    }

    /** Of a body that lies on one side: by its vertex farthest from the plane. */
    private static function isAhead(Mesh $body, Plane $plane): bool
    {
        [$nx, $ny, $nz] = $plane->facing();
        $farthest = 0.0;
        $xyz = $body->xyz;
        for ($i = 0, $count = count($xyz); $i < $count; $i += 3) {
            $d = $nx * $xyz[$i] + $ny * $xyz[$i + 1] + $nz * $xyz[$i + 2] - $plane->offset;
            if (abs($d) > abs($farthest)) {
                $farthest = $d;
            }
        }

        return $farthest > 0.0;
    }
}
