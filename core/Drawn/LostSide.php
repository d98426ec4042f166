<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/**
 * What of a body does not stay after a cut along lines, as an area of the page that is carried along the sight: for a picture of it, before the cut.
 */
final readonly class LostSide
{
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

    /** @param  Space  $space  of the blade without a grain */
    public static function of(DrawnBlade $blade, Space $space): self
    {
        $triangles = [];
        foreach ($space->page as [$polygon, $side]) {
            if ($side !== 0 && $blade->keeps($side)) {
                continue;
            }
            for ($k = 2, $n = count($polygon); $k < $n; $k++) {
                array_push($triangles, ...$polygon[0], ...$polygon[$k - 1], ...$polygon[$k]);
            }
        }

        return new self($blade->sight, $triangles, $blade->floor(), ! $blade->keeps(1));
    }
}
