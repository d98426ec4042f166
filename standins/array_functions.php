<?php

declare(strict_types=1);

// PHP 8.5's array_first and array_last, which the framework's query builder calls.

if (! function_exists('array_first')) {
    /** @param array<mixed> $array */
    function array_first(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_first($array)];
    }
}

if (! function_exists('array_last')) {
    /** @param array<mixed> $array */
    function array_last(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_last($array)];
    }
}
