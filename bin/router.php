<?php

declare(strict_types=1);

// For PHP's own web server: files of the public folder as they are, everything else to the application.
$path = parse_url((string) ($_SERVER['REQUEST_URI'] ?? '/'), PHP_URL_PATH);
$file = realpath(__DIR__.'/../public'.rawurldecode(is_string($path) ? $path : '/'));
$public = (string) realpath(__DIR__.'/../public');

if ($file !== false && is_file($file) && str_starts_with($file, $public.'/') && ! str_ends_with($file, '.php')) {
    return false;
}
$_SERVER['SCRIPT_NAME'] = '/index.php';
require __DIR__.'/../public/index.php';
