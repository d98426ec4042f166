<?php

declare(strict_types=1);

namespace Isotome\Drawn;

use Closure;
use Isotome\Exception\BadBlade;
use Isotome\Mesh\Mesh;

/** A blade that divides the space around a body into convex cells. */
interface Dividing
{
    /**
     * @param  int  $attempt  from 0: another one moves it by a ten-millionth of the body, where rounding did not close
     * @param  Closure(float): mixed|null  $progress  called with the share done; it may throw to cancel
     *
     * @throws BadBlade
     */
    public function space(Mesh $body, int $attempt = 0, ?Closure $progress = null): Space;

    /** Does a side stay: 1 ahead, −1 behind? */
    public function keeps(int $side): bool;

    /** @param  array{float, float, float}  $by  mm */
    public function movedBy(array $by): self;
}
