<?php

declare(strict_types=1);

require __DIR__.'/../vendor/autoload.php';

exit(Cli\Program::main(array_values(array_filter((array) ($_SERVER['argv'] ?? []), is_string(...)))));
