<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Fit\BuildSpace;
use Isotome\Geometry\Affine;
use Isotome\Geometry\Box;
use Isotome\Mesh\Mesh;

/** What is wrong with pieces as they lie on a plate: which are nearer to each other than the spacing, as seen from above, which overlap, and which reach beyond the bed. */
final readonly class Crowding
{
    /** What may be missing of a distance, mm: rounding. */
    private const ROUNDING = 1e-6;

    /**
     * @param  list<array{int, int, float, array{float, float}}>  $near  numbers of two pieces, how far apart they are, mm, 0 when they touch or overlap, and a place between them
     * @param  list<array{int, float}>  $beyond  number of a piece, and by how many mm it reaches beyond the space
     * @param  list<array{float, float, float, float}>  $boxes  around each as seen from above: from x, from y, to x, to y
     */
    private function __construct(
        public array $near,
        public array $beyond,
        public array $boxes,
    ) {
    }

    public function isFine(): bool
    {
        return $this->near === [] && $this->beyond === [];
    }

    /**
     * @param  list<array{Mesh, list<float>}>  $pieces  closed, and the map of 12 numbers to where they lie on the whole bed, whose corner is the origin
     * @param  BuildSpace  $space  without the margin
     * @param  float  $margin  mm
     * @param  float  $spacing  mm
     */
    public static function of(array $pieces, BuildSpace $space, float $margin, float $spacing): self
    {
        $contours = $beyond = [];
        foreach ($pieces as $n => [$mesh, $map]) {
            $laid = Mesh::of(array_values(Affine::points($mesh->xyz, $map)), $mesh->corners);
            $contours[] = Contour::of($laid);
            $by = self::beyond(Box::of($laid->xyz), $contours[$n], $space, $margin);
            if ($by > self::ROUNDING) {
                $beyond[] = [$n, $by];
            }
        }
        $near = [];
        foreach ($contours as $n => $one) {
            for ($m = $n + 1, $count = count($contours); $m < $count; $m++) {
                $found = $one->near($contours[$m], max(self::ROUNDING, $spacing - self::ROUNDING));
                if ($found !== null) {
                    $near[] = [$n, $m, $found[0], [$found[1], $found[2]]];
                }
            }
        }

        return new self($near, $beyond, array_map(static fn (Contour $one): array => $one->box, $contours));
    }

    private static function beyond(Box $box, Contour $contour, BuildSpace $space, float $margin): float
    {
        $upright = max(-$box->min[2], $box->max[2] - $space->z);
        if ($space->isRound) {
            $middle = $margin + $space->x / 2;

            return max($upright, $contour->reachFrom($middle, $middle) - $space->x / 2);
        }

        return max($upright, $margin - $box->min[0], $margin - $box->min[1], $box->max[0] - $margin - $space->x, $box->max[1] - $margin - $space->y);
    }
}
