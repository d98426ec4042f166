<?php

declare(strict_types=1);

namespace Isotome\Exception;

/** Whatever the core refuses or cannot do; the message is one sentence: what is wrong, where, what to do. */
interface IsotomeException extends \Throwable
{
}
