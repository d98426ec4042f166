<?php

declare(strict_types=1);

namespace Isotome\Schema;

/** A value as a refusal shows it: as JSON, cut short. */
final class Shown
{
    public static function of(mixed $value): string
    {
        $json = json_encode($value, JSON_PARTIAL_OUTPUT_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE);

        return $value === null ? 'missing' : mb_strimwidth($json === false ? 'unreadable' : $json, 0, 60, '…');
    }
}
