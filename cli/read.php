<?php

declare(strict_types=1);

/*
 * Reads one mesh file and says on standard output, as one JSON document, what is in it, or why it is refused. For the application, which
 * calls it as a process of its own with limits of time and memory. What was read of a large file is put aside under PUT, where its numbers are millimetres whatever
 * the unit is that is chosen later:
 *
 *     php cli/read.php PATH NAME [PUT]
 */

use Isotome\Check\Report;
use Isotome\Exception\Refusal;
use Isotome\Format\MeshFile;
use Isotome\Format\ReadAlready;
use Isotome\Measure\Sketch;
use Isotome\Process\SideBySide;

require __DIR__.'/../vendor/autoload.php';

[$path, $name, $put] = [$argv[1] ?? '', $argv[2] ?? '', $argv[3] ?? ''];
try {
    $read = MeshFile::read($path);
    // One process reports, another puts aside; the smaller work waits for no larger one.
    [['report' => $report]] = SideBySide::all([
        static fn (): array => ['report' => Report::of($read->mesh, $read->collapsed, false)->toArray()],
        static function () use ($read, $put): array {
            $put === '' || ! MeshFile::statesUnit($read) || ! ReadAlready::isWorth($read) || ReadAlready::write($read, $put);

            return ['report' => []];
        },
    ], [$read->mesh->triangleCount(), $read->mesh->triangleCount()]);
    $said = ['report' => [
        'format' => $read->format, 'states_unit' => MeshFile::statesUnit($read), 'collapsed' => $read->collapsed, 'parts' => count($read->parts), 'carries' => $read->mesh->skin?->words() ?? [],
        'left_out' => $read->leftOut, 'sketch' => base64_encode(Sketch::of($read->mesh)), ...$report,
    ]];
} catch (Refusal $refusal) {
    $said = ['refusal' => str_replace(basename($path), $name, $refusal->getMessage())];
}
ini_set('serialize_precision', '-1');
echo json_encode($said, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_INVALID_UTF8_SUBSTITUTE);
