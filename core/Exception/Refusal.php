<?php

declare(strict_types=1);

namespace Isotome\Exception;

use RuntimeException;

/** Bad input of any kind: nothing was changed, and the message says what to do about it. */
abstract class Refusal extends RuntimeException implements IsotomeException
{
}
