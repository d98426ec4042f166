<?php

declare(strict_types=1);

namespace Isotome\Solid;

use Closure;

/** Progress of work that may have to be begun anew another way: it never goes back. */
final class SecondTry
{
    private float $reached = 0.0;

    /** @param  Closure(float): void|null  $progress  called with the share done; it may throw to cancel */
    public function __construct(private readonly ?Closure $progress)
    {
    }

    /** @return Closure(float): void|null for the first way */
    public function first(): ?Closure
    {
        $progress = $this->progress;

        return $progress === null ? null : function (float $share) use ($progress): void {
            $this->reached = max($this->reached, $share);
            $progress($share);
        };
    }

    /** @return Closure(float): void|null for the second: what the first one left of it */
    public function second(): ?Closure
    {
        $progress = $this->progress;
        $from = $this->reached;

        return $progress === null ? null : static function (float $share) use ($progress, $from): void {
            $progress($from + (1.0 - $from) * $share);
        };
    }
}
