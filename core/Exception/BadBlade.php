<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** A blade that has no direction, lies at no place, or cuts nothing. */
final class BadBlade extends Refusal
{
}
