<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** A printer's space that holds nothing, or one into which pieces cannot be brought. */
final class BadBed extends Refusal
{
}
