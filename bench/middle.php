<?php

declare(strict_types=1);

/** Seconds that some work takes: the middle of several runs. */
return static function (Closure $work, int $runs = 7): float {
    $times = [];
    for ($n = 0; $n < $runs; $n++) {
        $start = hrtime(true);
        $result = $work();
        $times[] = (hrtime(true) - $start) / 1e9;
        unset($result);
    }
    sort($times);

    return $times[intdiv($runs, 2)];
};
