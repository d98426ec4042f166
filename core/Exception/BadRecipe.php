<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** A recipe with an unknown or wrong part; the message names its place in the document. */
final class BadRecipe extends Refusal
{
}
