<?php

declare(strict_types=1);

/*
 * Reads one mesh file and says on standard output, as one JSON document, what is in it, or why it is refused. For the application, which
 * calls it as a process of its own with limits of time and memory:
 *
 *     php cli/read.php PATH NAME
 */

use Isotome\Check\Report;
use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use Isotome\Measure\Sketch;

require __DIR__.'/../vendor/autoload.php';

[$path, $name] = [$argv[1] ?? '', $argv[2] ?? ''];
try {
    $read = MeshFile::read($path);
    $said = ['report' => ['format' => $read->format, 'states_unit' => MeshFile::statesUnit($read), 'collapsed' => $read->collapsed, 'parts' => count($read->parts), 'carries' => $read->mesh->skin?->words() ?? [], 'left_out' => $read->leftOut, 'sketch' => base64_encode(Sketch::of($read->mesh)), ...Report::of($read->mesh, $read->collapsed, false)->toArray()]];
} catch (Refusal $refusal) {
    $said = ['refusal' => str_replace(basename($path), $name, $refusal->getMessage())];
}
ini_set('serialize_precision', '-1');
echo json_encode($said, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_INVALID_UTF8_SUBSTITUTE);
