<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;
use Isotome\Mesh\Volume;

/**
 * Tells bodies that are nothing: films between two surfaces that lie on each other but for the last digits. Their faces cross as soon as their corners are rounded, and no file could hold them.
 */
final class Film
{
    /** Thickness within the largest coordinate: far above what doubles lose, far below what a file of single numbers keeps. */
    public const THIN = 1e-11;

    /** Of its box, the volume and the least side by its largest coordinate, beyond which a body surely is none. */
    private const SURELY = 1e-6;

    public static function is(Mesh $body): bool
    {
        if ($body->isEmpty()) {
            return true;
        }
        $box = Box::of($body->xyz);
        $size = $box->size();
        $extent = max(array_map(abs(...), [...$box->min, ...$box->max]));
        if (min($size) > self::SURELY * $extent && Volume::roughly($body) > self::SURELY * $size[0] * $size[1] * $size[2]) {
            return false;
        }
        $measured = Volume::measure($body);

        // Both sides of a film count for its area.
        return 2 * $measured->volume <= self::THIN * $extent * $measured->area;
    }

    /**
     * Are all bodies but the largest together no more than a film on it?
     *
     * @param  list<Mesh>  $bodies  that do not overlap
     */
    public static function isAllButOne(array $bodies): bool
    {
        $volumes = array_map(static fn (Mesh $body): float => $body->isEmpty() ? 0.0 : Volume::of($body), $bodies);
        if ($volumes === []) {
            return true;
        }
        $largest = array_keys($volumes, max($volumes), true)[0];
        $box = Box::of($bodies[$largest]->xyz);

        return 2 * (array_sum($volumes) - $volumes[$largest]) <= self::THIN * max(array_map(abs(...), [...$box->min, ...$box->max])) * Volume::measure($bodies[$largest])->area;
    }
}
