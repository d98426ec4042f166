<?php

declare(strict_types=1);

namespace Tests\Reference;

use Demo\Heron;
use Isotome\Format\MeshFile;
use Isotome\Format\StlWriter;
use Isotome\Geometry\Box;
use PHPUnit\Framework\TestCase;
use Tests\Support\Folder;
use Tests\Support\RunsIsotome;

/**
 * A statue that is too large, to the end: plan, cuts, pegs, marks, plates. What lies on the plates is read by lib3mf (npm package @3mfconsortium/lib3mf, the standard's own library) and put to manifold-3d (npm package, E. Lalish and
 * others): closed, within the build space, no two in the same place.
 */
final class ToThePlatesTest extends TestCase
{
    use Folder;
    use RunsIsotome;

    public function test_a_statue_comes_to_lie_on_plates(): void
    {
        StlWriter::write(Heron::mesh(5.0), $this->path('heron.stl'));
        [$code, $said, $error] = $this->isotome('plan', $this->path('heron.stl'), '--bed', '200,200,200', '--gap', '0.3', '--alternatives', '1', '--json');
        self::assertSame(0, $code, $error);
        $plan = json_decode($said, true, flags: JSON_THROW_ON_ERROR)['alternatives'][0];
        $recipe = $plan['recipe'];
        $recipe['steps'][] = ['do' => 'pegs'];
        $recipe['steps'][] = ['do' => 'mark'];
        file_put_contents($this->path('recipe.json'), json_encode($recipe));
        [$code, $said, $error] = $this->isotome('run', $this->path('recipe.json'), $this->path('heron.stl'), '--out', $this->path('pieces'), '--json');
        self::assertSame(0, $code, $error);
        $run = json_decode($said, true, flags: JSON_THROW_ON_ERROR);
        self::assertCount($plan['pieces'], $run['pieces']);
        self::assertSame([true], array_values(array_unique(array_column($run['pieces'], 'watertight'))));
        $pegs = array_merge(...array_column($run['steps'][count($run['steps']) - 2]['faces'], 'pegs'));
        self::assertNotSame([], $pegs);

        $files = array_map(fn (array $piece): string => $this->path("pieces/{$piece['file']}"), $run['pieces']);
        [$code, $said, $error] = $this->isotome('plates', ...[...$files, '--bed', '200,200,200', '--margin', '3', '--spacing', '2', '--out', $this->path('plates'), '--json']);
        self::assertSame(0, $code, $error);
        $plates = json_decode($said, true, flags: JSON_THROW_ON_ERROR)['plates'];
        $pairs = [];
        foreach ($plates as $plate) {
            $file = $this->path("plates/{$plate['file']}");
            [$answer] = json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/read-3mf.mjs '.escapeshellarg($file)), true, flags: JSON_THROW_ON_ERROR);
            self::assertSame(0, $answer['warnings']);
            self::assertCount(count($plate['pieces']), $answer['objects']);
            self::assertSame([true], array_values(array_unique(array_column($answer['objects'], 'closed'))));
            $parts = array_values(MeshFile::read($file)->parts ?: [MeshFile::read($file)->mesh]);
            foreach ($parts as $n => $part) {
                $box = Box::of($part->xyz);
                self::assertGreaterThanOrEqual(3 - 1e-6, min($box->min[0], $box->min[1]));
                self::assertLessThanOrEqual(197 + 1e-6, max($box->max[0], $box->max[1]));
                self::assertEqualsWithDelta(0.0, $box->min[2], 1e-6);
                self::assertLessThanOrEqual(200 + 1e-6, $box->max[2]);
                StlWriter::write($part, $this->path("{$plate['file']}-$n.stl"));
                for ($m = 0; $m < $n; $m++) {
                    $pairs[] = [$this->path("{$plate['file']}-$m.stl"), $this->path("{$plate['file']}-$n.stl")];
                }
            }
        }
        self::assertSame($plan['pieces'], array_sum(array_map(static fn (array $plate): int => count($plate['pieces']), $plates)));
        foreach ($pairs === [] ? [] : json_decode((string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 2)).' && node tests/Support/second-opinion-solid.mjs '.escapeshellarg($this->file('pairs.json', (string) json_encode($pairs)))), true) as $answer) {
            self::assertEqualsWithDelta(0.0, $answer['common']['volume'], 1e-6);
        }
    }
}
