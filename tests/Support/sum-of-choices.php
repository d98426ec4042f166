<?php

declare(strict_types=1);

/**
 * How often 256 are full; see tests/Core/JitTest.php.
 *
 * @param  list<int>  $values
 */
function full(array $values): int
{
    $full = $used = $count = 0;
    foreach ($values as $value) {
        $new = ($value > 5 ? 0 : 1) + ($value > 6 ? 0 : 1) + ($value > 7 ? 0 : 1);
        if ($count === 256 || $used + $new > 256) {
            $full++;
            $used = $count = 0;
            $new = 3;
        }
        if ($new > 0) {
            $used++;
        }
        $count++;
    }

    return $full;
}

mt_srand(1);
echo full(array_map(static fn (): int => mt_rand(0, 1500), range(1, 3000)));
