<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Geometry\Box;
use Isotome\Geometry\ClipToBox;

/**
 * What of a body does not stay after a cut along lines, as an area of the page that is carried along the sight: for a picture of it, before the cut.
 */
final readonly class LostSide
{
    /** How far the area reaches beyond the body, as a share of its size on the page. */
    private const MARGIN = 0.01;

    /**
     * @param  list<float>  $triangles  u and v of three corners each, see Sight
     * @param  float|null  $floor  distance along the sight at which the area ends
     * @param  bool  $isLostBeneath  all that is farther than the floor is lost; else none of it is
     */
    private function __construct(
        public Sight $sight,
        public array $triangles,
        public ?float $floor,
        public bool $isLostBeneath,
    ) {
    }

    /**
     * @param  Space  $space  of the blade without a grain
     * @param  Box  $box  around the body: what lies beyond it on the page is left out
     */
    public static function of(DrawnBlade $blade, Space $space, Box $box): self
    {
        [$low, $high] = $blade->sight->box($box);
        $margin = self::MARGIN * hypot($high[0] - $low[0], $high[1] - $low[1]);
        $triangles = [];
        foreach ($space->page as [$polygon, $side]) {
            if ($side !== 0 && $blade->keeps($side)) {
                continue;
            }
            $polygon = ClipToBox::of($polygon, [$low[0] - $margin, $low[1] - $margin], [$high[0] + $margin, $high[1] + $margin]);
            for ($k = 2, $n = count($polygon); $k < $n; $k++) {
                array_push($triangles, ...$polygon[0], ...$polygon[$k - 1], ...$polygon[$k]);
            }
        }

        return new self($blade->sight, $triangles, $blade->floor(), ! $blade->keeps(1));
    }
}
