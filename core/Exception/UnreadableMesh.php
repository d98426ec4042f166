<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** A mesh file that is damaged, empty, or not what it says it is. */
final class UnreadableMesh extends Refusal
{
}
