<?php

declare(strict_types=1);

namespace Isotome\Exception;

use LogicException;

/** An operation would have returned a worse body than it was given: an error of the program, never of the person. */
final class BrokenPromise extends LogicException implements IsotomeException
{
}
