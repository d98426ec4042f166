<?php

declare(strict_types=1);

namespace Isotome\Mirror;

use Isotome\Exception\BadBlade;
use Isotome\Geometry\Plane;

/** Everything that decides what a mirror does. */
final readonly class MirrorSettings
{
    /**
     * @param  list<Plane>  $planes  one to three, mirrored over one after the other
     * @param  bool  $keepsAhead  the side that is kept: ahead of each plane, or behind it
     * @param  bool  $cuts  the other side is cut off first; else the whole is mirrored
     * @param  float  $catch  mm: vertices this near to the plane are taken onto it, rims of open meshes too
     * @param  float  $smooth  degrees: kinks along the seam below this are smoothed; 0 for none
     */
    public function __construct(
        public array $planes,
        public bool $keepsAhead = false,
        public bool $cuts = true,
        public float $catch = 0.0,
        public Gives $gives = Gives::One,
        public Band $band = Band::None,
        public float $smooth = 0.0,
    ) {
        if ($planes === [] || count($planes) > 3) {
            throw new BadBlade('The mirror has '.count($planes).' planes; give one to three.');
        }
        if ($catch < 0.0 || $smooth < 0.0 || $smooth > 180.0) {
            throw new BadBlade("The mirror catches within $catch mm and smooths below {$smooth}°; give 0 or more, and at most 180°.");
        }
    }
}
