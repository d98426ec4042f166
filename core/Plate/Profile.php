<?php

declare(strict_types=1);

namespace Isotome\Plate;

use Isotome\Exception\BadBed;
use Isotome\Fit\BuildSpace;

/** What a printer can do: its space without the margin, its nozzle and its layers. Lengths in mm. */
final readonly class Profile
{
    public function __construct(
        public BuildSpace $space,
        public float $margin,
        public float $spacing,
        public float $nozzle,
        public float $layer,
    ) {
        if (! is_finite($nozzle) || $nozzle < 0.05 || $nozzle > 10.0) {
            throw new BadBed('The nozzle is no width from 0.05 to 10 mm; change it in the printer’s settings.');
        }
        if (! is_finite($layer) || $layer < 0.01 || $layer > $nozzle) {
            throw new BadBed('The layers are no height from 0.01 mm to the width of the nozzle; change them in the printer’s settings.');
        }
    }
}
