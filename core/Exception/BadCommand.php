<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** A command line that asks for nothing known. */
final class BadCommand extends Refusal
{
}
