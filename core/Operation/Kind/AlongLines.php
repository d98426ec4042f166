<?php

declare(strict_types=1);

namespace Isotome\Operation\Kind;

use Isotome\Drawn\DrawnBlade;

/** A step that goes along lines: it can be foreseen by them. */
interface AlongLines
{
    public function drawn(): DrawnBlade;
}
