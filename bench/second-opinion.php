<?php

declare(strict_types=1);

// Operations on solids beside the npm package manifold-3d, 144 a round: php bench/second-opinion.php ROUNDS [seed]. Prints what differs; exit code 1 if anything.

use Tests\Support\SecondOpinion;

require __DIR__.'/../vendor/autoload.php';

$folder = sys_get_temp_dir().'/isotome-opinion-'.getmypid();
mkdir($folder, 0700);
$compared = $different = 0;
for ($n = 0; $n < (int) ($argv[1] ?? 4); $n++) {
    $round = SecondOpinion::round((int) ($argv[2] ?? 1) + $n, $folder);
    $compared += $round['compared'];
    $different += count($round['differences']);
    foreach ($round['differences'] as $difference) {
        echo 'seed '.((int) ($argv[2] ?? 1) + $n).": $difference\n";
    }
}
array_map(unlink(...), glob("$folder/*") ?: []);
rmdir($folder);
echo "$compared operations compared, $different differences.\n";
exit($different > 0 || $compared === 0 ? 1 : 0);
