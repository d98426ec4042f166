<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Isotome\Exception\BadBlade;
use Isotome\Mesh\Mesh;

/** A blade that divides the space around a body into convex cells. */
interface Dividing
{
    /**
     * @param  int  $attempt  from 0: another one moves it by a ten-millionth of the body, where rounding did not close
     *
     * @throws BadBlade
     */
    public function space(Mesh $body, int $attempt = 0): Space;

    /** Does a side stay: 1 ahead, −1 behind? */
    public function keeps(int $side): bool;

    /** @param  array{float, float, float}  $by  mm */
    public function movedBy(array $by): self;
}
