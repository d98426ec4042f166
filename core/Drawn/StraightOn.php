<?php

declare(strict_types=1);

namespace Isotome\Drawn;

/** A line carried on straight. */
final class StraightOn
{
    /**
     * @param  array{float, float}  $from
     * @param  array{float, float}  $through  another place
     * @return array{float, float} so far beyond the second
     */
    public static function from(array $from, array $through, float $far): array
    {
        [$u, $v] = [$through[0] - $from[0], $through[1] - $from[1]];
        $times = $far / max(1e-300, hypot($u, $v));

        return [$through[0] + $times * $u, $through[1] + $times * $v];
    }
}
